<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { formatNumber } from '@night-bell/core/numbers/format';
import type { CallResult } from '@night-bell/core/story/facts';
import { api, ask, type CallLive, type DeskView } from '../../api/client.ts';
import PageHead from '../../kit/PageHead.vue';
import Shape from '../../kit/Shape.vue';
import StateWord from '../../kit/StateWord.vue';
import { span } from '@night-bell/core/story/span';
import { useClock } from '../../kit/time.ts';
import { reachedWords, resultOf } from '@night-bell/core/story/words';
import { agentWords } from '../../kit/words.ts';
import { useKeys } from '../../shell/keys.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import DeskCall from './DeskCall.vue';
import DeskHandset from './DeskHandset.vue';
import HandOver from './HandOver.vue';
import { phoneTitle } from '../phones/words.ts';
import TextThreads from '../texts/TextThreads.vue';
import DeskGroups from './DeskGroups.vue';
import DeskMessages from '../voicemail/DeskMessages.vue';
import { useHandset } from './handset.ts';

/** The agent's own page: state, phone, the call at hand with script and record, and what was before. */
const session = useSession();
const live = useLive();
const notices = useNotices();
const { moment } = useClock();
const view = ref<DeskView | null>(null);
const reasons = computed(() => view.value?.awayReasons ?? []);

const me = computed(() => session.view?.person?.id ?? '');
const agent = computed(() => live.agents.get(me.value));
/** My part in each of my calls; `told` when a colleague announces it to me. */
const parts = computed(() =>
  [...live.calls.values()]
    .filter((call) => call.direction !== 'line')
    .flatMap((call) => {
      const told = call.consulted?.personId === me.value;
      if (!told && call.personId !== me.value) return [];
      const { rings, phoneId } = told
        ? call.consulted!
        : { rings: call.stage === 'ringing', phoneId: call.phoneId };
      // What I dialled is mine from the first ring on.
      return rings || call.stage === 'talking' || call.direction === 'dialled'
        ? [{ call, told, rings, phoneId }]
        : [];
    }),
);
/** What rings comes before what is talked on; a held call waits. */
const part = computed(() => parts.value.find(({ rings }) => rings) ?? parts.value[0] ?? null);
const current = computed<CallLive | null>(() => part.value?.call ?? null);
const handingOver = ref<string | null>(null);
const wrapUpCall = ref<string | null>(null);
const shownCall = computed(() => current.value?.callId ?? wrapUpCall.value);

async function load(): Promise<void> {
  view.value = await ask(api.GET('/api/desk')).catch(() => view.value);
}
watch([() => live.endedCalls, () => live.configurationChanges], load, { immediate: true });
// A call that is over stays on the desk until its outcome is given or the next one comes.
watch(
  () => current.value,
  (call, before) => {
    if (handingOver.value !== call?.callId) handingOver.value = null;
    // Who only heard of a caller has nothing to say of how it ended.
    const mine = before?.personId === me.value && before.stage === 'talking';
    if (call === null && mine) wrapUpCall.value = before.callId;
    else if (call !== null) wrapUpCall.value = null;
  },
);

const browser = computed(() => view.value?.phones.find((phone) => phone.kind === 'browser'));
const isBrowser = computed(
  () => browser.value !== undefined && agent.value?.chosenPhoneId === browser.value.id,
);
const { there } = useHandset(isBrowser);
const isHere = computed(() => part.value?.phoneId != null && part.value.phoneId === browser.value?.id);

const phones = computed(() => [
  {
    key: 'page',
    id: browser.value?.id ?? null,
    word: 'This page',
    second: 'a handset here, without sound',
  },
  ...(view.value?.phones ?? [])
    .filter((phone) => phone.kind !== 'browser')
    .map((phone) => ({
      key: phone.id,
      id: phone.id as string | null,
      word:
        phone.kind === 'outside' ? 'Outside number' : `${phoneTitle(phone)}${phone.home ? ' at home' : ''}`,
      second: phone.kind === 'outside' ? formatNumber(phone.e164 ?? '') : phone.account,
    })),
]);

async function act(work: () => Promise<unknown>): Promise<void> {
  try {
    await work();
  } catch (error) {
    notices.fail(error);
  }
}
const setState = (state: 'available' | 'away' | 'signedOut' | 'wrapUpOver', reason?: string) =>
  act(() =>
    ask(api.POST('/api/desk/state', { body: { state, ...(reason === undefined ? {} : { reason }) } })),
  );
