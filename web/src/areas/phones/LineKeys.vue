<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { deviceModel } from '@night-bell/core/phones/catalogue';
import {
  actionWords,
  keyActions,
  type KeySituation,
  keySituations,
  type LineKey,
  situationWords,
} from '@night-bell/core/phones/line-keys';
import { api, ask, ifMatch, type KeyFaces, type Person, type Phone } from '../../api/client.ts';
import ConflictNote from '../../kit/ConflictNote.vue';
import { useEditing } from '../../kit/editing.ts';
import LedgerField from '../../kit/LedgerField.vue';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import AddField from '../../kit/AddField.vue';
import { secondOf, useFinding } from '../../kit/finding.ts';
import ThingField from '../../kit/ThingField.vue';
import { readPerson } from '../../api/lists.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import LineKeyCap from './LineKeyCap.vue';
import { phoneWords, showPhone } from './words.ts';
import TakeOut from '../../kit/TakeOut.vue';

/** The keys of a device, drawn as they stand on it; the one chosen is edited, and seen in each situation. */
const props = defineProps<{ person: Person; phone: Phone }>();
const setUp = useSetUp();
const session = useSession();
const live = useLive();
const notices = useNotices();
const show = showPhone(setUp.nameOf);

const { draft, faults, general, saving, changed, conflict, begin, save, keepMine, takeTheirs } = useEditing<{
  lineKeys: LineKey[];
}>(async ({ lineKeys }, version) => {
  const { model, transport, codecs, timeZone, numberId, dialTrunkId, home, emergencyAddress } = props.phone;
  const body = {
    ...{ model, transport, codecs, timeZone, numberId, dialTrunkId, home, emergencyAddress },
    lineKeys,
  };
  const params = { path: { id: props.phone.id }, header: ifMatch(version) };
  await ask(api.PUT('/api/phones/{id}', { params, body: body as never }));
  await setUp.load();
  await notices.saved('The keys are saved.', props.phone.id);
});

const stored = (phone: Phone) =>
  JSON.parse(JSON.stringify({ lineKeys: phone.lineKeys })) as { lineKeys: LineKey[] };
watch(
  () => props.phone,
  (phone) => {
    if (!changed.value) begin(stored(phone), phone.version);
  },
  { immediate: true },
);

const places = computed(() => deviceModel(props.phone.model ?? 'softphone')!.lineKeys);
const chosen = ref(1);
const keyAt = (position: number) => draft.value?.lineKeys.find((key) => key.position === position);
const key = computed(() => keyAt(chosen.value));
const faultOf = (field: string) => {
  const index = draft.value?.lineKeys.findIndex((each) => each.position === chosen.value) ?? -1;
  return faults.value[`/lineKeys/${index}${field}`];
};
const nameOf = (each: LineKey) => each.label || setUp.nameOf(each.personId);

function watchPerson(personId: string | null): void {
  const keys = draft.value!.lineKeys;
  if (personId === null) draft.value!.lineKeys = keys.filter((each) => each.position !== chosen.value);
  else if (key.value !== undefined) key.value.personId = personId;
  else {
    const press = { quiet: 'call', ringing: 'take', inCall: 'announce' } as const;
    const made = { position: chosen.value, label: '', personId, alertAfter: 10, callerSeconds: null, press };
    draft.value!.lineKeys = [...keys, { ...made, press: { ...press } }].sort(
      (one, other) => one.position - other.position,
    );
  }
}

const alerts = [null, 0, 5, 10, 15, 20, 30, 45, 60].map((value) => ({
  value,
  title: value === null ? 'light only' : value === 0 ? 'at once' : `after ${value} s`,
}));
const callers = [0, 5, 10, 20, 30, 60, null].map((value) => ({
  value,
  title: value === null ? 'as long as it rings' : value === 0 ? 'never' : `for ${value} s`,
}));
/** A value set by the interface of programs stays choosable. */
const withOwn = (list: typeof alerts, value: number | null) =>
  list.some((each) => each.value === value) ? list : [...list, { value, title: `${value} s` }];
const actions = (situation: KeySituation) =>
  keyActions[situation].map((value) => ({ value, title: actionWords[value] }));

