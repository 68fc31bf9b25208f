<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { formatNumber } from '@night-bell/core/numbers/format';
import { api, ask, type Fax, ifMatch, type UsedBy } from '../../api/client.ts';
import { useActing } from '../../kit/acting.ts';
import ConflictNote from '../../kit/ConflictNote.vue';
import { useEditing } from '../../kit/editing.ts';
import FormEnd from '../../kit/FormEnd.vue';
import HistoryList from '../../kit/HistoryList.vue';
import NumberField from '../../kit/NumberField.vue';
import LedgerField from '../../kit/LedgerField.vue';
import Sheet from '../../kit/Sheet.vue';
import { useClock } from '../../kit/time.ts';
import UsedByList from '../../kit/UsedByList.vue';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import { useTestCall } from '../../shell/test-call.ts';
import { fieldWords, type Place, placeWords, showField } from './words.ts';

/** An outside number, a conference room or a fax box. */
const props = defineProps<{ kind: Place['kind']; place: Place | null }>();
const emit = defineEmits<{ close: []; made: [place: { id: string }] }>();
const setUp = useSetUp();
const session = useSession();
const notices = useNotices();
const act = useActing();
const test = useTestCall();
const { moment } = useClock();
const tab = ref(0);
const users = ref<UsedBy[]>([]);
const faxes = ref<Fax[]>([]);
/** Empty keeps what there is. */
const pin = ref('');

/** The routes of the three kinds are alike but for their path. */
const paths = {
  outside: '/api/outside-numbers',
  room: '/api/rooms',
  fax: '/api/fax-boxes',
} as const;
const one = computed(() => `${paths[props.kind]}/{id}` as '/api/rooms/{id}');

interface Draft {
  name: string;
  extension: string | null;
  e164?: string;
  trunkId?: string | null;
  ringSeconds?: number;
  joinTone?: boolean;
}

function draftOf(place: Place | null): Draft {
  const name = place?.name ?? '';
  const extension = place?.extension ?? null;
  switch (props.kind) {
    case 'outside': {
      const outside = place?.kind === 'outside' ? place : null;
      return {
        ...{ name, extension, e164: outside?.e164 ?? '', trunkId: outside?.trunkId ?? null },
        ringSeconds: outside?.ringSeconds ?? 30,
      };
    }
    case 'room':
      return { name, extension, joinTone: place?.kind === 'room' ? place.joinTone : true };
    case 'fax':
      return { name, extension };
  }
}

const { draft, faults, general, saving, changed, conflict, begin, save, keepMine, takeTheirs } =
  useEditing<Draft>(async (value, version) => {
    const body = { ...value, ...(pin.value === '' ? {} : { pin: pin.value }) };
    if (props.place === null) {
      const made = await ask(api.POST(paths[props.kind] as '/api/rooms', { body: body as never }));
      pin.value = '';
      await setUp.load();
      notices.say(`${made.name} is made. Send a number or a queue's callers here.`);
      emit('made', made);
      return;
    }
    const params = { path: { id: props.place.id }, header: ifMatch(version) };
    await ask(api.PUT(one.value, { params, body: body as never }));
    pin.value = '';
    await setUp.load();
    await notices.saved(`${value.name} is saved.`, props.place.id);
  });

watch(
  () => props.place,
  (place) => {
    if (!changed.value) begin(draftOf(place), place?.version ?? 0);
    if (place === null) return;
    const params = { path: { id: place.id } };
    void ask(api.GET(one.value, { params }))
      .then((answer) => (users.value = answer.usedBy))
      .catch(() => undefined);
    if (place.kind === 'fax')
      void ask(api.GET('/api/fax-boxes/{id}/faxes', { params }))
        .then((answer) => (faxes.value = answer))
        .catch(() => undefined);
  },
  { immediate: true },
);

const trunks = computed(() => [
  { value: null, title: 'by the dialling rules' },
  ...(setUp.trunks ?? [])
    .filter((trunk) => !trunk.retired)
    .map((trunk) => ({ value: trunk.id, title: trunk.name })),
]);
const guarded = () => ({ params: { path: { id: props.place!.id }, header: ifMatch(props.place!.version) } });
const retire = () =>
  act(
    () => ask(api.POST(`${one.value}/retire` as '/api/rooms/{id}/retire', guarded())),
    `${props.place!.name} is deactivated.`,
  );
const reactivate = () =>
  act(
    () => ask(api.POST(`${one.value}/reactivate` as '/api/rooms/{id}/reactivate', guarded())),
    `${props.place!.name} is back.`,
  );
const openDoor = () =>
  act(
    () => ask(api.PUT(one.value, { ...guarded(), body: { ...draftOf(props.place), pin: null } as never })),
    'Everybody who reaches the room may come in.',
  );
</script>

