<script setup lang="ts">
import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import type { CallResult } from '@night-bell/core/story/facts';
import type { StoryRecord } from '@night-bell/core/story/records';
import { handledBy } from '@night-bell/core/story/handled-by';
import { formatNumber } from '@night-bell/core/numbers/format';
import { api, ApiProblem, ask, type CallPage } from '../../api/client.ts';
import KeyCap from '../../kit/KeyCap.vue';
import { send } from '../../api/items.ts';
import PageHead from '../../kit/PageHead.vue';
import { offerOutcome } from '@night-bell/core/story/offer-outcome';
import DecisionTable from '../../kit/rope/DecisionTable.vue';
import RopeStory from '../../kit/rope/RopeStory.vue';
import { ropeSteps } from '@night-bell/core/story/describe';
import { span } from '@night-bell/core/story/span';
import { resultOf } from '@night-bell/core/story/words';
import { useClock } from '../../kit/time.ts';
import { useKeys } from '../../shell/keys.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useTestCall } from '../../shell/test-call.ts';
import CallRecordings from '../recordings/CallRecordings.vue';
import PauseRecording from '../recordings/PauseRecording.vue';
import { beganOf } from './began.ts';

const props = defineProps<{ id: string }>();
const router = useRouter();
const blocked = ref(false);

/** One press: whoever calls once more is turned away. */
async function turnAway(): Promise<void> {
  try {
    const { name } = await send<{ name: string }>('POST', `/api/calls/${props.id}/block`, { body: {} });
    blocked.value = true;
    notices.say(`${name} is turned away for 90 days. The blocked list takes it back.`);
  } catch (error) {
    notices.fail(error);
  }
}
const session = useSession();
const live = useLive();
const notices = useNotices();
const test = useTestCall();
const { moment, clockSeconds, date } = useClock();
const page = shallowRef<CallPage | null>(null);
const problem = ref('');
const chosen = ref<number | null>(null);
const copied = ref(false);
let retry: ReturnType<typeof setTimeout> | null = null;

async function load(attempt = 0): Promise<void> {
  try {
    page.value = await ask(api.GET('/api/calls/{id}', { params: { path: { id: props.id } } }));
    problem.value = '';
  } catch (error) {
    // A call placed this moment may not be known everywhere yet.
    if (error instanceof ApiProblem && error.code === 'notFound' && attempt < 10) {
      retry = setTimeout(() => void load(attempt + 1), 300);
      return;
    }
    problem.value = error instanceof ApiProblem ? error.detail : 'This call cannot be shown.';
  }
}

watch(
  () => props.id,
  () => {
    page.value = null;
    chosen.value = null;
    void load();
  },
  { immediate: true },
);
// Followed while it happens: every change of this call is a reason to read it again.
watch([() => live.calls.get(props.id), () => live.endedCalls.includes(props.id)], () => {
  if (page.value === null || page.value.inProgress !== null) void load();
});
onBeforeUnmount(() => {
  if (retry !== null) clearTimeout(retry);
});

const story = computed(() => (page.value?.story ?? []) as unknown as StoryRecord[]);
const start = computed(() => story.value[0]?.at ?? 0);
const steps = computed(() => ropeSteps(story.value, page.value?.inProgress ? live.now : null));
const call = computed(() => page.value?.call ?? null);
const now = computed(() => live.calls.get(props.id) ?? null);
const began = computed(() => beganOf(story.value, call.value));
/** Its story could not be written; what was to be kept of it lies elsewhere. */
const isBare = computed(() => call.value?.result === 'lost' && story.value.length === 0);
const direction = computed(() => began.value?.way ?? 'inbound');
const campaignId = computed(
  () => story.value.find((record) => record.kind === 'launched')?.campaignId ?? null,
);
const record = computed(() => {
  for (const each of story.value) if (each.kind === 'arrived' || each.kind === 'launched') return each.record;
  return null;
});
const queueName = computed(
  () =>
    story.value.findLast((record) => record.kind === 'enteredQueue')?.name ??
    story.value.findLast((record) => record.kind === 'decision')?.queueName ??
    call.value?.queueName ??
    'none',
);
const handler = computed(() => handledBy(story.value));

