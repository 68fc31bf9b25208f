<script setup lang="ts">
import { locale } from '../../kit/locale.ts';
import { computed, defineAsyncComponent, ref } from 'vue';
import { storeToRefs } from 'pinia';
import { useRouter } from 'vue-router';
import type { StoryRecord } from '@night-bell/core/story/records';
import { formatNumber } from '@night-bell/core/numbers/format';
import KeyCap from '../../kit/KeyCap.vue';
import PageHead from '../../kit/PageHead.vue';
import RopeShort from '../../kit/rope/RopeShort.vue';
import type { RopeMark, RopeStep } from '@night-bell/core/story/step';
import Shape from '../../kit/Shape.vue';
import { span } from '@night-bell/core/story/span';
import { useClock } from '../../kit/time.ts';
import { useHome } from '../../shell/home.ts';
import { useKeys } from '../../shell/keys.ts';
import { useSession } from '../../shell/session.ts';
import { useTestCall } from '../../shell/test-call.ts';
import { areaRows } from './area-rows.ts';
import { isNew } from './first-call.ts';
import { findingWords } from './finding-words.ts';

/** Only a new installation needs it. */
const FirstCall = defineAsyncComponent(() => import('./FirstCall.vue'));
const shownFindings = 3;

const trail = useHome();
const test = useTestCall();
const router = useRouter();
const { clock, moment } = useClock();
const { view: home, problem, readAt } = storeToRefs(trail);
const session = useSession();
const hiddenKey = 'night-bell-first-call-hidden';
const hidden = ref(localStorage.getItem(hiddenKey) === 'yes');
function hideFirstCall(): void {
  hidden.value = true;
  localStorage.setItem(hiddenKey, 'yes');
}

const areas = computed(() => (home.value === null ? [] : areaRows(home.value)));

const sentence = computed(() => {
  if (home.value === null) return problem.value || 'Reading the set-up.';
  const done = areas.value.filter((area) => area.state.shape === 'done').length;
  const { findings } = home.value;
  const faults = findings.filter((finding) => finding.severity === 'fault').length;
  const things = findings.length === 1 ? '1 thing to fix' : `${findings.length} things to fix`;
  return `${done} of ${areas.value.length} areas done. ${findings.length === 0 ? 'Nothing to fix.' : `${things}, ${faults} of them ${faults === 1 ? 'a fault' : 'faults'}.`}`;
});

const marks: Partial<Record<StoryRecord['kind'], RopeMark>> = {
  arrived: 'knot',
  enteredQueue: 'hitch',
  decision: 'lifted',
  directDecision: 'lifted',
  sentOn: 'hitch',
  answered: 'sally',
  voicemail: 'loop',
  ended: 'fray',
};

function rope(story: { kind?: string; at?: number }[]): RopeStep[] {
  return (story as { kind: StoryRecord['kind']; at: number }[]).flatMap((record) => {
    const mark = marks[record.kind];
    return mark === undefined
      ? []
      : [
          {
            mark,
            at: record.at,
            title: '',
            reason: '',
            caption: '',
            slack: [],
            sounds: [],
            ms: 0,
            decision: null,
          },
        ];
  });
}

function nextFix(): void {
  const first = home.value?.findings[0];
  if (first !== undefined) void router.push(findingWords(first).path);
}
const whatWords: Record<string, string> = {
  created: 'made',
  changed: 'changed',
  retired: 'deactivated',
  reactivated: 'reactivated',
  published: 'published',
  spoken: 'spoken anew',
  recorded: 'recorded anew',
  brought: 'given a sound',
  storm: 'closed by storm',
  stormOver: 'opened again',
};
useKeys({ f: nextFix });
</script>

