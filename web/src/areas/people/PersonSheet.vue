<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import { formatNumber } from '@night-bell/core/numbers/format';
import { api, ask, ifMatch, type Person, type PhoneSecret, type UsedBy } from '../../api/client.ts';
import { useActing } from '../../kit/acting.ts';
import HistoryList from '../../kit/HistoryList.vue';
import SecretLine from '../../kit/SecretLine.vue';
import Sheet from '../../kit/Sheet.vue';
import StateWord from '../../kit/StateWord.vue';
import { span } from '@night-bell/core/story/span';
import UsedByList from '../../kit/UsedByList.vue';
import { agentWords, phoneWords } from '../../kit/words.ts';
import { useLive } from '../../shell/live.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import { useTestCall } from '../../shell/test-call.ts';
import PersonPhones from '../phones/PersonPhones.vue';
import PersonAccess from './PersonAccess.vue';
import { useFreshCodes } from './fresh-codes.ts';
import PersonForm from './PersonForm.vue';
import PersonGlance from './PersonGlance.vue';
import { personWords, showPerson } from './words.ts';

const props = defineProps<{ person: Person; users: readonly UsedBy[] }>();
const codes = useFreshCodes();
const emit = defineEmits<{ close: []; like: [person: Person] }>();
const setUp = useSetUp();
const session = useSession();
const act = useActing();
const live = useLive();
const test = useTestCall();
const route = useRoute();
const tab = ref(route.query.tab === 'phones' ? 1 : 0);
const phoneSecret = ref<PhoneSecret | null>(null);
const awayReason = ref<string | null>(null);

const agent = computed(() => live.agents.get(props.person.id));
const show = showPerson(setUp.nameOf);
const reasons = computed(() => setUp.agentSettings?.awayReasons ?? ['break']);
const outside = computed(() => props.person.phones.find((phone) => phone.kind === 'outside'));
const path = computed(() => ({ id: props.person.id }));
const guarded = () => ({ params: { path: path.value, header: ifMatch(props.person.version) } });

const fresh = computed(() => codes.byId.get(props.person.id) ?? null);
watch(fresh, (code) => (phoneSecret.value = code?.phone ?? phoneSecret.value), { immediate: true });
const signInCode = computed(() => fresh.value?.signInCode ?? '');
function letIn(code: string): void {
  const { id, name, login, extension } = props.person;
  codes.keep([
    { ...{ id, name, login, extension: extension ?? '', signInCode: code, phone: null, sentTo: null } },
  ]);
}

function setState(state: 'available' | 'away' | 'signedOut' | 'wrapUpOver', said: string): Promise<boolean> {
  const body = { state, ...(state === 'away' ? { reason: awayReason.value ?? reasons.value[0]! } : {}) };
  return act(() => ask(api.POST('/api/people/{id}/state', { params: { path: path.value }, body })), said);
}

const retire = () =>
  act(() => ask(api.POST('/api/people/{id}/retire', guarded())), `${props.person.name} is deactivated.`);
const reactivate = () =>
  act(() => ask(api.POST('/api/people/{id}/reactivate', guarded())), `${props.person.name} is back.`);
</script>

<template>
  <Sheet
    v-model:tab="tab"
    :title="person.name"
    :second="`Extension ${person.extension}${person.teamName ? `, ${person.teamName}` : ''}`"
    :tabs="['Person', 'Phones', 'Getting in', `Used by ${users.length}`, 'History']"
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

    <template v-if="tab === 0">
      <section v-if="signInCode || phoneSecret" class="secrets">
        <h3>Shown this once</h3>
        <SecretLine
          v-if="signInCode"
          label="Sign-in code"
          :value="signInCode"
          :taker="`For ${person.name}: the first sign-in as ${person.login}, within 14 days`"
        />
        <div class="buttons">
          <v-btn v-if="phoneSecret" @click="tab = 1">The phone's set-up</v-btn>
          <v-btn @click="(codes.hide(person.id), (phoneSecret = null))">I have it, hide it</v-btn>
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
          <button class="link small" type="button" @click="tab = 1">
            {{ agent.phone === 'refused' ? 'See why, and mend it' : 'Phones' }}
          </button>
        </h3>
        <p v-if="agent.phone === 'refused'" class="fault-text">
          The registrar refused it: {{ agent.phoneWhy }}.
        </p>
        <p v-else-if="agent.phone === 'outside'" class="second">
          Dialled on <span class="mono">{{ formatNumber(outside?.e164 ?? '') }}</span> over
          {{ setUp.nameOf(outside?.trunkId ?? '') }}; takes a call with key 1.
          {{ agent.line === 'open' ? 'A line is held open: campaigns reach them too.' : '' }}
        </p>
        <p v-else-if="agent.phone !== 'registered'" class="second">
          {{ agent.phoneWhy === '' ? 'It has never registered.' : `It is away: ${agent.phoneWhy}.` }}
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
              for
              <v-select
                :model-value="awayReason ?? reasons[0]"
                :items="reasons"
                aria-label="Reason for being away"
                @update:model-value="awayReason = $event"
              />
            </span>
            <v-btn @click="setState('signedOut', `${person.name} is signed out.`)">Sign out</v-btn>
          </template>
          <v-btn @click="test.show(person.extension)">Test a call to {{ person.extension }}</v-btn>
        </div>
      </section>

      <PersonGlance :person="person" :users="users" />
      <PersonForm :person="person" />

      <section v-if="session.mayEdit">
        <div class="buttons flat">
          <template v-if="!person.retired">
            <v-btn @click="emit('like', person)">New like this one</v-btn>
            <v-btn @click="retire">Deactivate</v-btn>
          </template>
          <v-btn v-else @click="reactivate">Reactivate</v-btn>
        </div>
      </section>
    </template>

    <PersonPhones v-else-if="tab === 1" :person="person" :secret="phoneSecret" />
    <PersonAccess v-else-if="tab === 2" :person="person" @code="(letIn($event), (tab = 0))" />
    <UsedByList
      v-else-if="tab === 3"
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
.phone :deep(.state) {
  font-weight: 400;
}
.phone .link {
  margin-left: auto;
}
.away {
  display: flex;
  align-items: center;
  gap: 6px;
}
.away :deep(.v-select) {
  width: 92px;
}
.flat {
  margin-top: 0;
}
</style>