const choosePhone = (phone: string | null) =>
  act(async () => {
    await ask(api.POST('/api/desk/phone', { body: { phone: phone as string } }));
    await load();
  });
const line = (open: boolean) => act(() => ask(api.POST('/api/desk/line', { body: { open } })));

const press = (what: 'answer' | 'decline' | 'hang-up' | 'take-back') => {
  const id = current.value?.callId;
  if (id === undefined) return Promise.resolve();
  const path = `/api/desk/calls/{id}/${what}` as '/api/desk/calls/{id}/answer';
  return act(() => ask(api.POST(path, { params: { path: { id } } })));
};

const sentence = computed(() => {
  const now = agent.value;
  if (now === undefined) return 'The exchange does not know you as an agent';
  const what = now.state === 'away' ? `Away, ${now.awayReason ?? ''}` : agentWords[now.state];
  return now.state === 'signedOut' ? 'Signed out of the queues' : `${what} for ${span(live.now - now.since)}`;
});
const wrapUpLeft = computed(() =>
  agent.value?.wrapUpUntil == null ? null : Math.max(0, agent.value.wrapUpUntil - live.now),
);

function finished(): void {
  wrapUpCall.value = null;
  if (agent.value?.state === 'wrappingUp') void setState('wrapUpOver');
  void load();
}

useKeys({
  a: () => {
    if (isHere.value && part.value?.rings === true) void press('answer');
  },
  d: () => {
    if (part.value?.rings === true) void press('decline');
  },
  h: () => {
    if (part.value?.rings === false) void press('hang-up');
  },
  o: () => {
    const now = part.value;
    if (now?.rings === false && !now.told && now.call.direction === 'inbound')
      handingOver.value = now.call.callId;
  },
  b: () => {
    if (part.value?.told === false && current.value?.consulted != null) void press('take-back');
  },
});
</script>

