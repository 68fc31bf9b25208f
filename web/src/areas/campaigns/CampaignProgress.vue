<script setup lang="ts">
import { locale } from '../../kit/locale.ts';
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import { api, ask, type Campaign, type CampaignProgress } from '../../api/client.ts';
import Shape from '../../kit/Shape.vue';
import StateWord from '../../kit/StateWord.vue';
import { span } from '@night-bell/core/story/span';
import { paceWords, resultOf } from '@night-bell/core/story/words';
import { agentWords, contactWords } from '../../kit/words.ts';
import type { CallResult } from '@night-bell/core/story/facts';
import { useLive } from '../../shell/live.ts';
import { useSetUp } from '../../shell/set-up.ts';
import { useClock } from '../../kit/time.ts';
import { quarterFigures } from './quarters.ts';

const FigureChart = defineAsyncComponent(() => import('../../kit/FigureChart.vue'));

/** How far the campaign is, live: contacts, pace, abandon rate, and the agents who take its calls. */
const props = defineProps<{ campaign: Campaign }>();
const live = useLive();
const setUp = useSetUp();
const { clock } = useClock();
const progress = ref<CampaignProgress | null>(null);
const againMs = 15_000;

async function load(): Promise<void> {
  const params = { path: { id: props.campaign.id } };
  progress.value = await ask(api.GET('/api/campaigns/{id}/progress', { params })).catch(() => progress.value);
}
watch([() => props.campaign.id, () => Math.floor(live.now / againMs), () => live.endedCalls], load, {
  immediate: true,
});

const now = computed(() => live.campaigns.get(props.campaign.id));
const calls = computed(() =>
  [...live.calls.values()].filter((call) => call.campaignId === props.campaign.id),
);
const inAir = computed(
  () => calls.value.filter((call) => ['dialling', 'greeting'].includes(call.stage)).length,
);
const percent = (share: number) => `${(share * 100).toFixed(1)} %`;

const order = ['talked', 'inAir', 'leased', 'due', 'unreached', 'invalid', 'optedOut'] as const;
const states = computed(() => {
  const counts = new Map((progress.value?.states ?? []).map((each) => [each.state, each.count]));
  const next = (counts.get('due') ?? 0) + (counts.get('leased') ?? 0);
  const shown = new Map(counts).set('due', next);
  shown.delete('leased');
  return order.map((state) => ({ state, count: shown.get(state) ?? 0 })).filter((each) => each.count > 0);
});
const total = computed(() => states.value.reduce((sum, each) => sum + each.count, 0));
const outcomes = computed(() => {
  const list = progress.value?.outcomes ?? [];
  const most = Math.max(1, ...list.map((each) => each.count));
  return list.map((each) => ({ ...each, share: each.count / most }));
});
/** Moves on with the quarter, not with the second. */
const quarter = computed(() => Math.floor(live.now / 900_000) * 900_000);
const figures = computed(() =>
  quarterFigures(progress.value?.quarters ?? [], props.campaign.abandonPercent, quarter.value, clock),
);
const results = computed(() => (progress.value?.results ?? []).filter((each) => each.result !== 'answered'));

/** Agents of the campaign's queue who are signed in. */
const agents = computed(() => {
  const queue = setUp.queueById.get(props.campaign.queueId ?? '');
  if (queue === undefined) return [];
  const teams = new Set(queue.members);
  return [...live.agents.values()]
    .filter((agent) => teams.has(agent.personId) || teams.has(agent.teamId ?? ''))
    .filter(({ state }) => state !== 'signedOut')
    .map((agent) => ({ person: { id: agent.personId, name: agent.name }, agent }))
    .sort((one, other) => one.agent.since - other.agent.since);
});
const idleMs = computed(() => {
  const idle = agents.value.filter(({ agent }) => agent.state === 'available');
  return idle.length === 0
    ? null
    : idle.reduce((sum, { agent }) => sum + live.now - agent.since, 0) / idle.length;
});
/** Only over an open line do people reached outside take part. */
const leftOut = computed(() => agents.value.filter(({ agent }) => agent.reachedBy === 'outside').length);
</script>

