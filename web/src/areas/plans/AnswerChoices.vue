<script setup lang="ts">
import { type Answer, mostAnswers, mostPhrases, plainWords } from '@night-bell/core/plan/phrases';
import TakeOut from '../../kit/TakeOut.vue';

/** The answers to a question: what each is called, and the phrases by which it is known, one a line. */
defineProps<{ readonly: boolean }>();
const answers = defineModel<readonly Answer[]>({ required: true });

/** A name no answer of the step has yet. */
function freeId(): string {
  let number = answers.value.length + 1;
  while (answers.value.some(({ id }) => id === `a${number}`)) number++;
  return `a${number}`;
}
const add = () => (answers.value = [...answers.value, { id: freeId(), name: '', phrases: [] }]);
const change = (index: number, by: Partial<Answer>) =>
  (answers.value = answers.value.map((each, i) => (i === index ? { ...each, ...by } : each)));
const drop = (index: number) => (answers.value = answers.value.filter((_, i) => i !== index));
const typed = (event: Event) => (event.target as HTMLInputElement).value;

/** Lines of a paste as phrases: without what has no word in it, and each once. */
function phrasesIn(text: string): string[] {
  const seen = new Map<string, string>();
  for (const line of text.split(/\r?\n|,|;/)) {
    const plain = plainWords(line).join(' ');
    if (plain !== '' && !seen.has(plain)) seen.set(plain, line.trim());
  }
  return [...seen.values()].slice(0, mostPhrases);
}
</script>

<template>
  <ul>
    <li v-for="(each, index) in answers" :key="each.id">
      <input
        :value="each.name"
        :aria-label="`What answer ${index + 1} is called`"
        placeholder="called"
        maxlength="60"
        :readonly="readonly"
        @change="change(index, { name: typed($event) })"
      />
      <TakeOut
        v-if="!readonly"
        :what="`Take ${each.name || `answer ${index + 1}`} out`"
        @click="drop(index)"
      />
      <textarea
        :value="each.phrases.join('\n')"
        :aria-label="`Phrases of ${each.name || `answer ${index + 1}`}`"
        placeholder="phrases, one a line"
        :rows="Math.max(2, each.phrases.length)"
        :readonly="readonly"
        @change="change(index, { phrases: phrasesIn(typed($event)) })"
      ></textarea>
    </li>
  </ul>
  <p class="second small">
    The longest phrase that stands whole in what is said decides; capitals, accents and signs do not matter.
  </p>
  <button v-if="!readonly && answers.length < mostAnswers" type="button" class="link" @click="add">
    Add an answer
  </button>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 16px;
  gap: 2px 8px;
  margin-bottom: 8px;
}
input,
textarea {
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: var(--ink);
  min-width: 0;
  padding: 0 2px;
  font: inherit;
}
input {
  height: 26px;
  font-weight: 600;
}
textarea {
  grid-column: 1;
  resize: vertical;
  line-height: 20px;
}
.link {
  border: 0;
  background: none;
  color: var(--brass);
  cursor: pointer;
  padding: 2px 0;
}
</style>
