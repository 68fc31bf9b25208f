<script setup lang="ts">
import { computed, defineAsyncComponent, onMounted, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import type { StoryRecord } from '@night-bell/core/story/records';
import { api, ask } from '../api/client.ts';
import KeyCap from '../kit/KeyCap.vue';
import DecisionTable from '../kit/rope/DecisionTable.vue';
import RopeShort from '../kit/rope/RopeShort.vue';
import RopeStory from '../kit/rope/RopeStory.vue';
import { ropeSteps } from '@night-bell/core/story/describe';
import MomentField from '../kit/MomentField.vue';
import { dayOf } from '../kit/time.ts';
import { assumptionWords } from '../kit/words.ts';
import CallerField from './CallerField.vue';
import TestCallOutcome from './TestCallOutcome.vue';
import { useDialSuggestions } from './dial-suggestions.ts';
import { useKeys } from './keys.ts';
import { useLive } from './live.ts';
import { useNotices } from './notices.ts';
import { useSession } from './session.ts';
import { useTestCall } from './test-call.ts';

/** For a call that is played by hand only. */
const CallerPhone = defineAsyncComponent(() => import('./CallerPhone.vue'));

const test = useTestCall();
const session = useSession();
const live = useLive();
const notices = useNotices();
const router = useRouter();
const toField = ref<HTMLInputElement | null>(null);
const chosen = ref<number | null>(null);
const placing = ref(false);

const story = computed(() => (test.answer?.story ?? []) as unknown as StoryRecord[]);
const steps = computed(() => {
  const last = story.value.at(-1);
  const stillWaits = test.answer?.outcome.kind === 'stillWaiting' && last !== undefined;
  return ropeSteps(story.value, stillWaits ? last.at : null);
});
/** Somebody listened in this call, so that there is something to say. */
const listening: ReadonlySet<StoryRecord['kind']> = new Set([
  'understood',
  'notUnderstood',
  'saidNothing',
  'botSaid',
]);
const asksWords = computed(() => test.says !== '' || story.value.some(({ kind }) => listening.has(kind)));
const today = computed(() => dayOf(live.now, session.timeZone));
/** What was called, as the call itself knows it: the number's label, or where an extension leads. */
const label = computed(() => {
  for (const record of story.value) {
    if (record.kind === 'arrived' && record.label !== null) return record.label;
    if (record.kind === 'sentTo') return record.name;
  }
  return '';
});
const decision = computed(() => {
  const index = chosen.value ?? steps.value.findLast((step) => step.decision !== null)?.decision ?? null;
  const record = index === null ? undefined : story.value[index];
  return record?.kind === 'decision' ? { record, index } : null;
});

const { suggesting, suggestions, dialledAs } = useDialSuggestions(toField);
// A changed set-up may change the answer.
watch(
  () => live.configurationChanges,
  () => void test.run(),
);
// The answer follows what is typed: a list of suggestions that is open takes the Enter key for itself.
let typing: ReturnType<typeof setTimeout> | undefined;
function typed(): void {
  clearTimeout(typing);
  typing = setTimeout(() => void test.run(), 350);
}
watch(
  () => test.answer,
  () => (chosen.value = null),
);
onMounted(() => void test.run());

function pick(): void {
  const typed = test.to.trim().toLowerCase();
  const named = suggestions.value.find(({ name }) => name.toLowerCase() === typed);
  if (named !== undefined) test.to = dialledAs(named);
  void test.run();
}

async function placeLive(): Promise<void> {
  placing.value = true;
  try {
    const { callId } = await ask(
      api.POST('/api/stand-ins/calls', { body: { to: test.to, from: test.from } }),
    );
    test.open = false;
    await router.push(`/calls/${callId}`);
  } catch (error) {
    notices.fail(error);
  } finally {
    placing.value = false;
  }
}

useKeys({
  t: () => {
    test.open = !test.open;
    if (test.open) toField.value?.focus();
  },
  Escape: () => (test.open = false),
});
</script>

<template>
  <section class="bar-area" aria-label="Test call">
    <div v-if="test.open && test.answer" class="panel">
      <CallerPhone />
      <div class="rope">
        <div class="panel-head">
          <h2>What would happen</h2>
          <span class="second small"
            >Taken for granted:
            {{ test.answer.assumptions.map((each) => assumptionWords[each] ?? each).join(', ') }}.</span
          >
        </div>
        <RopeStory
          :steps="steps"
          what-if
          :chosen="decision?.index ?? null"
          ground="var(--sheet)"
          @choose="chosen = $event"
        />
      </div>
      <div class="why">
        <div class="panel-head">
          <h2>{{ decision?.record.chosenName ? `Why ${decision.record.chosenName}` : 'Why' }}</h2>
        </div>
        <DecisionTable
          v-if="decision"
          :decision="decision.record"
          :start="test.answer.at"
          :outcome="() => 'Would be rung'"
        />
        <p v-else class="none second">No agent had to be chosen on this path.</p>
      </div>
    </div>
    <form class="bar" @submit.prevent="pick">
      <label for="test-to">Call</label>
      <input
        id="test-to"
        ref="toField"
        v-model="test.to"
        list="test-numbers"
        class="mono to"
        autocomplete="off"
        @input="typed"
        @change="pick"
        @focus="((suggesting = true), ($event.target as HTMLInputElement).select())"
      />
      <datalist id="test-numbers">
        <option v-for="entry in suggestions" :key="entry.id" :value="dialledAs(entry)">
          {{ entry.name }}
        </option>
      </datalist>
      <span class="label">{{ label }}</span>
      <label for="test-from">from</label>
      <CallerField v-model="test.from" class="from" @chosen="test.run" />
      <label for="test-at">at</label>
      <span class="moment">
        <MomentField
          id="test-at"
          v-model="test.at"
          class="mono at"
          :class="{ now: test.at === '' }"
          :today="today"
          placeholder="now"
          @update:model-value="test.run"
        />
        <button v-if="test.at !== ''" type="button" class="back" @click="((test.at = ''), test.run())">
          now
        </button>
      </span>
      <label for="test-keys">pressing</label>
      <input
        id="test-keys"
        v-model="test.keys"
        class="mono keys"
        maxlength="50"
        autocomplete="off"
        placeholder="no key"
        @change="test.run"
      />
      <label v-if="asksWords" for="test-says">saying</label>
      <input
        v-if="asksWords"
        id="test-says"
        v-model="test.says"
        class="says"
        maxlength="300"
        autocomplete="off"
        placeholder="nothing"
        title="What the caller says where somebody listens; several are parted by /"
        @change="test.run"
      />
      <span v-if="test.draft" class="label">using the draft</span>
      <div class="short">
        <RopeShort
          v-if="test.answer && !test.open && !(asksWords && test.draft)"
          :steps="steps"
          what-if
          captions
          ground="var(--bar)"
        />
      </div>
      <TestCallOutcome />
      <button
        v-if="session.mayOperate"
        class="bar-button"
        type="button"
        :disabled="placing || test.to === ''"
        @click="placeLive"
      >
        Place it live
      </button>
      <button class="bar-button" type="button" :aria-expanded="test.open" @click="test.open = !test.open">
        {{ test.open ? 'Close' : 'Explain' }}<KeyCap>T</KeyCap>
      </button>
    </form>
  </section>
</template>

<style scoped>
.bar-area {
  position: relative;
  z-index: 10;
}
.bar {
  height: 44px;
  background: var(--bar);
  color: #f1f3ea;
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 0 14px;
  --rope-d: #b08f4c;
  --brass: #e3b85f;
  --oxide: #f5997f;
  --wi-d: #d9b2e6;
  --wi-l: #5e4069;
  --sal-a: #74d0c4;
  --sal-b: #12343a;
}
@media (max-width: 760px) {
  .bar {
    overflow-x: auto;
  }
  .bar > * {
    flex: none;
  }
}
.bar :deep(input) {
  background: none;
  border: 0;
  border-bottom: 1px solid var(--bar-rule);
  color: #f1f3ea;
  height: 24px;
  padding: 0 2px;
  color-scheme: dark;
}
.to,
.from {
  width: 128px;
}
.to::-webkit-calendar-picker-indicator {
  display: none !important;
}
.keys {
  width: 56px;
}
.says {
  width: 62px;
}
.says:focus {
  width: 180px;
}
.label {
  color: #b4c0bc;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  max-width: 120px;
}
.moment {
  position: relative;
}
.at {
  width: 184px;
}
.at.now {
  width: 48px;
}
.at.now:focus {
  width: 184px;
}
.back {
  border: 0;
  background: none;
  color: #e3b85f;
  cursor: pointer;
  margin-left: 4px;
}
.short {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  height: 40px;
}
.bar-button {
  border: 1px solid var(--bar-rule);
  border-radius: 2px;
  background: none;
  color: #f1f3ea;
  height: 26px;
  padding: 0 10px;
  font-weight: 600;
  white-space: nowrap;
  cursor: pointer;
}
.bar-button:disabled {
  opacity: 0.5;
}
.panel {
  position: absolute;
  bottom: 44px;
  left: 0;
  right: 0;
  height: min(420px, 60vh);
  background: var(--sheet);
  border-top: 3px double var(--plum);
  display: grid;
  grid-template-columns: 268px minmax(0, 1fr) minmax(0, 380px);
}
.panel > div {
  overflow: auto;
  padding-bottom: 12px;
}
.rope {
  border-right: 1px solid var(--rule2);
}
.panel-head {
  padding: 10px 16px 6px;
}
.panel-head h2 {
  margin-bottom: 2px;
}
.rope .panel-head {
  display: flex;
  flex-direction: column;
}
.none {
  padding: 0 16px;
}
</style>