const decisions = computed(() =>
  story.value.flatMap((record, index) => (record.kind === 'decision' ? [{ record, index }] : [])),
);
/** Later offers first to be read last: as they happened. Waiting without anybody free is shown when it is chosen. */
const shown = computed(() =>
  decisions.value.filter(
    ({ record, index }) => record.chosen !== null || index === chosen.value || decisions.value.length === 1,
  ),
);

const why = computed(() =>
  handler.value !== null
    ? `Why ${handler.value.name}`
    : decisions.value.length > 0
      ? 'Who was considered'
      : 'No agent was chosen',
);
const result = computed(() => {
  if (call.value !== null) return resultOf(call.value.result as CallResult, direction.value);
  const stage = live.calls.get(props.id)?.stage;
  return stage === undefined ? 'In progress' : (stageWords[stage] ?? 'Coming in');
});
const stageWords: Record<string, string> = {
  waiting: 'Waiting',
  ringing: 'Ringing',
  talking: 'Talking',
  voicemail: 'In voicemail',
  dialling: 'Being dialled',
  greeting: 'Greets',
  announcement: 'Hears the message',
  held: 'Line open',
};
const who = computed(() => {
  const start = began.value;
  if (start === undefined) return '';
  return start.name ?? formatNumber(start.way === 'inbound' ? start.from : start.to);
});
const title = computed(() => {
  if (page.value === null) return 'Call';
  return {
    inbound: `Call from ${who.value}`,
    outbound: `Call to ${who.value}`,
    dialled: `Call to ${who.value}, dialled by ${began.value?.label ?? 'one of ours'}`,
    line: `Line to ${who.value}`,
  }[direction.value];
});
const sentence = computed(() => {
  if (began.value === undefined) return '';
  return `${date(began.value.at)} ${clockSeconds(began.value.at)}, ${page.value?.inProgress ? 'in progress' : 'finished'}${call.value?.rehearsed ? ', made by rehearsal' : ''}`;
});

function tryAgain(): void {
  if (began.value === undefined) return;
  test.from = formatNumber(began.value.from);
  test.at = '';
  test.show(formatNumber(began.value.to));
}

async function copy(): Promise<void> {
  const lines = steps.value.map(
    (step) => `${span(step.at - start.value)}\t${step.title}${step.reason === '' ? '' : `. ${step.reason}`}`,
  );
  await navigator.clipboard
    .writeText([`${title.value}, ${sentence.value}`, ...lines].join('\n'))
    .catch(notices.fail);
  copied.value = true;
  setTimeout(() => (copied.value = false), 2_000);
}

const go = (id: string | null | undefined) => {
  if (id != null) void router.push(`/calls/${id}`);
};
useKeys({ '[': () => go(page.value?.earlier), ']': () => go(page.value?.later) });
</script>

