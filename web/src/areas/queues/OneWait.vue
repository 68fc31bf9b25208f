<script setup lang="ts">
import { keepPreviousData, useQuery } from '@tanstack/vue-query';
import { computed, ref, watch } from 'vue';
import type { QueueFit, QueueRequest } from '@night-bell/core/contracts/queues';
import { queueFitPath } from '@night-bell/core/model/api-paths';
import { span } from '@night-bell/core/story/span';
import { send } from '../../api/items.ts';
import { calmly } from '../../kit/calmly.ts';
import { useDirectory } from '../../shell/directory.ts';
import { useSetUp } from '../../shell/set-up.ts';
import { oneWait, type WaitRow } from './one-wait.ts';

/** One caller's wait, second by second: who may be rung when, what is asked for, what is heard, and where it ends. */
const props = defineProps<{ draft: QueueRequest }>();
const directory = useDirectory();
const setUp = useSetUp();

const wait = computed(() => oneWait(props.draft));
const asked = computed(() => {
  const { members, joins, skills } = props.draft;
  return { members, joins, skills };
});
/** What is typed is asked about once it rests. */
const settled = ref(asked.value);
const settle = calmly(() => (settled.value = asked.value), 500);
watch(asked, settle, { deep: true });
const fit = useQuery({
  queryKey: computed(() => ['queue-fit', JSON.stringify(settled.value)] as const),
  queryFn: () => send<QueueFit>('POST', queueFitPath, { body: settled.value }),
  placeholderData: keepPreviousData,
  retry: false,
});
const stages = computed(() => fit.data.value?.stages ?? []);

const left = 116;
const width = 376;
const axis = width - left - 8;
const x = (seconds: number) => left + (Math.min(seconds, wait.value.until) / wait.value.until) * axis;
/** Round steps of which four or five fit. */
const ticks = computed(() => {
  const step = [15, 30, 60, 120].find((each) => wait.value.until / each <= 5) ?? 180;
  return Array.from({ length: Math.floor(wait.value.until / step) + 1 }, (_, i) => i * step);
});
function nameOf({ memberIds }: WaitRow): string {
  const first = directory.nameOf(memberIds[0]!);
  return memberIds.length === 1 ? first : `${first} and ${memberIds.length - 1} more`;
}
const short = (text: string, most: number) => (text.length > most ? `${text.slice(0, most - 1)}…` : text);
const rowTop = (index: number) => 34 + index * 24;
const shownRows = computed(() => wait.value.rows.slice(0, 6));
const levelsTop = computed(() => rowTop(shownRows.value.length));
const fitsTop = computed(() => levelsTop.value + (wait.value.levels.length > 0 ? 24 : 0));
const ropeTop = computed(() => fitsTop.value + 44);
const height = computed(() => ropeTop.value + 34);
const levelWords = (skillId: string, minimum: number) =>
  minimum === 0 ? `no ${setUp.nameOf(skillId)}` : `${setUp.nameOf(skillId)} ${minimum}`;
const end = computed(() => {
  const { whenTooLong } = props.draft;
  if (!wait.value.ends) return 'goes on';
  if (whenTooLong === undefined) return 'own voicemail';
  return whenTooLong?.kind === 'end' ? 'told, and ended' : directory.nameOf(whenTooLong?.id ?? '');
});
/** The same in words, for who does not see it. */
const told = computed(() => [
  ...shownRows.value.map((row) => `${nameOf(row)}: turn ${row.turn}, from ${span(row.from * 1000)} on`),
  ...wait.value.levels.map(
    ({ skillId, from, minimum }) =>
      `From ${span(from * 1000)} on ${levelWords(skillId, minimum)} is asked for`,
  ),
  ...stages.value.map(
    ({ afterSeconds, fits, here }) => `From ${span(afterSeconds * 1000)} on ${fits} fit, ${here} signed in`,
  ),
  ...(wait.value.ends ? [`After ${span(wait.value.until * 1000)}: ${end.value}`] : []),
]);
</script>

