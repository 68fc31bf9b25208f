<script setup lang="ts">
import type { DistributionKind } from '@night-bell/core/model/distribution';
import { goalWords } from '../calls/times.ts';
import { useQueueLevels } from './queue-levels.ts';
import { computed, ref } from 'vue';
import { formatNumber } from '@night-bell/core/numbers/format';
import { type AgentLive, api, ask, type CallLive, type Queue } from '../../api/client.ts';
import { useActing } from '../../kit/acting.ts';
import EmptyLine from '../../kit/EmptyLine.vue';
import PageHead from '../../kit/PageHead.vue';
import Shape from '../../kit/Shape.vue';
import { span } from '@night-bell/core/story/span';
import { useClock } from '../../kit/time.ts';
import { reachedWords } from '@night-bell/core/story/words';
import { useDirectory } from '../../shell/directory.ts';
import { useLive } from '../../shell/live.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import AgentRow from './AgentRow.vue';
import EmergencyCalls from './EmergencyCalls.vue';
import WaitingBeam from './WaitingBeam.vue';

/** The floor: who waits where and for how long, and every agent of each queue as they are now. */
const live = useLive();
const setUp = useSetUp();
const directory = useDirectory();
const session = useSession();
const act = useActing();
const { clock, date } = useClock();
const chosen = ref<string | null>(null);
const showOff = ref(false);

type Named = { id: string; name: string };
interface Standing {
  person: Named;
  agent: AgentLive;
  call: CallLive | null;
}

const levels = useQueueLevels();
/** All at once and at random have no order to be told. */
const isOrdered = (kind: DistributionKind) => kind !== 'random' && kind !== 'allAtOnce';
const ringsNext = (kind: DistributionKind) =>
  kind === 'random'
    ? 'One of these rings next'
    : kind === 'allAtOnce'
      ? 'Ring together'
      : 'Rings next, in this order';
const standsOnFloor = (agent: AgentLive) => showOff.value || agent.state !== 'signedOut';
/** Gone through once for all queues: there may be ten thousand agents. */
const byTeam = computed(() => {
  const teams = new Map<string, AgentLive[]>();
  for (const agent of live.agents.values()) {
    if (agent.teamId === null || !standsOnFloor(agent)) continue;
    const team = teams.get(agent.teamId);
    if (team === undefined) teams.set(agent.teamId, [agent]);
    else team.push(agent);
  }
  return teams;
});

function membersOf(queue: Queue): Standing[] {
  const agents = queue.members.flatMap((id) => {
    const agent = live.agents.get(id);
    return agent === undefined ? (byTeam.value.get(id) ?? []) : standsOnFloor(agent) ? [agent] : [];
  });
  return [...new Set(agents)].map((agent) => ({
    person: { id: agent.personId, name: agent.name },
    agent,
    call: live.calls.get(agent.callIds.at(-1) ?? '') ?? null,
  }));
}

const columns = computed(() =>
  (setUp.queues ?? [])
    .filter((queue) => !queue.retired)
    .map((queue) => {
      const members = membersOf(queue);
      const now = live.queues.get(queue.id);
      const places = new Map((now?.next ?? []).map((id, place) => [id, place]));
      // Beyond those who are named nobody's place is known; they are eligible all the same.
      const isNext = ({ agent }: Standing) =>
        places.has(agent.personId) || (agent.eligible && (now?.idle ?? 0) > places.size);
      const placeOf = ({ agent }: Standing) => places.get(agent.personId) ?? places.size;
      const next = members
        .filter((each) => each.agent.state === 'ringing' || isNext(each))
        .sort((one, other) => placeOf(one) - placeOf(other) || one.agent.since - other.agent.since);
      const busy = members.filter(({ agent }) => agent.state === 'talking' || agent.state === 'wrappingUp');
      const shown = new Set([...next, ...busy].map(({ person }) => person.id));
      const away = members.filter(
        ({ person, agent }) => !shown.has(person.id) && agent.state !== 'signedOut',
      );
      const off = members.filter(({ person, agent }) => !shown.has(person.id) && agent.state === 'signedOut');
      const waiting = [...live.calls.values()]
        .filter(
          (call) =>
            call.queueId === queue.id &&
            call.direction === 'inbound' &&
            (call.stage === 'waiting' || call.stage === 'ringing'),
        )
        .sort((one, other) => one.arrivedAt - other.arrivedAt);
      const contacts = [...live.calls.values()].filter(
        (call) => call.queueId === queue.id && call.stage === 'dialling',
      ).length;
      return { queue, now, level: levels.value.get(queue.id), next, busy, away, off, waiting, contacts };
    }),
);

