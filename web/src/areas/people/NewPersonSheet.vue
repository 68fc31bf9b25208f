<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue';
import { deviceModels } from '@night-bell/core/phones/catalogue';
import { api, ApiProblem, ask, type NewPerson, type Person } from '../../api/client.ts';
import LedgerField from '../../kit/LedgerField.vue';
import { allMade } from '../../kit/making.ts';
import Sheet from '../../kit/Sheet.vue';
import { roleWords } from '../../kit/words.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSetUp } from '../../shell/set-up.ts';
import TeamField from './TeamField.vue';

/** Only name and team are typed; the rest is proposed, and made in one go. */
const props = defineProps<{ like?: Person | null }>();
const emit = defineEmits<{ close: []; made: [person: NewPerson] }>();
const setUp = useSetUp();
const notices = useNotices();
const name = ref('');
const teamId = ref<string | null>(props.like?.teamId ?? localStorage.getItem('night-bell-last-team'));
const role = ref<keyof typeof roleWords>(props.like?.role ?? 'agent');
/** Null as long as the proposal stands. */
const login = ref<string | null>(null);
const extension = ref<string | null>(null);
const proposal = ref({ login: '', extension: '' });
const handOver = ref(true);
const home = ref(props.like?.phones.some((phone) => phone.model !== null && phone.home) ?? false);
type Model = NonNullable<Person['phones'][number]['model']>;
const usual =
  props.like?.phones.find((phone) => phone.model !== null)?.model ?? (props.like ? null : 'softphone');
const model = ref<Model | null>(usual as Model | null);
const models = [
  { value: null, title: 'no phone' },
  ...deviceModels.map(({ id, name: title }) => ({ value: id as Model | null, title })),
];
// Administrators and auditors take no calls; who says otherwise chooses a phone again.
watch(
  role,
  (now) => (model.value = now === 'agent' || now === 'supervisor' ? (model.value ?? 'softphone') : null),
);
const faults = ref<Record<string, string>>({});
const general = ref('');
const busy = ref(false);

const roles = Object.entries(roleWords).map(([value, title]) => ({ value, title }));
/** Names the person where the name fits on the button. */
const makeWords = computed(() => {
  const short = name.value.trim();
  return `Make ${short === '' || short.length > 30 ? 'this person' : short}`;
});
const knownTeam = computed(() =>
  setUp.teams.some((team) => team.id === teamId.value) ? teamId.value : null,
);

let asked = 0;
async function propose(): Promise<void> {
  const turn = ++asked;
  const query = { name: name.value, ...(knownTeam.value === null ? {} : { teamId: knownTeam.value }) };
  const came = await ask(api.GET('/api/people/proposal', { params: { query } })).catch(() => null);
  if (came !== null && turn === asked) proposal.value = came;
}
onMounted(propose);
watch([name, knownTeam], propose);

async function save(): Promise<void> {
  busy.value = true;
  faults.value = {};
  general.value = '';
  try {
    await allMade();
    const made = await ask(
      api.POST('/api/people', {
        body: {
          name: name.value,
          teamId: knownTeam.value,
          role: role.value,
          phoneModel: model.value as Model,
          home: home.value,
          ...(props.like ? { likeId: props.like.id } : {}),
          ...(login.value === null ? {} : { login: login.value }),
          ...(extension.value === null ? {} : { extension: extension.value }),
        },
      }),
    );
    if (teamId.value !== null) localStorage.setItem('night-bell-last-team', teamId.value);
    if (handOver.value && made.phone !== null)
      await ask(api.POST('/api/stand-ins/enrolments', { body: { code: made.phone.enrolmentCode } })).catch(
        notices.fail,
      );
    await setUp.load();
    emit('made', made);
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error;
    faults.value = error.faults;
    if (Object.keys(error.faults).length === 0) general.value = error.detail;
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <Sheet
    fresh
    title="New person"
    :second="
      like
        ? `With the settings, skills and queues of ${like.name}`
        : 'With login, extension, phone and voicemail'
    "
    @close="emit('close')"
  >
    <form @submit.prevent="save">
      <section>
        <LedgerField label="Name" for="person-name" :fault="faults['/name']">
          <v-text-field id="person-name" v-model="name" autofocus autocomplete="off" />
        </LedgerField>
        <LedgerField label="Team" for="person-team" :fault="faults['/teamId']">
          <TeamField id="person-team" v-model="teamId" />
        </LedgerField>
      </section>
      <section>
        <h3>Proposed</h3>
        <LedgerField label="Login" for="person-login" :fault="faults['/login']">
          <v-text-field
            id="person-login"
            class="mono"
            :model-value="login ?? proposal.login"
            @update:model-value="login = $event"
          />
        </LedgerField>
        <LedgerField label="Extension" for="person-extension" :fault="faults['/extension']">
          <v-text-field
            id="person-extension"
            class="mono"
            :model-value="extension ?? proposal.extension"
            @update:model-value="extension = $event"
          />
        </LedgerField>
        <LedgerField label="Role" for="person-role">
          <v-select id="person-role" v-model="role" :items="roles" />
        </LedgerField>
        <LedgerField label="Phone" for="person-model">
          <v-select id="person-model" v-model="model" :items="models" />
        </LedgerField>
        <template v-if="model !== null">
          <v-checkbox v-model="home" label="Outside the house: behind somebody's router" />
          <v-checkbox v-model="handOver" label="Hand the enrolment code to a stand-in phone" />
        </template>
        <p v-if="general" class="fault-text" role="alert">{{ general }}</p>
        <div class="buttons">
          <v-btn type="submit" variant="flat" color="primary" :loading="busy">{{ makeWords }}</v-btn>
          <v-btn @click="emit('close')">Leave it</v-btn>
        </div>
      </section>
    </form>
  </Sheet>
</template>
