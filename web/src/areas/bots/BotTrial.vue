<script setup lang="ts">
import { nextTick, ref } from 'vue';
import type { BotView } from '@night-bell/core/contracts/bots';
import type { BotAnswer, BotFault } from '@night-bell/core/model/bots';
import { sentenceOf } from '../../api/client.ts';
import { send } from '../../api/items.ts';
import { faultWords, thenWords } from './words.ts';

/** Talks with the bot as a caller would, a turn at a time. */
const props = defineProps<{ bot: BotView }>();
type Line = { said: string } | { answer: BotAnswer } | { fault: string };
const lines = ref<Line[]>([]);
const words = ref('');
const busy = ref(false);
const field = ref<HTMLInputElement | null>(null);

/** What the call would bring to the next turn: how many there were, and what was found in them. */
function soFar() {
  const answers = lines.value.flatMap((line) => ('answer' in line ? [line.answer] : []));
  return {
    turn: answers.length + 1,
    facts: Object.assign({}, ...answers.map(({ facts }) => facts)) as Record<string, string>,
    language: answers.findLast(({ language }) => language !== null)?.language ?? null,
  };
}

async function say(said: string): Promise<void> {
  if (busy.value) return;
  busy.value = true;
  if (said !== '') lines.value = [...lines.value, { said }];
  words.value = '';
  try {
    const { answer, why } = await send<{ answer: BotAnswer | null; why: BotFault | null }>(
      'POST',
      `/api/bots/${props.bot.id}/try`,
      { body: { said, ...soFar() } },
    );
    lines.value = [...lines.value, answer === null ? { fault: faultWords[why ?? 'fault'] } : { answer }];
  } catch (error) {
    lines.value = [...lines.value, { fault: sentenceOf(error) }];
  } finally {
    busy.value = false;
    await nextTick();
    field.value?.focus();
  }
}
const found = ({ facts }: BotAnswer) =>
  Object.entries(facts)
    .map(([name, value]) => `${name} is ${value}`)
    .join(', ');
</script>

<template>
  <section aria-label="Try it">
    <h3>Try it</h3>
    <ol aria-live="polite">
      <li v-for="(line, index) in lines" :key="index">
        <p v-if="'said' in line" class="caller">“{{ line.said }}”</p>
        <p v-else-if="'fault' in line" class="fault-text">{{ line.fault }}</p>
        <template v-else>
          <p>{{ line.answer.say || 'It says nothing.' }}</p>
          <p class="second small">
            It {{ thenWords[line.answer.then]
            }}{{ found(line.answer) === '' ? '' : `; ${found(line.answer)}` }}
          </p>
        </template>
      </li>
    </ol>
    <button v-if="lines.length === 0" type="button" class="link" :disabled="busy" @click="say('')">
      Begin a call
    </button>
    <form v-else @submit.prevent="words.trim() !== '' && say(words.trim())">
      <input
        ref="field"
        v-model="words"
        aria-label="What the caller says"
        placeholder="what the caller says"
        maxlength="300"
      />
      <v-btn type="submit" size="small" :loading="busy">Say it</v-btn>
      <v-btn size="small" @click="lines = []">Again</v-btn>
    </form>
  </section>
</template>

<style scoped>
ol {
  display: grid;
  gap: 6px;
  margin: 6px 0 10px;
}
.caller {
  color: var(--ink2);
  padding-left: 16px;
}
form {
  display: flex;
  gap: 8px;
  align-items: center;
}
input {
  flex: 1;
  min-width: 0;
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: var(--ink);
  height: 26px;
}
.link {
  border: 0;
  background: none;
  color: var(--brass);
  cursor: pointer;
  padding: 2px 0;
}
</style>
