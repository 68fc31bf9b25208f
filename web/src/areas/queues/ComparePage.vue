<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed, reactive, ref, watch } from 'vue';
import type { HoursPlayed, QueueMeasured } from '@night-bell/core/contracts/queue-hours';
import { queueMeasuredPath } from '@night-bell/core/model/api-paths';
import type { DistributionKind } from '@night-bell/core/model/distribution';
import type { Judged } from '@night-bell/core/rehearse/comparison';
import { mean } from '@night-bell/core/staffing/judging';
import { span } from '@night-bell/core/story/span';
import { sentenceOf } from '../../api/client.ts';
import { send } from '../../api/items.ts';
import { queuesApi } from '../../api/lists.ts';
import { useActing } from '../../kit/acting.ts';
import EmptyLine from '../../kit/EmptyLine.vue';
import KeyCap from '../../kit/KeyCap.vue';
import PageHead from '../../kit/PageHead.vue';
import { useCollection } from '../../shell/collection.ts';
import { useKeys } from '../../shell/keys.ts';
import { useSession } from '../../shell/session.ts';
import { comparisonSentences } from './compare-words.ts';
import { type Asked, inOrderFrom, useComparing } from './comparing.ts';
import CompareStrip from './CompareStrip.vue';
import { distributionWords, queueArea } from './words.ts';

/** All ways to ring on the same made-up hours, with this queue's people, played by the exchange. */
const props = defineProps<{ id: string }>();
const queues = useCollection(queuesApi);
const session = useSession();
const act = useActing();
const queue = computed(() => queues.byId.value.get(props.id) ?? null);
const measured = useQuery({
  queryKey: computed(() => ['queue-measured', props.id] as const),
  queryFn: () => send<QueueMeasured>('GET', queueMeasuredPath.replace(':id', props.id)),
  retry: false,
});
const { compared, running, fault, differ, compare, stop } = useComparing(() => props.id);

const usual: Asked = { calls: 60, talkSeconds: 180, patienceSeconds: 240, people: 'all', runs: 5 };
const asked = reactive<Asked>({ ...usual });
/** Typed once by somebody, figures stay as they are. */
const typed = ref(false);
const within = (value: number | null, least: number, most: number, otherwise: number) =>
  value === null ? otherwise : Math.min(most, Math.max(least, Math.round(value)));
watch(
  () => measured.data.value,
  (was) => {
    if (was === undefined || typed.value) return;
    asked.calls = within(was.calls, 1, 3_000, usual.calls);
    asked.talkSeconds = within(was.talkSeconds, 5, 3_600, usual.talkSeconds);
    asked.patienceSeconds = within(was.patienceSeconds, 5, 7_200, usual.patienceSeconds);
    asked.people = was.here > 0 ? 'here' : 'all';
  },
  { immediate: true },
);
const from = computed(() => {
  const was = measured.data.value;
  if (was === undefined) return '';
  return was.calls === null
    ? `Nobody called in the last ${was.days} days: type calls and handling.`
    : `As measured over ${was.days} days, from ${was.hour} to ${was.hour! + 1} o'clock, its busiest hour.`;
});
const choices = computed(() => [
  { value: 'here', title: `the ${measured.data.value?.here ?? 0} who are signed in` },
  { value: 'all', title: `all ${measured.data.value?.all ?? 0} members` },
]);

const begin = () => {
  if (queue.value !== null) void compare(queue.value.distribution, { ...asked });
};
useKeys({ c: begin, Escape: stop });

const faultWords = computed(() => (fault.value === null ? '' : sentenceOf(fault.value)));
const isOld = computed(() => {
  const of = compared.value;
  return (
    of !== null &&
    (of.present !== queue.value?.distribution || JSON.stringify(of.asked) !== JSON.stringify(asked))
  );
});

