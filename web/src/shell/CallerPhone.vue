<script setup lang="ts">
import { computed, onBeforeUnmount, ref } from 'vue';
import { dialKeys } from '@night-bell/core/plan/fields';
import { span } from '@night-bell/core/story/span';
import { promptApi } from '../areas/prompts/words.ts';
import KeyCap from '../kit/KeyCap.vue';
import { useCollection } from './collection.ts';
import { useTestCall } from './test-call.ts';

/** The caller's side of a test call: keys, waiting, hanging up; and what those who are rung do. */
const test = useTestCall();
const prompts = useCollection(promptApi);
const keyMs = 1_000;
const waitMs = 10_000;
const state = computed(() => test.answer?.hand ?? null);
const over = computed(() => state.value?.over === true);
const offered = computed(() => new Set(state.value?.keys ?? []));
const heard = computed(() => prompts.byId.value.get(state.value?.hears?.promptId ?? '') ?? null);

let sound: HTMLAudioElement | null = null;
function listen(): void {
  const id = heard.value?.heard?.id;
  if (id === undefined) return;
  sound?.pause();
  sound = new Audio(`/api/sounds/${id}`);
  void sound.play().catch(() => undefined);
}
onBeforeUnmount(() => sound?.pause());

const words = ref('');
function say(): void {
  if (words.value.trim() === '') return;
  test.play({ does: 'say', words: words.value.trim() }, keyMs);
  words.value = '';
}

const key = (pressed: string) => !over.value && test.play({ does: 'key', key: pressed }, keyMs);
function onKey(event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const pressed = event.key;
  if ((dialKeys as readonly string[]).includes(pressed)) key(pressed);
  else if (pressed === 'ArrowRight' && !over.value) test.play(null, waitMs);
  else if (pressed.toLowerCase() === 'h' && !over.value) test.play({ does: 'hangUp' }, keyMs);
  else if (pressed.toLowerCase() === 'l' && state.value?.rings[0] !== undefined)
    test.play({ does: 'lift', personId: state.value.rings[0].personId }, keyMs);
  else return;
  event.preventDefault();
  event.stopPropagation();
}
</script>

<template>
  <div class="phone" tabindex="0" role="group" aria-label="The caller’s phone" @keydown="onKey">
    <div class="panel-head">
      <h2>Caller</h2>
      <span v-if="state" class="mono second">{{ span(state.atMs) }}</span>
      <button v-if="test.hand === null" type="button" class="link" @click="test.playFromStart()">
        Play it by hand
      </button>
      <template v-else>
        <button type="button" class="link" @click="test.playFromStart()">Again</button>
        <button type="button" class="link" @click="test.playByItself()">By itself</button>
      </template>
    </div>
    <template v-if="test.hand !== null && state">
      <p class="hears" role="status">
        <template v-if="over">The call is over.</template>
        <template v-else-if="state.talksWith">Talks with {{ state.talksWith }}.</template>
        <template v-else-if="state.hears">
          “{{ state.hears.words }}”
          <button v-if="heard?.heard" type="button" class="link" @click="listen">Listen</button>
        </template>
        <template v-else-if="test.answer?.outcome.kind === 'voicemail'"
          >Leaves a message in {{ test.answer.outcome.name }}.</template
        >
        <template v-else-if="state.rings.length > 0">Hears it ring.</template>
        <template v-else>Waits.</template>
      </p>
      <div class="keys">
        <button
          v-for="each in dialKeys"
          :key="each"
          type="button"
          class="mono key"
          :class="{ offered: offered.has(each) }"
          :disabled="over"
          @click="key(each)"
        >
          {{ each }}
        </button>
      </div>
      <form v-if="state.listens && !over" class="says" @submit.prevent="say">
        <input
          v-model="words"
          aria-label="What the caller says"
          placeholder="what the caller says"
          maxlength="300"
          @keydown.stop
        />
        <v-btn type="submit" class="small-button">Say it</v-btn>
      </form>
      <div class="buttons">
        <v-btn class="small-button" :disabled="over" @click="test.play(null, waitMs)"
          >Wait 10 s<KeyCap>→</KeyCap></v-btn
        >
        <v-btn class="small-button" :disabled="over" @click="test.play({ does: 'hangUp' }, keyMs)"
          >Hang up<KeyCap>H</KeyCap></v-btn
        >
      </div>
      <ul>
        <li v-for="person in state.rings.slice(0, 6)" :key="person.personId">
          <span>{{ person.name }} is rung</span>
          <button
            type="button"
            class="link"
            @click="test.play({ does: 'lift', personId: person.personId }, 3 * keyMs)"
          >
            Lift
          </button>
          <button
            type="button"
            class="link"
            @click="test.play({ does: 'decline', personId: person.personId }, keyMs)"
          >
            Decline
          </button>
        </li>
      </ul>
    </template>
    <p v-else class="second small">
      Keys, waiting and hanging up as the caller; lifting and declining for whoever is rung. It goes back to
      the start with every change of the plan, and does the same again.
    </p>
  </div>
</template>

<style scoped>
.phone {
  padding: 0 16px 12px 20px;
  overflow: auto;
  outline-offset: -2px;
}
.panel-head {
  display: flex;
  gap: 10px;
  align-items: baseline;
  padding: 10px 0 6px;
}
.link {
  white-space: nowrap;
}
.hears {
  min-height: 36px;
}
.keys {
  display: grid;
  grid-template-columns: repeat(6, 32px);
  gap: 4px;
  margin: 6px 0 8px;
}
.key {
  height: 28px;
  border: 1px solid var(--rule2);
  border-radius: 2px;
  background: none;
  color: var(--ink);
  cursor: pointer;
}
.says {
  display: flex;
  gap: 6px;
  margin-bottom: 8px;
}
.says input {
  flex: 1;
  min-width: 0;
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: var(--ink);
}
.key.offered {
  border-color: var(--brass);
  color: var(--brass);
  font-weight: 700;
}
.key:disabled {
  color: var(--ink2);
  cursor: default;
}
.buttons {
  display: flex;
  gap: 8px;
}
li {
  display: flex;
  gap: 12px;
  padding: 4px 0;
}
</style>
