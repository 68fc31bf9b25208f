<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { VueDraggable } from 'vue-draggable-plus';
import { deviceModels } from '@night-bell/core/phones/catalogue';
import { misbehaviours, type Misbehaviour } from '@night-bell/core/devices/protocol';
import {
  api,
  ask,
  ifMatch,
  type Person,
  type Phone,
  type PhoneHealth,
  type PhoneSecret,
} from '../../api/client.ts';
import HistoryList from '../../kit/HistoryList.vue';
import SipLadder from '../../kit/SipLadder.vue';
import StateWord from '../../kit/StateWord.vue';
import { useClock } from '../../kit/time.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import LineKeys from './LineKeys.vue';
import OutsidePhone from './OutsidePhone.vue';
import PhoneForm from './PhoneForm.vue';
import SetUpCard from './SetUpCard.vue';
import { misbehaviourWords, phoneTitle, phoneWords, registrationWords, showPhone } from './words.ts';

/** The phones of a person in ring order, and the one chosen: how it is, what mends it, its settings. */
const props = defineProps<{ person: Person; secret: PhoneSecret | null }>();
const setUp = useSetUp();
const session = useSession();
const live = useLive();
const notices = useNotices();
const { moment } = useClock();

const order = ref<Phone[]>([]);
const chosen = ref<string | null>(null);
const health = ref<PhoneHealth | null>(null);
const made = ref<PhoneSecret | null>(props.secret);
const busy = ref(false);
const givesOutside = ref(false);

watch(
  () => props.person.phones,
  (phones) => {
    order.value = [...phones];
    if (!phones.some((phone) => phone.id === chosen.value))
      chosen.value = phones.find((phone) => phone.model !== null)?.id ?? null;
  },
  { immediate: true },
);
const phone = computed(() => props.person.phones.find((each) => each.id === chosen.value));
const standInWays = [
  { value: null, title: 'behaves' },
  ...misbehaviours.map((value) => ({ value: value as Misbehaviour | null, title: misbehaviourWords[value] })),
];

async function look(): Promise<void> {
  const id = phone.value?.model == null ? null : phone.value.id;
  if (id === null) return void (health.value = null);
  const answer = await ask(api.GET('/api/phones/{id}/health', { params: { path: { id } } })).catch(
    () => null,
  );
  if (chosen.value === id) health.value = answer;
}
// The exchange says when a registration changes; messages that change nothing are read every few seconds.
const beat = computed(() => Math.floor(live.now / 4_000));
watch([chosen, () => live.agents.get(props.person.id), beat, () => props.person.phones], look, {
  immediate: true,
});
watch(chosen, () => {
  health.value = null;
  if (made.value?.account !== phone.value?.account) made.value = null;
});

async function act(work: () => Promise<string>): Promise<void> {
  busy.value = true;
  try {
    notices.say(await work());
  } catch (error) {
    notices.fail(error);
  } finally {
    busy.value = false;
    await setUp.load().catch(() => undefined);
    await look();
  }
}
const path = () => ({ params: { path: { id: chosen.value! } } });

const mend = () =>
  act(async () => {
    const { said, secret } = await ask(api.POST('/api/phones/{id}/mend', path()));
    if (secret !== null) made.value = secret;
    return said;
  });
const newSetUp = () =>
  act(async () => {
    made.value = await ask(api.POST('/api/phones/{id}/set-up', path()));
    return 'The secret before no longer works.';
  });
const misbehave = (how: Misbehaviour | null) =>
  act(async () => {
    await ask(api.PUT('/api/stand-ins/phones/{id}', { ...path(), body: { how: how as Misbehaviour } }));
    return how === null ? 'The stand-in behaves again.' : `The stand-in ${misbehaviourWords[how]}.`;
  });
const give = (model: (typeof deviceModels)[number]['id']) =>
  act(async () => {
    const params = { path: { id: props.person.id } };
    const transport = deviceModels.find((each) => each.id === model)!.transports.includes('tls')
      ? 'tls'
      : 'tcp';
    const { phoneId, secret } = await ask(
      api.POST('/api/people/{id}/phones', { params, body: { model, transport } as never }),
    );
    await setUp.load();
    chosen.value = phoneId;
    made.value = secret;
    return `${props.person.name} has another phone. It is tried last.`;
  });
const take = () =>
  act(async () => {
    const params = { path: { id: chosen.value! }, header: ifMatch(phone.value!.version) };
    await ask(api.POST('/api/phones/{id}/retire', { params }));
    return 'The phone is taken away. Its account no longer registers.';
  });
const reorder = () =>
  act(async () => {
    const params = { path: { id: props.person.id } };
    await ask(
      api.PUT('/api/people/{id}/phone-order', { params, body: { ids: order.value.map((each) => each.id) } }),
    );
    return 'They are tried in this order now.';
  });
</script>

