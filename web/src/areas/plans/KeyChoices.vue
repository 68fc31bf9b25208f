<script setup lang="ts">
import { computed, ref } from 'vue';
import type { KeyChoice } from '@night-bell/core/model/plan';
import { dialKeys } from '@night-bell/core/plan/fields';
import { commonLanguages, languageName } from '@night-bell/core/model/languages';
import TakeOut from '../../kit/TakeOut.vue';

/** The keys of a menu: what each is for, and the language that it chooses, if any. */
defineProps<{ readonly: boolean }>();
const choices = defineModel<readonly KeyChoice[]>({ required: true });

const freeFor = (own: string) =>
  dialKeys.filter((key) => key === own || !choices.value.some((each) => each.key === key));
const asked = ref(false);
const choosing = computed(() => asked.value || choices.value.some(({ language }) => language != null));
/** One that is chosen stays to be chosen, also where it is uncommon. */
const languagesFor = (chosen: string | null | undefined) =>
  chosen == null || commonLanguages.some(({ code }) => code === chosen)
    ? commonLanguages
    : [...commonLanguages, { code: chosen, name: languageName(chosen) }];

function add(): void {
  const free = freeFor('')[0];
  if (free !== undefined) choices.value = [...choices.value, { key: free, label: '' }];
}
const change = (index: number, by: Partial<KeyChoice>) =>
  (choices.value = choices.value.map((each, i) => (i === index ? { ...each, ...by } : each)));
const drop = (index: number) => (choices.value = choices.value.filter((_, i) => i !== index));
const typed = (event: Event) => (event.target as HTMLInputElement | HTMLSelectElement).value;
</script>

<template>
  <ul class="keys">
    <li v-for="(each, index) in choices" :key="each.key">
      <select
        class="mono"
        :value="each.key"
        :aria-label="`Key ${index + 1}`"
        :disabled="readonly"
        @change="change(index, { key: typed($event) })"
      >
        <option v-for="key in freeFor(each.key)" :key="key">{{ key }}</option>
      </select>
      <input
        :value="each.label"
        :aria-label="`What key ${each.key} is for`"
        placeholder="what for"
        maxlength="60"
        :readonly="readonly"
        @change="change(index, { label: typed($event) })"
      />
      <TakeOut v-if="!readonly" :what="`Take key ${each.key} out`" @click="drop(index)" />
      <select
        v-if="choosing"
        class="language"
        :class="{ second: !each.language }"
        :value="each.language ?? ''"
        :aria-label="`Language that key ${each.key} chooses`"
        :disabled="readonly"
        @change="change(index, { language: typed($event) || null })"
      >
        <option value="">same language</option>
        <option v-for="{ code, name } in languagesFor(each.language)" :key="code" :value="code">
          {{ name }}
        </option>
      </select>
    </li>
  </ul>
  <p v-if="choosing" class="second small">
    Whoever presses a key with a language hears prompts in it from there on, where they have it.
  </p>
  <p v-if="!readonly" class="ways">
    <button v-if="choices.length < dialKeys.length" type="button" class="link" @click="add">Add a key</button>
    <button v-if="!choosing" type="button" class="link" @click="asked = true">
      Have keys choose a language
    </button>
  </p>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 40px minmax(0, 1fr) 16px;
  gap: 0 8px;
  margin-bottom: 4px;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 0 16px;
}
.ways button {
  white-space: nowrap;
}
input,
select {
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: var(--ink);
  height: 26px;
  padding: 0 2px;
}
input {
  min-width: 0;
}
.language {
  grid-column: 2;
}
.language.second {
  color: var(--ink2);
}
</style>