const sentence = computed(() => {
  const { signedIn: agents, unreachable: stuck } = live;
  const waiting = [...live.queues.values()].reduce((sum, queue) => sum + queue.waiting + queue.offering, 0);
  const callers = waiting === 1 ? '1 caller waiting' : `${waiting} callers waiting`;
  return `${date(live.now)} ${clock(live.now)}. ${callers}, ${agents} agents signed in${stuck > 0 ? `, ${stuck} cannot be rung` : ''}`;
});

function setState(person: Named, state: 'available' | 'away' | 'signedOut', said: string): Promise<boolean> {
  const params = { path: { id: person.id } };
  const body = { state, ...(state === 'away' ? { reason: 'break' } : {}) };
  return act(() => ask(api.POST('/api/people/{id}/state', { params, body })), said);
}

const turn = (key: string) => (chosen.value = chosen.value === key ? null : key);

/** Calls that wait in no queue: with a person directly, in voicemail, being dialled. */
const elsewhere = computed(() =>
  [...live.calls.values()].filter((call) => call.queueId === null && call.direction !== 'line'),
);
</script>

<template>
  <PageHead title="Floor" :sentence="sentence">
    <span class="second small">Rope length is time waited</span>
    <v-checkbox v-model="showOff" label="with those signed out" />
  </PageHead>
  <EmergencyCalls />
  <EmptyLine
    v-if="columns.length === 0 && setUp.queues !== null"
    text="No queue yet. The floor shows queues side by side, with who waits and who takes their calls."
  >
    <router-link to="/queues">Make a queue</router-link>
  </EmptyLine>
  <div v-else class="floor">
    <section v-for="column in columns" :key="column.queue.id" class="queue" :aria-label="column.queue.name">
      <header>
        <h2>
          <router-link class="quiet" :to="`/queues/${column.queue.id}`">{{ column.queue.name }}</router-link>
        </h2>
        <span class="second"
          >{{ column.waiting.length }} waiting{{
            column.now?.callBacks ? `, ${column.now.callBacks} of them to be called back` : ''
          }}</span
        >
        <span class="small second"
          >{{ column.now?.signedIn ?? 0 }} signed in, {{ column.now?.idle ?? 0 }} free</span
        >
        <span class="small second">{{ column.contacts > 0 ? `${column.contacts} contacts ring` : '' }}</span>
        <span class="small second goal">{{
          column.level &&
          goalWords(column.level.inTime, column.level.offered, {
            percent: column.queue.goalPercent,
            seconds: column.queue.goalSeconds,
          })
        }}</span>
      </header>
      <WaitingBeam :calls="column.waiting" :now="live.now" :limit="column.queue.maxWaitSeconds" />
      <template
        v-for="part in [
          {
            word: ringsNext(column.queue.distribution),
            rows: column.next,
            numbered: isOrdered(column.queue.distribution),
          },
          { word: 'Busy', rows: column.busy, numbered: false },
          { word: 'Will not be rung', rows: column.away, numbered: false },
          ...(showOff ? [{ word: 'Signed out', rows: column.off, numbered: false }] : []),
        ]"
        :key="part.word"
      >
        <h3 v-if="part.rows.length > 0">{{ part.word }}</h3>
        <ul>
          <li
            v-for="({ person, agent, call }, index) in part.rows"
            :key="person.id"
            :class="{ chosen: chosen === `${column.queue.id} ${person.id}` }"
          >
            <AgentRow
              :person="person"
              :agent="agent"
              :place="part.numbered && agent.state !== 'ringing' ? index + 1 : null"
              :now="live.now"
              @press="turn(`${column.queue.id} ${person.id}`)"
            />
            <div v-if="chosen === `${column.queue.id} ${person.id}`" class="more">
              <p v-if="call" class="second small">
                <router-link :to="`/calls/${call.callId}`">{{
                  call.callerName ?? formatNumber(call.direction === 'outbound' ? call.to : call.from)
                }}</router-link>
                {{ call.direction === 'outbound' ? 'called by' : 'on' }}
                {{
                  call.campaignId
                    ? setUp.nameOf(call.campaignId)
                    : (directory.ofDigits(call.to)?.name ?? call.to)
                }}, {{ span(live.now - call.arrivedAt) }}
              </p>
              <p v-if="agent.reachedBy && agent.reachedBy !== 'softphone'" class="small second">
                Reached by {{ reachedWords[agent.reachedBy] }}
              </p>
              <p v-if="agent.line" class="small second">
                <Shape name="outside" />
                {{ agent.line === 'open' ? 'Line held open' : 'Line being asked for' }}
              </p>
              <div class="buttons">
                <template v-if="session.mayOperate">
                  <v-btn
                    v-if="agent.state === 'away'"
                    class="small-button"
                    @click="setState(person, 'available', `${person.name} is back.`)"
                    >Back</v-btn
                  >
                  <v-btn
                    v-else-if="agent.state !== 'signedOut'"
                    class="small-button"
                    @click="setState(person, 'away', `${person.name} is on a break.`)"
                    >Put on a break</v-btn
                  >
                  <v-btn
                    v-if="agent.state !== 'signedOut'"
                    class="small-button"
                    @click="setState(person, 'signedOut', `${person.name} is signed out.`)"
                    >Sign out</v-btn
                  >
                  <v-btn
                    v-else
                    class="small-button"
                    @click="setState(person, 'available', `${person.name} is signed in.`)"
                    >Sign in</v-btn
                  >
                </template>
                <router-link :to="`/people/${person.id}`">Sheet</router-link>
                <router-link v-if="call" :to="`/calls/${call.callId}`">Why this call</router-link>
              </div>
            </div>
          </li>
        </ul>
      </template>
      <p v-if="column.next.length + column.busy.length + column.away.length === 0" class="second none">
        <Shape :name="column.waiting.length > 0 ? 'fault' : 'missing'" /> Nobody is signed in
      </p>
    </section>
  </div>
  <p v-if="columns.length > 0 && elsewhere.length > 0" class="elsewhere second small">
    {{ elsewhere.length === 1 ? '1 call' : `${elsewhere.length} calls` }} outside the queues, straight to a
    person or in voicemail. {{ live.signedIn }} signed in over all.
  </p>
</template>

<style scoped>
.floor {
  flex: 1;
  min-height: 0;
  overflow: auto;
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: minmax(262px, 1fr);
}
.queue {
  border-right: 1px solid var(--rule);
  padding-bottom: 20px;
}
header {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  align-items: baseline;
  gap: 0 8px;
  padding: 12px 12px 8px;
}
h2 {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
/* Where nothing is known yet the line stays, so that the beams hang side by side. */
.goal {
  grid-column: 1 / -1;
  min-height: 18px;
}
.quiet {
  color: inherit;
  font-weight: inherit;
  text-decoration: none;
}
.quiet:hover {
  text-decoration: underline;
}
h3 {
  font: 400 12px/24px var(--sans);
  color: var(--ink2);
  padding: 6px 12px 0;
  border-bottom: 1px solid var(--rule2);
}
li {
  border-bottom: 1px solid var(--rule);
}
li.chosen {
  background: var(--sel);
}
.more {
  padding: 0 12px 8px 34px;
  display: flex;
  flex-direction: column;
  gap: 4px;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
}
.none {
  padding: 12px;
}
.elsewhere {
  padding: 6px 20px;
  border-top: 1px solid var(--rule);
}
</style>