<template>
  <section v-if="draft.members.length > 0" class="wait">
    <h3>
      One wait, second by second
      <span class="second small">goal {{ span(Number(draft.goalSeconds) * 1000) }} dotted</span>
    </h3>
    <svg :viewBox="`0 0 ${width} ${height}`" aria-hidden="true">
      <text x="0" y="14" class="head">Turn</text>
      <text x="36" y="14" class="head">May be rung</text>
      <g v-for="tick in ticks" :key="tick">
        <line :x1="x(tick)" y1="20" :x2="x(tick)" :y2="ropeTop - 14" class="grid" />
        <text
          :x="x(tick)"
          y="14"
          class="mono"
          :text-anchor="tick === 0 ? 'start' : tick === wait.until ? 'end' : 'middle'"
        >
          {{ span(tick * 1000) }}
        </text>
      </g>
      <line
        v-if="Number(draft.goalSeconds) < wait.until"
        :x1="x(Number(draft.goalSeconds))"
        y1="20"
        :x2="x(Number(draft.goalSeconds))"
        :y2="ropeTop + 6"
        class="goal"
      />
      <g v-for="(row, index) in shownRows" :key="row.memberIds[0]!">
        <line x1="0" :x2="width" :y1="rowTop(index) - 12" :y2="rowTop(index) - 12" class="rule" />
        <text x="2" :y="rowTop(index) + 5" class="mono">{{ row.turn }}</text>
        <text x="36" :y="rowTop(index) + 5">{{ short(nameOf(row), 13) }}</text>
        <line
          v-if="row.from > 0"
          :x1="x(0)"
          :x2="x(row.from)"
          :y1="rowTop(index)"
          :y2="rowTop(index)"
          class="not-yet"
        />
        <line
          v-if="row.from < wait.until"
          :x1="x(row.from)"
          :x2="x(wait.until)"
          :y1="rowTop(index)"
          :y2="rowTop(index)"
          class="strip"
        />
      </g>
      <g v-if="wait.levels.length > 0">
        <line x1="0" :x2="width" :y1="levelsTop - 12" :y2="levelsTop - 12" class="rule" />
        <text x="36" :y="levelsTop + 5">Asks for</text>
        <text
          v-for="level in wait.levels"
          :key="level.skillId + level.from"
          :x="x(level.from)"
          :y="levelsTop + 5"
        >
          {{ short(levelWords(level.skillId, level.minimum), 14) }}
        </text>
      </g>
      <line x1="0" :x2="width" :y1="fitsTop - 12" :y2="fitsTop - 12" class="rule" />
      <text x="36" :y="fitsTop + 5" class="head">How many fit</text>
      <text
        v-for="stage in stages"
        :key="stage.afterSeconds"
        :x="x(stage.afterSeconds)"
        :y="fitsTop + 5"
        class="mono figure"
      >
        {{ stage.fits }}
      </text>
      <line x1="0" :x2="width" :y1="fitsTop + 12" :y2="fitsTop + 12" class="rule strong" />
      <text x="36" :y="ropeTop + 5">Hears</text>
      <line :x1="x(0)" :x2="x(wait.until)" :y1="ropeTop" :y2="ropeTop" class="rope" />
      <circle :cx="x(0)" :cy="ropeTop" r="4" class="knot" />
      <g v-for="(knot, index) in wait.knots" :key="knot">
        <circle :cx="x(knot)" :cy="ropeTop" r="4" class="knot" />
        <text v-if="index === 0" :x="x(knot)" :y="ropeTop + 18" text-anchor="middle">told</text>
      </g>
      <circle v-if="wait.ends" :cx="x(wait.until)" :cy="ropeTop" r="5" class="loop" />
      <text :x="width - 2" :y="ropeTop + 18" text-anchor="end">{{ short(end, 28) }}</text>
    </svg>
    <p v-if="wait.rows.length > shownRows.length" class="second small">
      {{ wait.rows.length - shownRows.length }} more lines of members are not drawn.
    </p>
    <ul class="sr-only">
      <li v-for="line in told" :key="line">{{ line }}</li>
    </ul>
  </section>
</template>

<style scoped>
svg {
  width: 100%;
  display: block;
  margin-top: 4px;
}
text {
  font: 11px/14px var(--sans);
  fill: var(--ink);
}
.mono {
  font-family: var(--mono);
}
.head,
.figure {
  font-weight: 600;
}
h3 .second {
  font-weight: 400;
  margin-left: 8px;
}
.grid,
.rule {
  stroke: var(--rule);
}
.rule.strong {
  stroke: var(--rule2);
}
.goal {
  stroke: var(--brass);
  stroke-dasharray: 1 3;
}
.strip {
  stroke: var(--rope-d);
  stroke-width: 3;
}
.not-yet {
  stroke: var(--rule2);
  stroke-dasharray: 1 3;
}
.rope {
  stroke: var(--brass);
  stroke-width: 5;
  stroke-dasharray: 3 2;
}
.knot {
  fill: var(--brass);
}
.loop {
  fill: var(--sheet);
  stroke: var(--brass);
  stroke-width: 2;
}
</style>