<template>
  <PageHead :title="title" :sentence="sentence">
    <button v-if="page?.earlier" class="link" type="button" @click="go(page.earlier)">
      Earlier call<KeyCap>[</KeyCap>
    </button>
    <button v-if="page?.later" class="link" type="button" @click="go(page.later)">
      Later call<KeyCap>]</KeyCap>
    </button>
    <v-btn
      v-if="session.mayOperate && page && direction === 'inbound' && !blocked"
      title="Puts the caller on the blocked list for 90 days"
      @click="turnAway"
      >Turn this caller away</v-btn
    >
    <v-btn
      v-if="session.mayRead && page && direction === 'inbound'"
      variant="flat"
      color="primary"
      @click="tryAgain"
      >Try it again now</v-btn
    >
  </PageHead>
  <p v-if="problem" class="problem">{{ problem }} <router-link to="/calls">All calls</router-link></p>
  <template v-if="page && began">
    <dl class="facts">
      <div v-if="began.from">
        <dt>{{ direction === 'outbound' ? 'Shown as' : 'From' }}</dt>
        <dd class="mono">{{ formatNumber(began.from) }}</dd>
      </div>
      <div>
        <dt>To</dt>
        <dd>
          <span class="mono">{{ formatNumber(began.to) }}</span>
          {{ direction === 'inbound' ? began.label : '' }}
        </dd>
      </div>
      <div v-if="campaignId">
        <dt>Campaign</dt>
        <dd>
          <router-link v-if="session.mayRead" :to="`/campaigns/${campaignId}`">{{ began.label }}</router-link>
          <template v-else>{{ began.label }}</template>
        </dd>
      </div>
      <div v-if="call?.sourceName">
        <dt>Source</dt>
        <dd>{{ call.sourceName }}</dd>
      </div>
      <div v-if="record">
        <dt>Record</dt>
        <dd>
          <router-link v-if="session.mayRead" :to="`/records/${record.id}`">{{ record.name }}</router-link>
          <template v-else>{{ record.name }}</template>
        </dd>
      </div>
      <div>
        <dt>Queue</dt>
        <dd>{{ queueName }}</dd>
      </div>
      <div>
        <dt>Who handled it</dt>
        <dd>
          <router-link v-if="handler && session.mayRead" :to="`/people/${handler.personId}`">{{
            handler.name
          }}</router-link>
          <b v-else>{{ handler?.name ?? 'nobody' }}</b>
        </dd>
      </div>
      <div>
        <dt>How it ended</dt>
        <dd>{{ result }}</dd>
      </div>
      <div v-if="call?.outcome">
        <dt>Outcome</dt>
        <dd :title="call.note ?? ''">{{ call.outcome }}</dd>
      </div>
      <div v-if="now?.recording">
        <dt>Recording</dt>
        <dd><PauseRecording :call="now" /></dd>
      </div>
      <div v-if="call">
        <dt>Waited, talked</dt>
        <dd class="mono">{{ span(call.waitedMs) }}, {{ span(call.talkedMs) }}</dd>
      </div>
    </dl>
    <CallRecordings :call-id="id" :in-progress="page.inProgress !== null" />
    <div class="halves">
      <section class="went" aria-label="How the call went">
        <header>
          <h2>How the call went</h2>
          <span class="second small">Dashed: ways that were not taken</span>
        </header>
        <p v-if="isBare" class="none second">
          The exchange lost this call for a fault of its own, and its story could not be written. What was to
          be kept of it is under <router-link to="/set-aside">Set aside</router-link>.
        </p>
        <div v-else class="rope">
          <RopeStory :steps="steps" :what-if="false" :chosen="chosen" @choose="chosen = $event" />
        </div>
        <footer>
          <v-btn @click="copy">{{ copied ? 'Copied' : 'Copy as text' }}</v-btn>
        </footer>
      </section>
      <section class="why" aria-label="Why">
        <header>
          <h2>{{ why }}</h2>
          <span v-if="decisions.length > 0" class="second small"
            >{{ decisions.length === 1 ? '1 decision' : `${decisions.length} decisions` }} by the exchange,
            each with everybody it considered</span
          >
        </header>
        <p v-if="handler?.passedBy" class="none">
          {{ handler.name }} has the caller from {{ handler.passedBy
          }}{{ decisions.length > 0 ? ', whom the exchange had considered before' : '' }}.
        </p>
        <DecisionTable
          v-for="{ record, index } in shown"
          :key="index"
          :decision="record"
          :start="start"
          :outcome="(personId: string) => offerOutcome(story, index, personId)"
          :class="{ lit: index === chosen }"
        />
        <p v-if="decisions.length === 0 && !handler?.passedBy && !isBare" class="none second">
          The path led {{ result === 'Led nowhere' ? 'nowhere' : 'straight to one place' }}: no queue had to
          choose between agents. The reasons stand beside the rope.
        </p>
        <p v-if="page.inProgress" class="none second">This page follows the call: {{ moment(live.now) }}.</p>
      </section>
    </div>
  </template>
</template>

<style scoped>
.problem {
  padding: 24px 20px;
}
.facts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 32px;
  padding: 9px 20px;
  border-bottom: 1px solid var(--rule2);
  white-space: nowrap;
}
dt {
  color: var(--ink2);
  font-size: 12px;
  line-height: 16px;
}
.halves {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(470px, 46%) 1fr;
}
.halves > section {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.halves header {
  padding: 10px 20px 6px;
  display: flex;
  gap: 10px;
  align-items: baseline;
  flex: none;
}
.rope {
  flex: 1;
  overflow: auto;
  min-height: 0;
}
.went footer {
  padding: 8px 20px;
}
.why {
  background: var(--sheet);
  border-left: 1px solid var(--rule2);
  overflow: auto;
}
.why header {
  border-bottom: 1px solid var(--rule2);
}
.why header,
.none {
  padding-left: 16px;
}
.none {
  padding-top: 14px;
}
.lit {
  border-left: 3px solid var(--brass);
}
</style>
