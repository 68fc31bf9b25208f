<script setup lang="ts">
import { computed, watch } from 'vue';
import { type Codec, codecs, codecWords, deviceModel, deviceModels } from '@night-bell/core/phones/catalogue';
import { addressWords, type EmergencyAddress } from '@night-bell/core/model/emergency-address';
import { api, ask, ifMatch, type Person, type Phone } from '../../api/client.ts';
import AddressField from '../../kit/AddressField.vue';
import ConflictNote from '../../kit/ConflictNote.vue';
import { useEditing } from '../../kit/editing.ts';
import FormEnd from '../../kit/FormEnd.vue';
import LedgerField from '../../kit/LedgerField.vue';
import ThingField from '../../kit/ThingField.vue';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import { phoneWords, showPhone } from './words.ts';

/** The settings of one device. */
const props = defineProps<{ person: Person; phone: Phone }>();
const setUp = useSetUp();
const session = useSession();
const notices = useNotices();
const show = showPhone(setUp.nameOf);

type Draft = Pick<Phone, 'transport' | 'codecs' | 'timeZone' | 'numberId' | 'dialTrunkId' | 'home'> & {
  model: NonNullable<Phone['model']>;
  emergencyAddress: EmergencyAddress | null;
};

const { draft, faults, general, saving, changed, conflict, begin, save, keepMine, takeTheirs } =
  useEditing<Draft>(async (value, version) => {
    const params = { path: { id: props.phone.id }, header: ifMatch(version) };
    const body = { ...value, lineKeys: props.phone.lineKeys };
    await ask(api.PUT('/api/phones/{id}', { params, body: body as never }));
    await setUp.load();
    await notices.saved('The phone is saved.', props.phone.id);
  });

function draftOf({
  model,
  transport,
  codecs: allowed,
  timeZone,
  numberId,
  dialTrunkId,
  home,
  emergencyAddress,
}: Phone): Draft {
  return {
    ...{ model: model!, transport, codecs: [...allowed], timeZone, numberId, dialTrunkId },
    ...{ home, emergencyAddress },
  };
}
watch(
  () => props.phone,
  (phone) => {
    if (!changed.value) begin(draftOf(phone), phone.version);
  },
  { immediate: true },
);

const model = computed(() => deviceModel(draft.value?.model ?? 'softphone')!);
const models = deviceModels.map(({ id, name }) => ({ value: id, title: name }));
const zones = Intl.supportedValuesOf('timeZone');
const trunks = computed(() => [
  { value: null, title: 'over the trunks of the dialling rules' },
  ...(setUp.trunks ?? [])
    .filter((trunk) => !trunk.retired || trunk.id === draft.value?.dialTrunkId)
    .map((trunk) => ({ value: trunk.id, title: `over ${trunk.name}` })),
]);
const team = computed(() => setUp.teams.find((each) => each.id === props.person.teamId));
const teamAddress = computed(() => (team.value?.emergencyAddress ?? null) as EmergencyAddress | null);

function allow(codec: Codec, on: boolean): void {
  const now = draft.value!.codecs;
  draft.value!.codecs = on ? [...now, codec] : now.filter((each) => each !== codec);
}
</script>

<template>
  <form v-if="draft" @submit.prevent="save">
    <ConflictNote
      v-if="conflict"
      :conflict="conflict"
      :mine="draft"
      :words="phoneWords"
      :show="show"
      @mine="keepMine"
      @theirs="takeTheirs"
    />
    <section>
      <LedgerField label="Model" for="phone-model" :fault="faults['/model']">
        <v-select id="phone-model" v-model="draft.model" :items="models" :readonly="!session.mayEdit" />
      </LedgerField>
      <LedgerField
        label="Transport"
        for="phone-transport"
        :fault="faults['/transport']"
        :hint="draft.transport === 'tls' ? '' : 'Messages can be read on the way. TLS cannot.'"
      >
        <v-select
          id="phone-transport"
          v-model="draft.transport"
          :items="model.transports.map((each) => ({ value: each, title: each.toUpperCase() }))"
          :readonly="!session.mayEdit"
        />
      </LedgerField>
      <LedgerField
        label="Caller ID"
        for="phone-number"
        :fault="faults['/numberId']"
        :hint="
          draft.numberId === null
            ? 'Calls dialled directly show no number: they read as unknown, and many people do not pick up.'
            : 'Shown when this person dials directly. A campaign shows its own.'
        "
      >
        <ThingField
          id="phone-number"
          v-model="draft.numberId"
          label="Number shown"
          :kinds="['number']"
          none="none"
          :readonly="!session.mayEdit"
        />
      </LedgerField>
      <LedgerField
        label="Dials out"
        for="phone-trunk"
        :fault="faults['/dialTrunkId']"
        hint="The dialling rules still say who may dial what, and with which digits. An emergency call takes any trunk."
      >
        <v-select id="phone-trunk" v-model="draft.dialTrunkId" :items="trunks" :readonly="!session.mayEdit" />
      </LedgerField>
      <LedgerField label="Time zone" for="phone-zone" :fault="faults['/timeZone']">
        <v-autocomplete
          id="phone-zone"
          v-model="draft.timeZone"
          :items="zones"
          :placeholder="`the company's, ${session.timeZone}`"
          clearable
          persistent-placeholder
          :readonly="!session.mayEdit"
        />
      </LedgerField>
      <LedgerField label="Codecs">
        <p class="codecs">
          <v-checkbox
            v-for="codec in codecs.filter((each) => model.codecs.includes(each))"
            :key="codec"
            :model-value="draft.codecs.includes(codec)"
            :label="codecWords[codec]"
            :readonly="!session.mayEdit"
            @update:model-value="allow(codec, $event === true)"
          />
        </p>
        <p class="small second">{{ draft.codecs.length === 0 ? 'None chosen: any may be used.' : '' }}</p>
      </LedgerField>
      <v-checkbox
        v-model="draft.home"
        :readonly="!session.mayEdit"
        label="Outside the house: behind somebody's router"
      />
    </section>
    <section>
      <h3>Emergency address</h3>
      <p v-if="draft.emergencyAddress === null" class="second">
        <template v-if="draft.home">
          None. Outside the house the team's address would send help to the wrong place.
        </template>
        <template v-else-if="teamAddress">As the team's: {{ addressWords(teamAddress) }}.</template>
        <template v-else>
          None, and {{ team ? `${team.name} has` : 'there is' }} none either. An emergency call would go out
          without saying where help is needed.
        </template>
      </p>
      <AddressField
        v-else
        id="phone-address"
        v-model="draft.emergencyAddress"
        :readonly="!session.mayEdit"
        :faults="faults"
        path="/emergencyAddress"
      />
      <div v-if="session.mayEdit" class="buttons">
        <v-btn
          v-if="draft.emergencyAddress === null"
          @click="
            draft.emergencyAddress = {
              street: '',
              unit: '',
              city: '',
              region: '',
              postalCode: '',
              country: 'US',
            }
          "
          >Its own address</v-btn
        >
        <v-btn v-else @click="draft.emergencyAddress = null">No address of its own</v-btn>
      </div>
      <FormEnd
        :general="general"
        :saving="saving"
        :changed="changed"
        @leave="begin(draftOf(phone), phone.version)"
      />
    </section>
  </form>
</template>

<style scoped>
.codecs {
  display: grid;
  grid-template-columns: 1fr 1fr;
  padding: 0;
}
</style>
