<script setup lang="ts">
import { ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import Shape, { type ShapeName } from '../kit/Shape.vue';
import { helpOf, type HelpPage } from './help.ts';
import { lettersOn, setLetters } from './keys.ts';

/** Help: about the page one is on, what the shapes mean, and which keys there are. */
const shown = defineModel<boolean>({ required: true });
const route = useRoute();
const page = ref<HelpPage | null>(null);
const tab = ref(0);
watch(
  shown,
  async (now) => {
    if (!now) return;
    page.value = await helpOf(route.path);
    tab.value = page.value === null ? 1 : 0;
  },
  { immediate: true },
);

const keys: [string, string][] = [
  ['. then a shortcut number', 'Jump to an area'],
  ['/ or Ctrl K', 'Find a person, an extension, a queue, a number or anything else'],
  ['T', 'Open the test call; Enter runs it, Esc closes'],
  ['N', 'New thing of the list one is on'],
  ['M', 'Many people at once, on the list of people'],
  ['↑ ↓ Enter', 'Move through a list, open a row'],
  ['Space', 'Mark a row, with Shift all between'],
  ['F', 'Next fix, on the set-up trail'],
  ['[ ]', 'Earlier or later call'],
  ['P', 'Start or pause dialling, on a campaign'],
  ['A D H', 'Answer, decline, hang up, at the desk'],
  ['Esc', 'Close the sheet or what is open'],
  ['?', 'This help'],
];

/** Circles are people, squares are phones and lines, what is filled works. */
const shapes: { title: string; all: [ShapeName, string][] }[] = [
  {
    title: 'Agents are circles',
    all: [
      ['available', 'Available: waits for a call'],
      ['ringing', 'Their phone rings'],
      ['talking', 'Talks'],
      ['wrappingUp', 'Wraps up after a call'],
      ['away', 'Away: signed in, is not rung'],
      ['signedOut', 'Signed out'],
    ],
  },
  {
    title: 'Phones are squares',
    all: [
      ['registered', 'Registered: it would ring'],
      ['unregistered', 'Unregistered: it is not there'],
      ['refused', 'Refused: its secret or account is wrong'],
      ['outside', 'An outside number is dialled instead'],
      ['none', 'No phone'],
    ],
  },
  {
    title: 'Lines, plans and hours',
    all: [
      ['up', 'A trunk that carries calls'],
      ['off', 'A trunk that does not'],
      ['draft', 'A draft: callers do not meet it'],
      ['changed', 'Published, with changes since'],
      ['open', 'Open now'],
      ['closed', 'Closed now'],
      ['storm', 'Closed by storm'],
      ['running', 'A campaign that dials'],
      ['paused', 'A campaign that rests'],
      ['finished', 'A campaign that is done'],
    ],
  },
  {
    title: 'What needs a look',
    all: [
      ['fault', 'A fault: something does not work'],
      ['missing', 'Something is missing'],
      ['done', 'Done'],
      ['messageNew', 'A new message'],
      ['messageHeard', 'Heard'],
      ['messageKept', 'Kept'],
    ],
  },
];
</script>

<template>
  <v-dialog v-model="shown" width="560" aria-label="Help">
    <div class="help">
      <v-tabs v-model="tab" height="30">
        <v-tab v-if="page" :value="0" :text="page.title" />
        <v-tab :value="1" text="Shapes" />
        <v-tab :value="2" text="Keys" />
      </v-tabs>
      <div class="body" tabindex="0" role="region" aria-label="Help text">
        <template v-if="tab === 0 && page">
          <h2>{{ page.title }}</h2>
          <p v-for="paragraph in page.paragraphs" :key="paragraph">{{ paragraph }}</p>
        </template>
        <template v-else-if="tab === 1">
          <h2>Shapes</h2>
          <section v-for="family in shapes" :key="family.title">
            <h3>{{ family.title }}</h3>
            <ul>
              <li v-for="[name, what] in family.all" :key="name"><Shape :name="name" /> {{ what }}</li>
            </ul>
          </section>
        </template>
        <template v-else>
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
        </template>
      </div>
      <v-btn class="close" @click="shown = false">Close</v-btn>
    </div>
  </v-dialog>
</template>

<style scoped>
.help {
  background: var(--sheet);
  color: var(--ink);
  padding: 16px 20px;
  display: flex;
  flex-direction: column;
  gap: 12px;
  max-height: 84vh;
}
.body {
  overflow: auto;
  min-height: 0;
}
.body p {
  margin: 10px 0 0;
  max-width: 62ch;
}
section {
  margin-top: 12px;
}
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: 4px 16px;
}
dl {
  display: grid;
  grid-template-columns: 150px 1fr;
  gap: 6px 12px;
  margin: 12px 0;
}
.close {
  align-self: flex-start;
}
</style>
