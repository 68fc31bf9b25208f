<script setup lang="ts">
import { lettersOn, setLetters } from './keys.ts';

const shown = defineModel<boolean>({ required: true });
const keys: [string, string][] = [
  ['. then a shortcut number', 'Jump to an area'],
  ['/ or Ctrl K', 'Find a person, an extension, a queue, a number or anything else'],
  ['T', 'Open the test call; Enter runs it, Esc closes'],
  ['N', 'New thing of the list one is on'],
  ['M', 'Many people at once, on the list of people'],
  ['↑ ↓', 'Move through a list'],
  ['F', 'Next fix, on the set-up trail'],
  ['[ ]', 'Earlier or later call'],
  ['P', 'Start or pause dialling, on a campaign'],
  ['A D H', 'Answer, decline, hang up, at the desk'],
  ['Esc', 'Close the sheet or what is open'],
  ['?', 'This list'],
];
</script>

<template>
  <v-dialog v-model="shown" width="420">
    <div class="keys" role="dialog" aria-label="Keys">
      <h2>Keys</h2>
      <dl>
        <template v-for="[key, what] in keys" :key="key">
          <dt class="mono">{{ key }}</dt>
          <dd>{{ what }}</dd>
        </template>
      </dl>
      <v-checkbox
        :model-value="lettersOn"
        label="Single keys work outside fields"
        @update:model-value="setLetters($event === true)"
      />
      <v-btn @click="shown = false">Close</v-btn>
    </div>
  </v-dialog>
</template>

<style scoped>
.keys {
  background: var(--sheet);
  padding: 20px;
}
dl {
  display: grid;
  grid-template-columns: 150px 1fr;
  gap: 6px 12px;
  margin: 12px 0;
}
</style>