<template>
  <section>
    <h3>Phones <span class="second small">the first that can be reached rings</span></h3>
    <VueDraggable
      v-model="order"
      tag="ul"
      handle=".handle"
      :disabled="!session.mayEdit || order.length < 2"
      @end="reorder"
    >
      <li v-for="(each, index) in order" :key="each.id">
        <span class="mono second handle" title="Drag to reorder">{{ index + 1 }}</span>
        <button
          v-if="each.model !== null"
          type="button"
          class="name"
          :class="{ chosen: each.id === chosen }"
          @click="chosen = each.id"
        >
          {{ phoneTitle(each) }}
        </button>
        <span v-else>{{ phoneTitle(each) }}</span>
        <span class="mono second">{{ each.account }}</span>
      </li>
    </VueDraggable>
    <p v-if="order.length === 0" class="second">No phone. That is fine for those who take no calls.</p>
    <v-menu v-if="session.mayEdit && !person.retired">
      <template #activator="{ props: menu }">
        <div class="buttons"><v-btn v-bind="menu">Give another phone</v-btn></div>
      </template>
      <v-list>
        <v-list-item
          v-for="model in deviceModels"
          :key="model.id"
          :title="model.name"
          @click="give(model.id)"
        />
        <v-list-item
          v-if="person.outsideNumber === null"
          title="Outside number"
          subtitle="A mobile or a phone at home that is dialled"
          @click="givesOutside = true"
        />
      </v-list>
    </v-menu>
    <OutsidePhone v-if="givesOutside" :person="person" @close="givesOutside = false" />
  </section>

  <template v-if="phone && phone.model !== null">
    <SetUpCard
      v-if="made && made.account === phone.account"
      :phone="phone"
      :secret="made"
      :registered="health?.registration === 'registered' && health.standIn === null"
      @away="made = null"
    />
    <section v-if="health">
      <h3 class="head">
        {{ phoneTitle(phone) }}
        <StateWord
          :shape="health.registration"
          :word="registrationWords[health.registration]"
          :tone="health.registration === 'refused' ? 'fault' : undefined"
        />
        <span v-if="health.since" class="second small">since {{ moment(health.since) }}</span>
      </h3>
      <p v-if="health.what" class="fault-text">{{ health.what }}</p>
      <p v-else-if="health.registration === 'registered'" class="second">
        From <span class="mono">{{ health.address }}</span>{{
          health.transport ? ` over ${health.transport.toUpperCase()}` : ''
        }}.
        {{ health.codecs ? `It can ${health.codecs.join(', ')}.` : '' }}
      </p>
      <p v-else class="second">It has not registered yet. Hand it a set-up.</p>
      <p v-if="health.moves > 2" class="fault-text">
        Its address has changed {{ health.moves }} times. A router on the way lets the connection lapse:
        shorten its registration, or use TLS.
      </p>
      <div class="buttons">
        <v-btn
          v-if="session.mayEdit && health.mend"
          variant="flat"
          color="primary"
          :loading="busy"
          @click="mend"
          >{{ health.button }}</v-btn
        >
        <v-btn v-if="session.mayEdit && health.mend !== 'newSetUp'" @click="newSetUp">New set-up</v-btn>
        <v-btn v-if="session.mayEdit" @click="take">Take this phone away</v-btn>
      </div>
      <p v-if="health.standIn && session.mayOperate" class="stand-in small">
        A stand-in plays it and
        <v-select
          :model-value="health.standIn.misbehaves"
          aria-label="How the stand-in behaves"
          :items="standInWays"
          @update:model-value="misbehave"
        />
      </p>
      <p v-if="health.standIn?.display?.length" class="small second">
        Its display, when it rang last: {{ health.standIn.display.join(', ') }}
      </p>
    </section>
    <section v-if="health">
      <h3>Last messages</h3>
      <SipLadder :messages="health.messages" :there="phoneTitle(phone)" />
    </section>
    <PhoneForm :key="phone.id" :person="person" :phone="phone" />
    <LineKeys :key="`${phone.id} keys`" :person="person" :phone="phone" />
    <section>
      <h3>History of this phone</h3>
      <HistoryList :item-id="phone.id" :words="phoneWords" :show="showPhone(setUp.nameOf)" />
    </section>
  </template>
</template>

<style scoped>
h3 .second {
  font-weight: 400;
  margin-left: 6px;
}
li {
  display: grid;
  grid-template-columns: 20px 1fr auto;
  gap: 8px;
  align-items: center;
  border-bottom: 1px solid var(--rule);
  min-height: 28px;
}
.handle {
  cursor: grab;
  text-align: right;
}
.name {
  border: 0;
  background: none;
  color: inherit;
  text-align: left;
  cursor: pointer;
  padding: 0;
  text-decoration: underline;
  text-decoration-color: var(--rule2);
  text-underline-offset: 3px;
}
.name.chosen {
  font-weight: 600;
  text-decoration-color: var(--brass);
}
.head {
  display: flex;
  gap: 10px;
  align-items: baseline;
}
.head :deep(.state) {
  font-weight: 400;
}
.stand-in {
  display: flex;
  align-items: center;
  gap: 8px;
  margin-top: 10px;
  color: var(--ink2);
}
.stand-in :deep(.v-select) {
  max-width: 200px;
}
</style>