<template>
  <div class="halves">
    <div class="main">
      <section class="pace">
        <p>
          <template v-if="campaign.status === 'running' && now">
            <b class="mono">{{ inAir }}</b> in the air, <b class="mono">{{ now.free }}</b> agents free:
            {{ paceWords(now.pace)
            }}{{ campaign.mostInAir ? `, at most ${campaign.mostInAir} at once` : '' }}.
          </template>
          <template v-else>
            Once started, it keeps {{ campaign.ratio }} {{ campaign.ratio === 1 ? 'call' : 'calls' }} in the
            air for each free agent{{ campaign.mostInAir ? `, at most ${campaign.mostInAir}` : '' }}.
          </template>
        </p>
        <p v-if="now">
          Abandoned <b class="mono">{{ percent(now.rateToday) }}</b> today,
          <b class="mono">{{ percent(now.rate) }}</b> over 30 days, limit
          <b class="mono">{{ campaign.abandonPercent }} %</b>.
          <span v-if="now.pace.why === 'atLimit'" class="fault-text"
            ><Shape name="fault" /> Slowed down.</span
          >
          <span v-if="campaign.status === 'running' && now.exhausted && now.inAir === 0" class="second">
            Everybody on the list is dealt with.
          </span>
        </p>
      </section>
      <section>
        <header>
          <h2>{{ total.toLocaleString(locale) }} contacts</h2>
          <span class="second">{{
            progress && progress.later > 0 ? `${progress.later} of those to do are due later` : ''
          }}</span>
        </header>
        <p v-if="total === 0" class="second">
          Nobody to call yet.
          <router-link :to="{ query: { tab: 'contacts' } }">Bring a contact list</router-link>
        </p>
        <template v-else>
          <div class="bar" aria-hidden="true">
            <i
              v-for="each in states"
              :key="each.state"
              :class="each.state"
              :style="{ flexGrow: each.count }"
              :title="`${each.count} ${contactWords[each.state]}`"
            ></i>
          </div>
          <ul class="legend">
            <li v-for="each in states" :key="each.state">
              <i :class="each.state"></i>
              <router-link class="plain" :to="{ query: { tab: 'contacts', state: each.state } }"
                ><b>{{ each.count.toLocaleString(locale) }}</b> {{ contactWords[each.state] }}</router-link
              >
            </li>
          </ul>
        </template>
      </section>
      <section>
        <header>
          <h2>The last twelve hours</h2>
          <span class="second">each bar a quarter of an hour</span>
        </header>
        <FigureChart :figures="figures" :height="220" />
      </section>
    </div>
    <aside>
      <section>
        <header>
          <h3>Agents of {{ campaign.queueId ? setUp.nameOf(campaign.queueId) : 'no queue' }}</h3>
          <span class="second small">{{ idleMs === null ? '' : `idle ${span(idleMs)} on average` }}</span>
        </header>
        <p v-if="agents.length === 0" class="second">
          Nobody is signed in. Nothing is dialled before somebody is.
        </p>
        <ul class="agents">
          <li v-for="{ person, agent } in agents" :key="person.id">
            <router-link class="plain" :to="`/people/${person.id}`">{{ person.name }}</router-link>
            <StateWord :shape="agent.state" :word="agentWords[agent.state]" />
            <span class="mono second">{{ span(live.now - agent.since) }}</span>
          </li>
        </ul>
        <p v-if="leftOut > 0" class="second small">
          {{ leftOut }} reached on an outside number take part once they hold a line open, at their desk.
        </p>
      </section>
      <section>
        <h3>Outcomes</h3>
        <p v-if="outcomes.length === 0" class="second">Nobody talked yet.</p>
        <ul class="outcomes">
          <li v-for="each in outcomes" :key="each.outcome ?? 'none'">
            <router-link
              v-if="each.outcome"
              class="plain"
              :to="{ path: '/calls', query: { campaignId: campaign.id, outcome: each.outcome } }"
              >{{ each.outcome }}</router-link
            >
            <span v-else class="second">none given</span>
            <i :style="{ width: `${each.share * 96}px` }"></i>
            <span class="mono">{{ each.count }}</span>
          </li>
        </ul>
      </section>
      <section>
        <h3>Not talked</h3>
        <ul class="outcomes">
          <li v-for="each in results" :key="each.result">
            <router-link
              class="plain"
              :to="{ path: '/calls', query: { campaignId: campaign.id, result: each.result } }"
              >{{ resultOf(each.result as CallResult, 'outbound') }}</router-link
            >
            <i></i>
            <span class="mono">{{ each.count }}</span>
          </li>
        </ul>
      </section>
    </aside>
  </div>
</template>

<style scoped>
.halves {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 1fr 336px;
}
.main {
  overflow: auto;
  padding: 0 20px;
}
.main section {
  padding: 14px 0;
  border-bottom: 1px solid var(--rule);
}
.main section:last-child {
  border: 0;
}
.pace {
  font: 15px/26px var(--sans);
}
.pace .mono {
  font: 600 14px/26px var(--mono);
}
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  padding-bottom: 8px;
}
.bar {
  display: flex;
  height: 20px;
  border: 1px solid var(--rule2);
}
.bar i {
  min-width: 2px;
}
.legend {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 22px;
  padding-top: 8px;
}
.legend li {
  display: flex;
  gap: 7px;
  align-items: center;
}
.legend i {
  width: 12px;
  height: 12px;
  border: 1px solid var(--rule2);
}
i.talked {
  background: var(--teal);
}
i.inAir {
  background: var(--brass);
}
i.due {
  background: radial-gradient(var(--rule2) 0.8px, transparent 1px) 0 0 / 5px 5px;
}
i.unreached {
  background: repeating-linear-gradient(0deg, var(--ink2) 0 1px, transparent 1px 4px);
}
i.invalid {
  background: repeating-linear-gradient(45deg, var(--oxide) 0 2px, transparent 2px 5px);
}
i.optedOut {
  background: var(--ink);
}
aside {
  background: var(--sheet);
  border-left: 1px solid var(--rule2);
  overflow: auto;
}
aside section {
  padding: 14px 16px;
  border-bottom: 1px solid var(--rule);
}
.agents li {
  display: grid;
  grid-template-columns: 1fr 110px 52px;
  min-height: 25px;
  align-items: center;
  border-bottom: 1px solid var(--rule);
}
.agents .mono {
  text-align: right;
}
.agents a {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.outcomes li {
  display: grid;
  grid-template-columns: 1fr 100px 48px;
  min-height: 25px;
  align-items: center;
  border-bottom: 1px solid var(--rule);
}
.outcomes i {
  height: 6px;
  background: var(--rule2);
}
.outcomes .mono {
  text-align: right;
}
</style>