const faces = ref<KeyFaces>([]);
const beat = computed(() => Math.floor(live.now / 2_000));
watch(
  [() => props.phone.id, () => props.phone.version, beat],
  async () => {
    if (props.phone.lineKeys.length === 0) return void (faces.value = []);
    const params = { path: { id: props.phone.id } };
    faces.value = await ask(api.GET('/api/phones/{id}/line-keys', { params })).catch(() => []);
  },
  { immediate: true },
);
const faceAt = (position: number) => faces.value.find((face) => face.position === position);

async function press(): Promise<void> {
  try {
    const params = { path: { id: props.phone.id, position: chosen.value } };
    const { said } = await ask(api.POST('/api/phones/{id}/line-keys/{position}/press', { params }));
    notices.say(said);
  } catch (error) {
    notices.fail(error);
  }
}

/** The caller was announced with this key, and waits. */
const announcing = computed(
  () => faceAt(chosen.value)?.press === 'handOver' && key.value?.press.inCall === 'announce',
);
async function takeBack(): Promise<void> {
  try {
    const params = { path: { id: props.phone.id } };
    notices.say((await ask(api.POST('/api/phones/{id}/take-back', { params }))).said);
  } catch (error) {
    notices.fail(error);
  }
}

/** Phones the keys are copied to, by the people they belong to. */
const copyTo = ref<{ id: string; name: string }[]>([]);
const last = computed(() => Math.max(0, ...props.phone.lineKeys.map((each) => each.position)));
const { search, open, found } = useFinding(
  () => ['person'],
  () => '',
);
const others = computed(() =>
  found.value.map((entry) => ({ value: entry.id, title: entry.name, props: { subtitle: secondOf(entry) } })),
);
/** Every phone of theirs that has enough keys. */
async function copyToPhonesOf(personId: string): Promise<void> {
  try {
    const { item } = await readPerson(personId);
    const fit = item.phones.filter(
      ({ id, model }) =>
        id !== props.phone.id && model !== null && deviceModel(model)!.lineKeys >= last.value,
    );
    if (fit.length === 0) notices.say(`${item.name} has no phone with ${last.value} line keys.`);
    const fresh = fit
      .filter(({ id }) => !copyTo.value.some((each) => each.id === id))
      .map(({ id, model }) => ({ id, name: `${item.name}, ${deviceModel(model!)!.name}` }));
    copyTo.value = [...copyTo.value, ...fresh];
  } catch (error) {
    notices.fail(error);
  }
}
async function copy(): Promise<void> {
  try {
    const params = { path: { id: props.phone.id } };
    const { copied } = await ask(
      api.POST('/api/phones/{id}/line-keys/copy', { params, body: { to: copyTo.value.map(({ id }) => id) } }),
    );
    copyTo.value = [];
    await setUp.load();
    notices.say(copied === 1 ? 'One phone has these keys now.' : `${copied} phones have these keys now.`);
  } catch (error) {
    notices.fail(error);
  }
}
</script>

