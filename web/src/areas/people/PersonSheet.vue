<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { formatNumber } from '@night-bell/core/numbers/format';
import { api, ask, ifMatch, type NewPerson, type Person, type UsedBy } from '../../api/client.ts';
import { useActing } from '../../kit/acting.ts';
import ConflictNote from '../../kit/ConflictNote.vue';
import { useEditing } from '../../kit/editing.ts';
import HistoryList from '../../kit/HistoryList.vue';
import LedgerField from '../../kit/LedgerField.vue';
import SecretLine from '../../kit/SecretLine.vue';
import Sheet from '../../kit/Sheet.vue';
import StateWord from '../../kit/StateWord.vue';
import { span, useClock } from '../../kit/time.ts';
import UsedByList from '../../kit/UsedByList.vue';
import { agentWords, phoneWords, roleWords } from '../../kit/words.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import { useTestCall } from '../../shell/test-call.ts';
import TeamField from './TeamField.vue';
import { personWords, showPerson } from './words.ts';

type Draft = Pick<
  Person,
  | 'name'
  | 'login'
  | 'extension'
  | 'role'
  | 'teamId'
  | 'callLimit'
  | 'ringSeconds'
  | 'signInWithPhone'
  | 'home'
  | 'outsideNumber'
>;
type Secrets = Partial<Pick<NewPerson, 'signInCode' | 'registrationSecret' | 'enrolmentCode'>>;

const props = defineProps<{ person: Person; made: NewPerson | null }>();
const emit = defineEmits<{ close: [] }>();
const setUp = useSetUp();
const session = useSession();
const notices = useNotices();
const act = useActing();
const live = useLive();
const test = useTestCall();
const { moment } = useClock();
const tab = ref(0);
const users = ref<UsedBy[]>([]);
const secrets = ref<Secrets>({});
const awayReason = ref('break');

const agent = computed(() => live.agents.get(props.person.id));
const show = showPerson(setUp.nameOf);
const softphone = computed(() => props.person.phones.find((phone) => phone.kind === 'softphone'));
const outside = computed(() => props.person.phones.find((phone) => phone.kind === 'outside'));
const roles = Object.entries(roleWords).map(([value, title]) => ({ value, title }));
const path = computed(() => ({ id: props.person.id }));
const guarded = () => ({ params: { path: path.value, header: ifMatch(props.person.version) } });

const { draft, faults, general, saving, changed, conflict, begin, save, keepMine, takeTheirs } =
  useEditing<Draft>(async (value, version) => {
    await ask(
      api.PUT('/api/people/{id}', { params: { path: path.value, header: ifMatch(version) }, body: value }),
    );
    await setUp.load();
    await notices.saved(`${value.name} is saved.`, props.person.id);
  });

function draftOf(person: Person): Draft {
  const { name, login, extension, role, teamId, callLimit, ringSeconds, signInWithPhone } = person;
  const { home, outsideNumber } = person;
  return {
    name,
    login,
    extension,
    role,
    teamId,
    callLimit,
    ringSeconds,
    signInWithPhone,
    home,
    outsideNumber: outsideNumber === null ? null : { ...outsideNumber },
  };
}

// Somebody's later version is taken at once unless something here is unsaved; then saving tells.
watch(
  () => props.person,
  (person) => {
    if (!changed.value) begin(draftOf(person), person.version);
    void ask(api.GET('/api/people/{id}', { params: { path: path.value } }))
      .then((answer) => (users.value = answer.usedBy))
      .catch(() => undefined);
  },
  { immediate: true },
);
watch(
  () => props.made,
  (made) => {
    if (made?.id === props.person.id) secrets.value = made;
  },
  { immediate: true },
);

function reachOutside(on: boolean): void {
  const first = (setUp.trunks ?? []).find((each) => !each.retired);
  if (on && first === undefined) {
    notices.say('There is no trunk yet to dial over. Make one first, under Trunks.');
    return;
  }
  if (draft.value !== null) draft.value.outsideNumber = on ? { e164: '', trunkId: first!.id } : null;
}

