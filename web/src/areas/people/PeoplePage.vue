<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import type { NewPerson as Made, Person } from '../../api/client.ts';
import EmptyLine from '../../kit/EmptyLine.vue';
import KeyCap from '../../kit/KeyCap.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import PageHead from '../../kit/PageHead.vue';
import Shape from '../../kit/Shape.vue';
import StateWord from '../../kit/StateWord.vue';
import { saveTable } from '../../kit/table-file.ts';
import { agentWords, phoneWords } from '../../kit/words.ts';
import { useKeys } from '../../shell/keys.ts';
import { useLive } from '../../shell/live.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import ManyPeople from './ManyPeople.vue';
import NewPersonSheet from './NewPersonSheet.vue';
import PersonSheet from './PersonSheet.vue';
import TeamsSheet from './TeamsSheet.vue';

const props = defineProps<{ id?: string }>();
const setUp = useSetUp();
const live = useLive();
const session = useSession();
const router = useRouter();
const beside = ref<'new' | 'many' | 'teams' | null>(null);
const made = ref<Made | null>(null);
const team = ref<string | null>(null);
const phone = ref<string | null>(null);
const queue = ref<string | null>(null);
const withRetired = ref(false);

const people = computed(() => setUp.people ?? []);
const inUse = computed(() => people.value.filter((person) => !person.retired));
const cannotBeRung = (person: Person) => {
  const agent = live.agents.get(person.id);
  return agent !== undefined && agent.state !== 'signedOut' && agent.reachedBy === null;
};

const rows = computed(() =>
  people.value.filter((person) => {
    if (person.retired && !withRetired.value) return false;
    if (team.value !== null && person.teamId !== team.value) return false;
    if (queue.value !== null && !person.queues.some((each) => each.id === queue.value)) return false;
    return phone.value === null || (live.agents.get(person.id)?.phone ?? 'none') === phone.value;
  }),
);

const sentence = computed(() => {
  if (setUp.people === null) return 'Reading the list.';
  const states = [...live.agents.values()];
  const signedIn = states.filter((agent) => agent.state !== 'signedOut').length;
  const stuck = inUse.value.filter(cannotBeRung).length;
  const people = inUse.value.length === 1 ? '1 person' : `${inUse.value.length.toLocaleString('en')} people`;
  return `${people}, ${signedIn} signed in${stuck > 0 ? `, ${stuck} of them cannot be rung` : ''}`;
});

const columns = [
  { key: 'extension', title: 'Ext', width: '64px', mono: true },
  { key: 'name', title: 'Name' },
  { key: 'team', title: 'Team' },
  { key: 'state', title: 'State', width: '124px' },
  { key: 'phone', title: 'Phone', width: '124px' },
  { key: 'queues', title: 'Rings for' },
];

const phones = Object.entries(phoneWords).map(([value, title]) => ({ value, title }));

function choose(person: Person): void {
  beside.value = null;
  made.value = null;
  void router.replace(`/people/${person.id}`);
}

function add(): void {
  if (session.mayEdit) beside.value = 'new';
}

/** The people the sentence shows, as a list that can be brought back here or elsewhere. */
function save(): void {
  saveTable(
    'people',
    ['Name', 'Team', 'Extension', 'Login', 'Role', 'Rings for'],
    rows.value.map((person) => [
      person.name,
      person.teamName ?? '',
      person.extension,
      person.login,
      person.role,
      person.queues.map((each) => each.name).join(', '),
    ]),
  );
}

function many(): void {
  close();
  beside.value = 'many';
}

function close(): void {
  beside.value = null;
  made.value = null;
  void router.replace('/people');
}

function created(person: Made): void {
  beside.value = null;
  made.value = person;
  void router.replace(`/people/${person.id}`);
}

useKeys({ n: add, m: () => session.mayEdit && many() });
</script>

<template>
  <PageHead title="People" :sentence="sentence">
    <v-btn v-if="rows.length > 0 && beside !== 'many'" @click="save">Save as CSV</v-btn>
    <v-btn @click="beside = 'teams'">Teams</v-btn>
    <v-btn v-if="session.mayEdit" @click="many">Many at once<KeyCap>M</KeyCap></v-btn>
    <v-btn v-if="session.mayEdit" variant="flat" color="primary" @click="add"
      >New person<KeyCap>N</KeyCap></v-btn
    >
  </PageHead>
  <ManyPeople v-if="beside === 'many'" class="split" @close="close" />
  <div v-else class="split">
    <div class="list">
      <div class="sentence">
        Show
        <v-select
          v-model="team"
          aria-label="Team"
          :items="[
            { value: null, title: 'all teams' },
            ...setUp.teams.map((each) => ({ value: each.id, title: each.name })),
          ]"
        />
        whose phone is
        <v-select
          v-model="phone"
          aria-label="Phone"
          :items="[{ value: null, title: 'in any state' }, ...phones]"
        />
        and who ring for
        <v-select
          v-model="queue"
          aria-label="Queue"
          :items="[
            { value: null, title: 'any queue' },
            ...(setUp.queues ?? [])
              .filter((each) => !each.retired)
              .map((each) => ({ value: each.id, title: each.name })),
          ]"
        />
        <v-checkbox v-model="withRetired" label="with deactivated" />
      </div>
      <LedgerTable caption="People" :columns="columns" :rows="rows" :chosen="props.id" @choose="choose">
        <template #team="{ row }">{{ row.teamName }}</template>
        <template #state="{ row }">
          <span v-if="row.retired" class="second">Deactivated</span>
          <StateWord
            v-else
            :shape="live.agents.get(row.id)?.state ?? 'signedOut'"
            :word="agentWords[live.agents.get(row.id)?.state ?? 'signedOut']"
          />
        </template>
        <template #phone="{ row }">
          <StateWord
            v-if="!row.retired"
            :shape="live.agents.get(row.id)?.phone ?? 'none'"
            :word="phoneWords[live.agents.get(row.id)?.phone ?? 'none']"
            :tone="cannotBeRung(row) ? 'fault' : undefined"
          />
        </template>
        <template #queues="{ row }">
          <span v-if="cannotBeRung(row)" class="fault-text"><Shape name="fault" /> Cannot be rung</span>
          <template v-else>{{ row.queues.map((each) => each.name).join(', ') }}</template>
        </template>
        <template #empty>
          <EmptyLine
            v-if="setUp.people !== null && people.length > 0"
            text="Nobody fits this sentence. Change one of its fields."
          />
          <EmptyLine
            v-else-if="setUp.people !== null"
            text="Nobody yet. A person comes with login, extension, softphone and voicemail."
          >
            <v-btn v-if="session.mayEdit" @click="add">New person</v-btn>
          </EmptyLine>
        </template>
      </LedgerTable>
    </div>
    <NewPersonSheet v-if="beside === 'new'" @close="close" @made="created" />
    <TeamsSheet v-else-if="beside === 'teams'" @close="close" />
    <PersonSheet
      v-else-if="props.id && setUp.personById.get(props.id)"
      :key="props.id"
      :person="setUp.personById.get(props.id)!"
      :made="made"
      @close="close"
    />
  </div>
</template>

<style scoped>
.split {
  flex: 1;
  display: flex;
  min-height: 0;
}
.list {
  flex: 1;
  min-width: 0;
  display: flex;
  flex-direction: column;
}
.sentence {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 5px 20px;
  border-bottom: 1px solid var(--rule);
  white-space: nowrap;
}
.sentence :deep(.v-select) {
  max-width: 132px;
  flex: 0 1 132px;
}
.sentence :deep(.v-checkbox) {
  flex: none;
}
</style>