<template>
  <section v-if="draft && places > 0">
    <h3>Line keys <span class="second small">each watches somebody’s extension</span></h3>
    <ConflictNote
      v-if="conflict"
      :conflict="conflict"
      :mine="draft"
      :words="phoneWords"
      :show="show"
      @mine="keepMine"
      @theirs="takeTheirs"
    />
    <ul class="device" :aria-label="`The ${places} keys of this phone`">
      <li v-for="position in places" :key="position">
        <LineKeyCap
          :label="keyAt(position) ? nameOf(keyAt(position)!) : ''"
          :place="position"
          :chosen="position === chosen"
          :light="faceAt(position)?.light ?? 'off'"
          :caller="faceAt(position)?.caller ?? null"
          :faulty="
            Object.keys(faults).some(
              (path) =>
                keyAt(position) && path.startsWith(`/lineKeys/${draft!.lineKeys.indexOf(keyAt(position)!)}`),
            )
          "
          @click="chosen = position"
        />
      </li>
    </ul>

    <LedgerField
      :label="`Key ${chosen}`"
      for="key-person"
      :fault="faultOf('/personId') ?? faultOf('/position')"
    >
      <ThingField
        id="key-person"
        label="Whose extension this key watches"
        :model-value="key?.personId ?? null"
        :kinds="['person']"
        :without="[person.id]"
        none="nobody’s"
        placeholder="whose extension, by name or number"
        :readonly="!session.mayEdit"
        @update:model-value="watchPerson"
      />
    </LedgerField>
    <template v-if="key">
      <LedgerField label="Label" for="key-label" :fault="faultOf('/label')">
        <v-text-field
          id="key-label"
          v-model="key.label"
          maxlength="24"
          :placeholder="setUp.nameOf(key.personId)"
          persistent-placeholder
          :readonly="!session.mayEdit"
        />
      </LedgerField>
      <LedgerField label="Alerts here" for="key-alert" :fault="faultOf('/alertAfter')">
        <v-select
          id="key-alert"
          v-model="key.alertAfter"
          :items="withOwn(alerts, key.alertAfter)"
          :readonly="!session.mayEdit"
        />
      </LedgerField>
      <LedgerField label="Shows caller" for="key-caller" :fault="faultOf('/callerSeconds')">
        <v-select
          id="key-caller"
          v-model="key.callerSeconds"
          :items="withOwn(callers, key.callerSeconds)"
          :readonly="!session.mayEdit"
        />
      </LedgerField>
      <table class="presses">
        <thead>
          <tr>
            <th scope="col">When</th>
            <th scope="col">It looks</th>
            <th scope="col">One press</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="situation in keySituations" :key="situation">
            <th :id="`key-${situation}`" scope="row">{{ situationWords[situation] }}</th>
            <td>
              <LineKeyCap
                :label="nameOf(key)"
                :light="situation === 'ringing' ? 'blinking' : 'off'"
                :caller="situation === 'ringing' && key.callerSeconds !== 0 ? 'the caller' : null"
                still
              />
            </td>
            <td>
              <v-select
                v-model="key.press[situation]"
                :aria-labelledby="`key-${situation}`"
                :items="actions(situation)"
                :readonly="!session.mayEdit"
              />
            </td>
          </tr>
        </tbody>
      </table>
    </template>
    <p v-if="key?.press.inCall === 'announce'" class="small second">
      The caller is held while {{ setUp.nameOf(key.personId) }} hears who is there. A second press, or hanging
      up, puts them through; when nobody lifts, the caller is back.
    </p>
    <p v-if="key?.press.inCall === 'handOver'" class="small second">
      Handed over without a word first: the caller hears it ring, and goes on to
      {{ setUp.nameOf(key.personId) }}’s voicemail when nobody lifts.
    </p>
    <p v-if="general" class="fault-text" role="alert">{{ general }}</p>
    <div class="buttons">
      <template v-if="session.mayEdit && changed">
        <v-btn variant="flat" color="primary" :loading="saving" @click="save">Save the keys</v-btn>
        <v-btn @click="begin(stored(phone), phone.version)">Leave as they were</v-btn>
      </template>
      <v-btn v-else-if="session.mayOperate && faceAt(chosen)" @click="press">
        Press it: {{ announcing ? 'puts the caller through' : actionWords[faceAt(chosen)!.press] }}
      </v-btn>
      <v-btn v-if="session.mayOperate && announcing" @click="takeBack">Take the caller back</v-btn>
    </div>
    <div v-if="session.mayEdit && !changed && phone.lineKeys.length > 0" class="copy">
      <span v-for="{ id, name } in copyTo" :key="id" class="second">
        {{ name }}
        <TakeOut :what="`Not to ${name}`" @click="copyTo = copyTo.filter((each) => each.id !== id)" />
      </span>
      <AddField
        v-model:search="search"
        v-model:menu="open"
        no-filter
        :items="others"
        label="Copy these keys to the phone of"
        @add="copyToPhonesOf"
      />
      <v-btn v-if="copyTo.length > 0" @click="copy">
        {{ copyTo.length === 1 ? 'Copy to one phone' : `Copy to ${copyTo.length} phones` }}
      </v-btn>
    </div>
  </section>
</template>

<style scoped>
h3 .second {
  font-weight: 400;
  margin-left: 6px;
}
.device {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px;
  margin-bottom: 10px;
}
.presses {
  width: 100%;
  margin: 8px 0;
}
.presses th {
  text-align: left;
  font-weight: 400;
  color: var(--ink2);
  padding: 3px 8px 3px 0;
}
.presses td {
  padding: 3px 8px 3px 0;
}
.presses td:nth-child(2) {
  width: 150px;
}
.copy {
  display: flex;
  gap: 8px;
  align-items: center;
  margin-top: 8px;
}
</style>