function setState(state: 'available' | 'away' | 'signedOut' | 'wrapUpOver', said: string): Promise<boolean> {
  const body = { state, ...(state === 'away' ? { reason: awayReason.value.trim() || 'break' } : {}) };
  return act(() => ask(api.POST('/api/people/{id}/state', { params: { path: path.value }, body })), said);
}

const retire = () =>
  act(() => ask(api.POST('/api/people/{id}/retire', guarded())), `${props.person.name} is deactivated.`);
const reactivate = () =>
  act(() => ask(api.POST('/api/people/{id}/reactivate', guarded())), `${props.person.name} is back.`);

const newCode = () =>
  act(async () => {
    secrets.value = await ask(api.POST('/api/people/{id}/code', { params: { path: path.value } }));
  }, 'The old password and all sign-ins of this person have ended.');

const newSecret = () =>
  act(async () => {
    secrets.value = await ask(api.POST('/api/people/{id}/phone-secret', { params: { path: path.value } }));
  }, 'The old registration secret no longer works.');

const handOver = () =>
  act(
    () => ask(api.POST('/api/stand-ins/enrolments', { body: { code: secrets.value.enrolmentCode ?? '' } })),
    'Handed over. The phone fetches its set-up and registers.',
  );
</script>

<template>
  <Sheet
    v-model:tab="tab"
    :title="person.name"
    :second="`Extension ${person.extension}${person.teamName ? `, ${person.teamName}` : ''}`"
    :tabs="['Agent and phone', `Used by ${users.length}`, 'History']"
    @close="emit('close')"
  >
    <template #state>
      <span v-if="person.retired" class="second">Deactivated</span>
      <template v-else-if="agent">
        <StateWord :shape="agent.state" :word="agentWords[agent.state]" />
        <p class="small second">
          {{ agent.state === 'away' && agent.awayReason ? `${agent.awayReason}, ` : ''
          }}{{ agent.state === 'signedOut' ? '' : `for ${span(live.now - agent.since)}` }}
        </p>
      </template>
    </template>

    <template v-if="tab === 0 && draft">
      <section v-if="secrets.signInCode || secrets.registrationSecret" class="secrets">
        <h3>Shown this once</h3>
        <SecretLine
          v-if="secrets.signInCode"
          label="Sign-in code"
          :value="secrets.signInCode"
          :taker="`For ${person.name}: the first sign-in as ${person.login}, within 14 days`"
        />
        <SecretLine
          v-if="secrets.registrationSecret"
          label="Phone secret"
          :value="secrets.registrationSecret"
          :taker="`For a phone set up by hand: account ${softphone?.account ?? ''}`"
        />
        <SecretLine
          v-if="secrets.enrolmentCode"
          label="Enrolment"
          :value="secrets.enrolmentCode"
          taker="A new phone fetches its whole set-up with this code, once"
        />
        <div class="buttons">
          <v-btn v-if="secrets.enrolmentCode && agent?.phone !== 'registered'" @click="handOver"
            >Hand to a stand-in phone</v-btn
          >
          <v-btn @click="secrets = {}">Put away</v-btn>
        </div>
      </section>

      <section v-if="agent && !person.retired">
        <h3 class="phone">
          Phone
          <StateWord
            :shape="agent.phone"
            :word="phoneWords[agent.phone]"
            :tone="agent.state !== 'signedOut' ? 'fault' : undefined"
          />
          <span
            v-if="agent.phone !== 'outside' && agent.phoneSince && agent.phoneSince > 0"
            class="second small"
            >since {{ moment(agent.phoneSince) }}</span
          >
        </h3>
        <p v-if="agent.phone === 'refused'" class="fault-text">
          The registrar refused it: {{ agent.phoneWhy }}. Make a new phone secret and hand its enrolment code
          to the phone.
        </p>
        <p v-else-if="agent.phone === 'outside'" class="second">
          Dialled on <span class="mono">{{ formatNumber(outside?.e164 ?? '') }}</span> over
          {{ setUp.nameOf(outside?.trunkId ?? '') }}; takes a call with key 1.
          {{ agent.line === 'open' ? 'A line is held open: campaigns reach them too.' : '' }}
        </p>
        <p v-else-if="agent.phone !== 'registered'" class="second">
          {{ agent.phoneWhy === '' ? 'It has never registered.' : `It is away: ${agent.phoneWhy}.` }}
        </p>
        <p v-else class="second">
          {{ agent.reachedBy === 'browser' ? 'Their own page plays the phone.' : '' }}
          <template v-if="agent.reachedBy !== 'browser'"
            >Account <span class="mono">{{ softphone?.account }}</span>{{
              softphone?.home ? ', at home,' : ''
            }}
            from <span class="mono">{{ agent.phoneAddress }}</span></template
          >
        </p>
        <div v-if="session.mayOperate" class="buttons">
          <v-btn
            v-if="agent.state === 'signedOut' || agent.state === 'away'"
            @click="setState('available', `${person.name} is available.`)"
          >
            {{ agent.state === 'away' ? 'Back from away' : 'Sign in' }}
          </v-btn>
          <v-btn v-if="agent.state === 'wrappingUp'" @click="setState('wrapUpOver', 'The wrap-up is over.')"
            >End wrap-up</v-btn
          >
          <template v-if="agent.state !== 'signedOut'">
            <span v-if="agent.state !== 'away'" class="away">
              <v-btn @click="setState('away', `${person.name} is away.`)">Set away</v-btn>
              for <input v-model="awayReason" aria-label="Reason for being away" maxlength="40" />
            </span>
            <v-btn @click="setState('signedOut', `${person.name} is signed out.`)">Sign out</v-btn>
          </template>
          <v-btn v-if="session.mayEdit && agent.phone === 'refused'" @click="newSecret"
            >Make a new phone secret</v-btn
          >
          <v-btn @click="test.show(person.extension)">Test a call to {{ person.extension }}</v-btn>
        </div>
      </section>

      <PersonForm :person="person" />

      <section>
        <h3>Rings for</h3>
        <p v-if="person.queues.length === 0" class="second">
          No queue. Callers reach {{ person.name }} directly only.
        </p>
        <ul>
          <li v-for="queue in person.queues" :key="queue.id">
            <router-link :to="`/queues/${queue.id}`">{{ queue.name }}</router-link>
          </li>
        </ul>
      </section>
      <section v-if="session.mayEdit">
        <div class="buttons flat">
          <template v-if="!person.retired">
            <v-btn @click="newCode">New sign-in code</v-btn>
            <v-btn v-if="softphone" @click="newSecret">New phone secret</v-btn>
            <v-btn @click="retire">Deactivate</v-btn>
          </template>
          <v-btn v-else @click="reactivate">Reactivate</v-btn>
        </div>
      </section>
    </template>

    <UsedByList
      v-else-if="tab === 1"
      :users="users"
      none="Nothing leads here. Callers can still dial the extension."
    />
    <HistoryList v-else :item-id="person.id" :words="personWords" :show="show" />
  </Sheet>
</template>

<style scoped>
.secrets {
  background: var(--wash);
}
.phone {
  display: flex;
  gap: 10px;
  align-items: baseline;
  font-weight: 600;
}
.phone :deep(.state),
.phone .small {
  font-weight: 400;
}
.away input {
  width: 84px;
}
.away input,
.settings input {
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
  padding: 0 2px;
}
.settings {
  line-height: 28px;
  font-size: 13px;
}
.settings input {
  width: 44px;
  font-family: var(--mono) !important;
}
.outside {
  border-left: 1px solid var(--rule);
  padding-left: 10px;
}
.flat {
  margin-top: 0;
}
li {
  padding: 2px 0;
}
</style>
