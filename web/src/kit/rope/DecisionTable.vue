<script setup lang="ts">
import { computed } from 'vue';
import type { Candidate } from '@night-bell/core/distribute/candidates';
import type { StoryRecord } from '@night-bell/core/story/records';
import Shape from '../Shape.vue';
import StateWord from '../StateWord.vue';
import { span } from '@night-bell/core/story/span';
import { distributionRule, standingOf } from '@night-bell/core/story/distribution-words';
import { countsSentence, hasFault, reachedWords, reasonsSentence } from '@night-bell/core/story/words';
import { agentWords } from '../words.ts';

/** One decision: every candidate, eligible or not, with all reasons. */
const props = defineProps<{
  decision: Extract<StoryRecord, { kind: 'decision' }>;
  start: number;
  /** What became of the offer, for each who was rung. */
  outcome: (personId: string) => string;
}>();

const heading = computed(() => {
  const { decision } = props;
  if (decision.chosen === null) return `Nobody free in ${decision.queueName}`;
  const together = decision.together?.length ?? 0;
  if (together > 1) return `${together} are offered the call at once`;
  return `${decision.chosenName} is offered the call`;
});

const hidden = computed(() => props.decision.candidates.total - props.decision.candidates.listed.length);

function standing(candidate: Candidate, index: number): { word: string; tone: string } {
  if (rung.value.has(candidate.personId)) return { word: props.outcome(candidate.personId), tone: 'chosen' };
  if (candidate.reasons.length > 0) return { word: 'Skipped', tone: '' };
  return { word: candidate.triedBefore ? 'Tried before' : `${ordinal(index + 1)} in line`, tone: '' };
}

const rung = computed(() => {
  const { chosen, together = [] } = props.decision;
  return new Set([chosen, ...together.map(({ personId }) => personId)]);
});

function ordinal(place: number): string {
  const ending = place % 100 > 10 && place % 100 < 14 ? 'th' : (['th', 'st', 'nd', 'rd'][place % 10] ?? 'th');
  return `${place}${ending}`;
}

function why(candidate: Candidate): string {
  if (candidate.reasons.length > 0) return reasonsSentence(candidate.reasons, props.decision.at);
  const idle = standingOf(candidate, props.decision);
  if (candidate.personId !== props.decision.chosen) return idle;
  switch (props.decision.why) {
    case 'onlyOne':
      return `${idle}, the only one free`;
    case 'recordOwner':
      return 'Looks after the record';
    case 'reservedForThis':
      return 'Kept free for this call';
    case 'longestIdle':
      return `${idle}, the longest`;
    case 'earlierTurn':
      return `${idle}, the only one free of it`;
    default:
      return idle;
  }
}

/** What a candidate is reached by, where it is not the usual softphone. */
function reached(candidate: Candidate): string {
  return candidate.phone === null || candidate.phone === 'softphone' ? '' : reachedWords[candidate.phone];
}

const rule = computed(() => {
  const first = distributionRule(props.decision);
  return props.decision.owner === null && props.decision.why !== 'recordOwner'
    ? first
    : `the record's owner first, then ${first}`;
});
</script>

<template>
  <div>
    <p class="title">
      <b>{{ heading }}</b> <span class="mono second">{{ span(decision.at - start) }}</span>
      <span class="second small">
        {{ decision.queueName }}, {{ rule }}. {{ decision.candidates.total }} considered,
        {{ decision.candidates.eligible }} free.
      </span>
    </p>
    <table>
      <thead>
        <tr>
          <th>Agent</th>
          <th style="width: 138px">State then, for</th>
          <th style="width: 98px">Outcome</th>
          <th>Why</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="(candidate, index) in decision.candidates.listed"
          :key="candidate.personId"
          :class="{ chosen: rung.has(candidate.personId) }"
        >
          <td>
            {{ decision.names[candidate.personId] }}
            <span v-if="reached(candidate)" class="second small">{{ reached(candidate) }}</span>
            <span v-if="decision.owner?.personId === candidate.personId" class="second small">owner</span>
          </td>
          <td>
            <StateWord :shape="candidate.state" :word="agentWords[candidate.state]" />
            <span class="mono second for">{{
              candidate.state === 'signedOut' ? '' : span(decision.at - candidate.stateSince)
            }}</span>
          </td>
          <td :class="standing(candidate, index).tone">
            <b>{{ standing(candidate, index).word }}</b>
          </td>
          <td>
            <Shape v-if="hasFault(candidate.reasons)" name="fault" />
            {{ why(candidate) }}
          </td>
        </tr>
        <tr v-if="hidden > 0">
          <td colspan="4" class="second">
            {{ hidden }} more: {{ countsSentence(decision.candidates.counts) || 'free, and behind these' }}
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.for {
  margin-left: 4px;
}
.title {
  padding: 8px 16px 6px;
  display: flex;
  flex-wrap: wrap;
  gap: 0 8px;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th {
  font: 600 12px/24px var(--sans);
  text-align: left;
  color: var(--ink2);
  border-bottom: 1px solid var(--rule2);
}
td,
th {
  padding: 3px 8px;
  vertical-align: top;
}
td:first-child,
th:first-child {
  white-space: nowrap;
  padding-left: 16px;
}
td {
  border-bottom: 1px solid var(--rule);
}
tr.chosen td {
  background: var(--sel);
}
td.chosen {
  color: var(--teal);
}
</style>