<template>
  <Sheet
    :fresh="place === null"
    v-model:tab="tab"
    :title="place?.name ?? `New ${placeWords[kind].toLowerCase()}`"
    :second="placeWords[kind]"
    :tabs="
      place === null ? [] : [kind === 'fax' ? 'Fax box' : 'Settings', `Used by ${users.length}`, 'History']
    "
    @close="emit('close')"
  >
    <template v-if="tab === 0 && draft">
      <ConflictNote
        v-if="conflict"
        :conflict="conflict"
        :mine="draft"
        :words="fieldWords"
        :show="showField(setUp.nameOf)"
        @mine="keepMine"
        @theirs="takeTheirs"
      />
      <form @submit.prevent="save">
        <section>
          <LedgerField label="Name" for="place-name" :fault="faults['/name']">
            <v-text-field
              id="place-name"
              v-model="draft.name"
              :autofocus="place === null"
              :readonly="!session.mayEdit"
              autocomplete="off"
            />
          </LedgerField>
          <LedgerField label="Extension" for="place-extension" :fault="faults['/extension']">
            <v-text-field
              id="place-extension"
              class="mono"
              placeholder="none"
              :model-value="draft.extension ?? ''"
              :readonly="!session.mayEdit"
              @update:model-value="draft.extension = $event === '' ? null : $event"
            />
          </LedgerField>
          <template v-if="kind === 'outside'">
            <LedgerField label="Number" for="place-number" :fault="faults['/e164']">
              <NumberField
                id="place-number"
                :model-value="draft.e164 ?? ''"
                @update:model-value="draft.e164 = $event"
                placeholder="+1 425 555 0120"
                :readonly="!session.mayEdit"
              />
            </LedgerField>
            <LedgerField label="Over" for="place-trunk" :fault="faults['/trunkId']">
              <v-select
                id="place-trunk"
                v-model="draft.trunkId"
                :items="trunks"
                :readonly="!session.mayEdit"
              />
            </LedgerField>
            <LedgerField
              label="Rings for"
              for="place-ring"
              :fault="faults['/ringSeconds']"
              hint="Seconds; then callers are told that nobody can take the call."
            >
              <v-text-field
                id="place-ring"
                v-model.number="draft.ringSeconds"
                class="mono"
                :readonly="!session.mayEdit"
              />
            </LedgerField>
          </template>
          <template v-else-if="kind === 'room'">
            <LedgerField
              v-if="session.mayEdit"
              label="PIN"
              for="place-pin"
              :fault="faults['/pin']"
              :hint="
                place?.kind === 'room' && place.hasPin
                  ? 'One is asked for. It cannot be read back; type another to replace it.'
                  : 'None: everybody who reaches the room may come in.'
              "
            >
              <v-text-field
                id="place-pin"
                v-model="pin"
                class="mono"
                :placeholder="place?.kind === 'room' && place.hasPin ? 'kept' : 'none'"
                autocomplete="off"
              />
            </LedgerField>
            <v-checkbox
              v-model="draft.joinTone"
              :readonly="!session.mayEdit"
              label="A tone is heard when somebody comes in"
            />
          </template>
          <FormEnd
            :general="general"
            :saving="saving"
            :changed="changed || pin !== ''"
            :make="place === null ? 'Make it' : null"
            @leave="place === null ? emit('close') : ((pin = ''), begin(draftOf(place), place.version))"
          />
        </section>
      </form>
      <section v-if="place?.kind === 'fax'">
        <h3>Faxes</h3>
        <p v-if="faxes.length === 0" class="second">None yet.</p>
        <ul>
          <li v-for="fax in faxes" :key="fax.id">
            <span class="second small">{{ moment(Date.parse(fax.at)) }}</span>
            <span class="mono">{{ formatNumber(fax.sender) }}</span>
            <a v-if="session.mayOperate" :href="`/api/faxes/${fax.id}/file`" download
              >{{ fax.pages }} {{ fax.pages === 1 ? 'page' : 'pages' }}</a
            >
          </li>
        </ul>
      </section>
      <section v-if="place !== null">
        <div class="buttons flat">
          <v-btn v-if="place.extension" @click="test.show(place.extension)"
            >Test a call to {{ place.extension }}</v-btn
          >
          <template v-if="session.mayEdit">
            <v-btn v-if="place.kind === 'room' && place.hasPin" @click="openDoor">Ask for no PIN</v-btn>
            <v-btn v-if="!place.retired" @click="retire">Deactivate</v-btn>
            <v-btn v-else @click="reactivate">Reactivate</v-btn>
          </template>
        </div>
      </section>
    </template>
    <UsedByList
      v-else-if="tab === 1"
      :users="users"
      none="Nothing leads here yet. Give a number this destination."
    />
    <HistoryList
      v-else-if="place !== null"
      :item-id="place.id"
      :words="fieldWords"
      :show="showField(setUp.nameOf)"
    />
  </Sheet>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 84px 1fr auto;
  gap: 8px;
  border-bottom: 1px solid var(--rule);
  padding: 4px 0;
}
.flat {
  margin-top: 0;
}
</style>