<template>
  <PageHead title="Desk" :sentence="sentence">
    <template v-if="agent">
      <v-btn v-if="agent.state === 'wrappingUp'" @click="finished">End wrap-up</v-btn>
      <v-btn
        v-if="agent.state === 'signedOut' || agent.state === 'away'"
        variant="flat"
        color="primary"
        @click="setState('available')"
        >{{ agent.state === 'away' ? 'Back' : 'Sign in to the queues' }}</v-btn
      >
      <v-menu v-if="agent.state !== 'signedOut' && agent.state !== 'away'">
        <template #activator="{ props: menu }"><v-btn v-bind="menu">Go away</v-btn></template>
        <v-list>
          <v-list-item
            v-for="reason in reasons"
            :key="reason"
            :title="reason"
            @click="setState('away', reason)"
          />
        </v-list>
      </v-menu>
      <v-btn v-if="agent.state !== 'signedOut'" @click="setState('signedOut')">Sign out</v-btn>
    </template>
  </PageHead>
  <div class="halves">
    <div class="main">
      <template v-if="part">
        <DeskHandset
          :call="part.call"
          :rings="part.rings"
          :told="part.told"
          :here="isHere"
          :phone="agent?.reachedBy ? reachedWords[agent.reachedBy] : 'phone'"
          @answer="press('answer')"
          @decline="press('decline')"
          @hang-up="press('hang-up')"
          @take-back="press('take-back')"
          @hand-over="handingOver = part.call.callId"
        />
        <HandOver
          v-if="handingOver === part.call.callId && part.call.consulted === null && !part.rings"
          :key="handingOver"
          :call-id="handingOver"
          @done="handingOver = null"
        />
      </template>
      <section v-else-if="wrapUpLeft !== null && wrapUpLeft > 0" class="handset wrap" aria-label="Wrap-up">
        <Shape name="wrappingUp" />
        <div>
          <h2>Wrap-up</h2>
          <p class="second">
            <span class="mono">{{ span(wrapUpLeft) }}</span> left
          </p>
        </div>
      </section>
      <section v-else class="handset idle">
        <Shape :name="agent?.state ?? 'signedOut'" />
        <p>
          {{
            agent === undefined || agent.state === 'signedOut'
              ? 'Choose your phone and sign in; calls come by themselves.'
              : agent.reachedBy === null
                ? 'None of your phones can be reached. Choose this page, or check your softphone.'
                : 'No call at this moment.'
          }}
        </p>
      </section>
      <DeskCall
        v-if="shownCall"
        :key="shownCall"
        :call-id="shownCall"
        :over="current === null"
        @finished="finished"
      />
      <p v-else class="second empty">Script, record and outcome of a call appear here when it rings.</p>
    </div>
    <aside>
      <section>
        <h2>Phone that rings</h2>
        <ul class="phones">
          <li>
            <label>
              <input
                type="radio"
                name="phone"
                :checked="agent?.chosenPhoneId == null"
                @change="choosePhone(null)"
              />
              <span>Whichever is there <span class="second small">first in ring order</span></span>
            </label>
          </li>
          <li v-for="phone in phones" :key="phone.key">
            <label>
              <input
                type="radio"
                name="phone"
                :checked="phone.id !== null && agent?.chosenPhoneId === phone.id"
                @change="choosePhone(phone.key)"
              />
              <span
                >{{ phone.word }}
                <span class="second small" :class="{ mono: phone.key !== 'page' }">{{
                  phone.second
                }}</span></span
              >
            </label>
          </li>
        </ul>
        <p v-if="isBrowser" class="small second">
          <StateWord
            :shape="there ? 'registered' : 'unregistered'"
            :word="there ? 'This page is your phone' : 'Connecting'"
          />
        </p>
        <div v-if="agent?.phone === 'outside' || agent?.line" class="line">
          <v-btn v-if="agent.line === null" class="small-button" @click="line(true)">Hold a line open</v-btn>
          <v-btn v-else class="small-button" @click="line(false)">Close the line</v-btn>
          <p class="small second">
            {{
              agent.line === 'open'
                ? 'Your line is open: campaign calls come at once.'
                : agent.line === 'asked'
                  ? 'Your number rings. Lift and press 1.'
                  : 'Campaign calls need a line that is open: your number rings once, press 1, stay on it.'
            }}
          </p>
        </div>
      </section>
      <DeskGroups />
      <DeskMessages />
      <section>
        <h2>Texts</h2>
        <TextThreads may-write />
      </section>
      <section>
        <h2>Latest calls</h2>
        <p v-if="view && view.lastCalls.length === 0" class="second">None yet.</p>
        <ul class="last">
          <li v-for="call in view?.lastCalls ?? []" :key="call.id">
            <button class="list-row" type="button" @click="wrapUpCall = call.id">
              <span class="mono second">{{ moment(call.arrivedAt) }}</span>
              <span class="name">{{ call.name ?? formatNumber(call.number) }}</span>
              <span class="mono">{{ call.talkedMs > 0 ? span(call.talkedMs) : '' }}</span>
              <span class="second small about"
                >{{ call.direction === 'outbound' ? 'out, ' : '' }}{{ call.about ?? 'directly' }}</span
              >
              <span class="small last-word" :class="call.outcome ? '' : 'second'">{{
                call.outcome ??
                (call.result === 'answered'
                  ? 'no outcome'
                  : resultOf(call.result as CallResult, call.direction))
              }}</span>
            </button>
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
}
:deep(.handset) {
  display: grid;
  grid-template-columns: 16px 1fr auto;
  gap: 12px;
  align-items: center;
  padding: 14px 20px;
  min-height: 66px;
  border-bottom: 1px solid var(--rule2);
}
:deep(.handset.ringing) {
  background: color-mix(in srgb, var(--brass) 12%, transparent);
}
:deep(.handset.talking) {
  background: color-mix(in srgb, var(--teal) 10%, transparent);
}
:deep(.handset .buttons) {
  display: flex;
  gap: 8px;
}
.empty {
  padding: 24px 20px;
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
.phones label {
  display: flex;
  gap: 8px;
  align-items: baseline;
  padding: 4px 0;
  cursor: pointer;
}
.line {
  padding-top: 8px;
  display: flex;
  flex-direction: column;
  gap: 6px;
  align-items: flex-start;
}
.list-row {
  grid-template-columns: 92px 1fr 84px;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.list-row > .mono:nth-child(3),
.last-word {
  text-align: right;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.about {
  grid-column: 2;
}
</style>