type Figures = HoursPlayed['runs'][number];
const rows = computed(() => {
  const of = compared.value;
  return inOrderFrom(of?.present ?? queue.value?.distribution ?? 'longestIdle').map((kind) => {
    const runs = of?.runs.get(kind);
    if (runs === undefined) return { kind, figures: null };
    const middle = (pick: (run: Figures) => number) => mean(runs.map(pick));
    const perAgent = (pick: (run: Figures) => number[]) =>
      of!.people.map((_person, i) => mean(runs.map((run) => pick(run)[i] ?? 0)));
    return {
      kind,
      figures: {
        answered: middle(({ answered }) => answered),
        lost: middle(({ lost }) => lost),
        median: middle(({ median }) => median ?? 0),
        p90: middle(({ p90 }) => p90 ?? 0),
        inTime: middle(({ inTime }) => inTime),
        calls: perAgent(({ calls }) => calls),
        idle: perAgent(({ idle }) => idle.map((share) => share * 100)),
      },
    };
  });
});
/** As far as the slowest way goes; the axis is the same for all. */
const most = computed(() => ({
  wait: Math.max(10, ...rows.value.map(({ figures }) => figures?.p90 ?? 0)),
  calls: Math.max(1, ...rows.value.flatMap(({ figures }) => figures?.calls ?? [])),
}));
const holds = (kind: DistributionKind, figure: Judged) => differ.value.get(kind)?.[figure].holds === true;
const sentences = computed(() =>
  differ.value.size === 0 ? [] : comparisonSentences(differ.value, compared.value!.asked.runs),
);
const isPresent = (kind: DistributionKind) => kind === (compared.value?.present ?? queue.value?.distribution);
const mayUse = (kind: DistributionKind) =>
  session.mayEdit && !isPresent(kind) && (kind !== 'bestSkill' || (queue.value?.skills.length ?? 0) > 0);

const area = queueArea(() => '');
function use(kind: DistributionKind): void {
  const now = queue.value;
  if (now === null) return;
  void act(
    async () =>
      queues.put(await queuesApi.change(now.id, now.version, { ...area.draftOf(now), distribution: kind })),
    `${now.name} rings ${distributionWords[kind]} from now on. Its history takes it back.`,
  );
}
const range = (values: readonly number[]) =>
  values.length === 0 ? '' : `${Math.round(Math.min(...values))}–${Math.round(Math.max(...values))}`;
const namesOf = (values: readonly number[]) =>
  values.map((value, i) => ({ name: compared.value?.people[i]?.name ?? '', value }));
</script>