<template>
  <PageHead title="Set-up trail" :sentence="sentence">
    <v-btn v-if="home && home.findings.length > 0" @click="nextFix">Go to next fix<KeyCap>F</KeyCap></v-btn>
  </PageHead>
  <div v-if="home" class="halves">
    <div class="trail">
      <FirstCall
        v-if="session.mayEdit && isNew(home) && !hidden"
        :home="home"
        @made="trail.load()"
        @hide="hideFirstCall"
      />
      <table>
        <thead>
          <tr>
            <th class="margin"><span class="unseen">Shortcut</span></th>
            <th style="width: 150px">Area and state</th>
            <th style="width: 224px">Done</th>
            <th>Missing, with its fix</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="area in areas" :key="area.area">
            <td class="margin mono">{{ area.number }}</td>
            <td>
              <router-link :to="area.path" class="area">{{ area.word }}</router-link>
              <span class="small state"
                ><Shape :name="area.state.shape" /><span
                  >{{ area.state.word
                  }}<span class="second">{{ area.needs === '' ? '' : `, ${area.needs}` }}</span></span
                ></span
              >
            </td>
            <td>
              <span v-if="area.all === 0" class="second">{{ area.empty }}</span>
              <template v-else>
                <span class="mono"
                  >{{ area.done.toLocaleString(locale) }} of {{ area.all.toLocaleString(locale) }}</span
                >
                <span class="second">{{ area.unit }}</span>
              </template>
            </td>
            <td>
              <p
                v-for="finding in area.findings.slice(0, shownFindings)"
                :key="finding.code + finding.itemId"
                class="fix"
              >
                <span>{{ findingWords(finding).fact }}</span>
                <router-link :to="findingWords(finding).path">{{ findingWords(finding).fix }}</router-link>
              </p>
              <p v-if="area.findings.length > shownFindings" class="fix">
                <router-link :to="area.path">{{ area.findings.length - shownFindings }} more</router-link>
              </p>
              <p v-if="area.all === 0 && area.findings.length === 0 && session.mayEdit" class="fix begin">
                <router-link v-if="area.area !== 'calls'" :to="area.path">{{ area.begin }}</router-link>
                <button v-else type="button" class="link" @click="test.open = true">{{ area.begin }}</button>
              </p>
              <span v-else-if="area.findings.length === 0" class="second">Nothing</span>
            </td>
          </tr>
        </tbody>
      </table>
      <section v-if="home.since.length > 0" class="since">
        <h2>Latest changes</h2>
        <p v-for="change in home.since" :key="change.at + change.name">
          <span class="mono">{{ moment(change.at) }}</span> {{ change.by }} {{ whatWords[change.what] }}
          {{ change.name }}
        </p>
      </section>
    </div>
    <aside>
      <h2>If someone rang now</h2>
      <p class="second small">
        Each number is tried when something changed, without ringing a phone. Last round {{ clock(readAt) }}.
      </p>
      <p v-if="home.ifSomeoneRang.length === 0" class="second empty">
        Numbers appear here with whoever would answer.
      </p>
      <ul>
        <li v-for="number in home.ifSomeoneRang" :key="number.numberId">
          <button type="button" @click="test.show(formatNumber(number.e164))">
            <span class="line"
              ><span class="mono">{{ formatNumber(number.e164) }}</span>
              <span class="second">{{ number.label }}</span></span
            >
            <span class="line">
              <RopeShort
                :steps="rope(number.story)"
                what-if
                ground="var(--sheet)"
                :width="132"
                class="rope"
              />
              <b v-if="number.kind === 'ended'" class="fault-text who"><Shape name="fault" /> Nobody</b>
              <b v-else class="who">{{ number.kind === 'stillWaiting' ? 'Still waiting' : number.name }}</b>
              <span class="mono second">{{ span(number.afterMs) }}</span>
            </span>
          </button>
        </li>
      </ul>
    </aside>
  </div>
</template>

<style scoped>
.unseen {
  position: absolute;
  clip-path: inset(50%);
}
.halves {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 1fr 336px;
}
.trail {
  overflow: auto;
}
table {
  width: 100%;
  border-collapse: separate;
  border-spacing: 0;
  table-layout: fixed;
}
th {
  text-align: left;
  font: 600 12px/34px var(--sans);
  border-bottom: 1px solid var(--rule2);
  padding: 0 8px;
}
td {
  border-bottom: 1px solid var(--rule);
  padding: 7px 8px;
  min-height: 50px;
  vertical-align: top;
}
tr:last-child td {
  border-bottom: 3px double var(--rule2);
}
.margin {
  width: 40px;
  text-align: right;
  color: var(--ink2);
  border-right: 4px double var(--margin);
}
.area {
  display: block;
  color: var(--ink);
  text-decoration: none;
}
.state {
  display: flex;
  gap: 6px;
  align-items: center;
  white-space: nowrap;
}
td .mono + .second {
  white-space: nowrap;
  margin-left: 8px;
}
.fix {
  display: flex;
  justify-content: space-between;
  gap: 16px;
}
.fix a {
  white-space: nowrap;
}
.begin {
  justify-content: flex-end;
}
.since {
  padding: 22px 20px;
}
.since p {
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
}
.since h2 {
  padding-bottom: 6px;
}
.since .mono {
  display: inline-block;
  width: 124px;
}
aside {
  background: var(--sheet);
  border-left: 1px solid var(--rule2);
  padding: 14px 16px;
  overflow: auto;
}
aside ul {
  margin-top: 8px;
  border-top: 1px solid var(--rule);
}
aside li {
  border-bottom: 1px solid var(--rule);
}
aside button {
  width: 100%;
  border: 0;
  background: none;
  color: inherit;
  text-align: left;
  padding: 5px 0;
  cursor: pointer;
}
aside button:hover {
  background: var(--sel);
}
.line {
  display: flex;
  gap: 8px;
  align-items: center;
  white-space: nowrap;
  overflow: hidden;
}
.rope {
  flex: 0 0 132px;
  width: 132px;
}
.who {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
}
.empty {
  padding: 14px 0;
}
</style>