<template>
  <PageHead
    :title="queue === null ? 'Ways to ring' : `Ways to ring ${queue.name}`"
    sentence="Seven ways on the same hours, played by the exchange"
  >
    <router-link :to="`/queues/${id}`" class="small">The queue</router-link>
    <v-btn v-if="running" @click="stop()">Stop<KeyCap>Esc</KeyCap></v-btn>
    <v-btn v-else variant="flat" color="primary" :disabled="queue === null" @click="begin()"
      >Compare<KeyCap>C</KeyCap></v-btn
    >
  </PageHead>
  <div class="compare">
    <form class="asked" @submit.prevent="begin()" @input="typed = true">
      <label
        ><input
          v-model.number="asked.calls"
          type="number"
          min="1"
          max="3000"
          aria-label="Calls in the hour"
        />
        calls in an hour</label
      >, talks of
      <label
        ><input
          v-model.number="asked.talkSeconds"
          type="number"
          min="5"
          max="3600"
          aria-label="Seconds of a talk"
        />
        s</label
      >, callers who give up after
      <label
        ><input
          v-model.number="asked.patienceSeconds"
          type="number"
          min="5"
          max="7200"
          aria-label="Seconds until a caller gives up"
        />
        s</label
      >
      on average, for
      <select v-model="asked.people" aria-label="Who takes them">
        <option v-for="choice in choices" :key="choice.value" :value="choice.value">
          {{ choice.title }}
        </option></select
      >,
      <select v-model.number="asked.runs" aria-label="Hours that are played">
        <option v-for="runs in [5, 10, 20]" :key="runs" :value="runs">{{ runs }} hours</option>
      </select>
      each.
      <span class="second small">{{ from }}</span>
    </form>
    <EmptyLine v-if="faultWords" :text="faultWords" />
    <p v-if="running" class="second small" role="status">
      {{ running.done }} of {{ running.of }} ways are played.
    </p>
    <p v-else-if="compared && isOld" class="second small">
      This is of other figures than stand above. Compare again.
    </p>
    <table v-if="compared && compared.runs.size > 0">
      <thead>
        <tr>
          <th>Rings</th>
          <th class="wide">
            Waited, median to p90 <span class="second small">up to {{ span(most.wait * 1000) }}</span>
          </th>
          <th class="right">Answered</th>
          <th class="right">Lost</th>
          <th class="right">Median</th>
          <th class="right">p90</th>
          <th class="right">In {{ span((queue?.goalSeconds ?? 0) * 1000) }}</th>
          <th class="narrow">
            Calls each <span class="second small">up to {{ Math.round(most.calls) }}</span>
          </th>
          <th class="narrow">Idle each, %</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="{ kind, figures } in rows" :key="kind" :class="{ present: isPresent(kind) }">
          <th scope="row">
            {{ distributionWords[kind] }}<span v-if="isPresent(kind)" class="second small"> now</span>
          </th>
          <template v-if="figures">
            <td>
              <CompareStrip
                :from="figures.median"
                :to="figures.p90"
                :most="most.wait"
                :goal="queue?.goalSeconds ?? null"
                :found="holds(kind, 'median')"
                :present="isPresent(kind)"
              />
            </td>
            <td class="mono right">{{ Math.round(figures.answered) }}</td>
            <td class="mono right" :class="{ found: holds(kind, 'lost') }">{{ figures.lost.toFixed(1) }}</td>
            <td class="mono right" :class="{ found: holds(kind, 'median') }">
              {{ span(figures.median * 1000) }}
            </td>
            <td class="mono right" :class="{ found: holds(kind, 'p90') }">{{ span(figures.p90 * 1000) }}</td>
            <td class="mono right" :class="{ found: holds(kind, 'inTime') }">
              {{ Math.round(figures.inTime * 100) }} %
            </td>
            <td>
              <CompareStrip :ticks="namesOf(figures.calls)" :most="most.calls" :present="isPresent(kind)" />
              <span class="mono range" :class="{ found: holds(kind, 'callsSpread') }">{{
                range(figures.calls)
              }}</span>
            </td>
            <td>
              <CompareStrip :ticks="namesOf(figures.idle)" :most="100" :present="isPresent(kind)" />
              <span class="mono range" :class="{ found: holds(kind, 'idleSpread') }">{{
                range(figures.idle)
              }}</span>
            </td>
            <td class="right">
              <button v-if="mayUse(kind)" class="link small" type="button" @click="use(kind)">Use it</button>
            </td>
          </template>
          <td v-else colspan="9" class="second small">{{ running ? 'to be played' : 'not played' }}</td>
        </tr>
      </tbody>
    </table>
    <template v-if="sentences.length > 0">
      <p v-for="sentence in sentences" :key="sentence" class="said">{{ sentence }}</p>
      <p class="second small">
        Mean of {{ compared!.asked.runs }} hours. Bold: more than chance, by pairs of the same hours, Holm's
        correction over the six others, 5 %.
        <button
          v-if="compared!.asked.runs < 20"
          class="link"
          type="button"
          @click="((asked.runs = 20), begin())"
        >
          20 hours could tell more
        </button>
      </p>
    </template>
    <EmptyLine
      v-else-if="compared === null"
      text="Press Compare: every way to ring takes the same callers, with the same patience and the same things to say."
    />
  </div>
</template>

<style scoped>
.compare {
  padding: 16px 20px;
  overflow: auto;
}
.asked {
  line-height: 32px;
  margin-bottom: 12px;
}
.asked input,
.asked select {
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
  height: 24px;
  width: 64px;
  font: 12px/18px var(--mono);
  text-align: right;
}
.asked select {
  width: auto;
  font: 13px/18px var(--sans);
}
.asked option {
  background: var(--sheet);
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: left;
  font-weight: 400;
  padding: 0 8px;
  height: 34px;
  border-bottom: 1px solid var(--rule);
  white-space: nowrap;
}
thead th {
  font-weight: 600;
  border-bottom-color: var(--rule2);
}
.right {
  text-align: right;
}
.wide {
  width: 24%;
}
.narrow {
  width: 13%;
}
.second {
  font-weight: 400;
}
.present th,
.present td {
  background: var(--sel);
}
.present th {
  font-weight: 600;
}
.found {
  font-weight: 700;
  color: var(--plum);
}
.range {
  font-size: 11px;
}
.said {
  margin-top: 10px;
}
.said + .second {
  margin-top: 10px;
}
</style>
