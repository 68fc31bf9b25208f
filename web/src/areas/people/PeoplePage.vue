<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { writeCards } from '@night-bell/core/model/vcard';
import type { NewPerson as Made, Person } from '../../api/client.ts';
import EmptyLine from '../../kit/EmptyLine.vue';
import KeyCap from '../../kit/KeyCap.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import PageHead from '../../kit/PageHead.vue';
import Shape from '../../kit/Shape.vue';
import StateWord from '../../kit/StateWord.vue';
import { saveFile, saveTable, saveWorkbook } from '../../kit/table-file.ts';
import { agentWords, phoneWords } from '../../kit/words.ts';
import { useAddress } from '../../shell/address.ts';
import { useKeys } from '../../shell/keys.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useStaying } from '../../shell/staying.ts';
import { useSetUp } from '../../shell/set-up.ts';
import { useFreshCodes } from './fresh-codes.ts';
import MadePeople from './MadePeople.vue';
import ManyPeople from './ManyPeople.vue';
import NewPersonSheet from './NewPersonSheet.vue';
import PersonSheet from './PersonSheet.vue';
import AgentSettingsSheet from './AgentSettingsSheet.vue';
import BulkBar from './BulkBar.vue';

const props = defineProps<{ id?: string }>();
const setUp = useSetUp();
const live = useLive();
const session = useSession();
const router = useRouter();
const staying = useStaying();
const route = useRoute();
const notices = useNotices();
const beside = ref<'new' | 'many' | 'settings' | 'codes' | null>(null);
const codes = useFreshCodes();
const like = ref<Person | null>(null);
const marked = ref<ReadonlySet<string>>(new Set());
const address = useAddress();
const team = address.choice('team');
const phone = address.choice('phone');
const queue = address.choice('queue');
const skill = address.choice('skill');
const withRetired = address.flag('deactivated');
const sort = address.part('sort');

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
    if (skill.value !== null && !person.skills.some((each) => each.skillId === skill.value)) return false;
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
  { key: 'extension', title: 'Ext', width: '64px', mono: true, sort: (row: Person) => row.extension },
  { key: 'name', title: 'Name', sort: (row: Person) => row.name },
  { key: 'team', title: 'Team', sort: (row: Person) => row.teamName ?? '' },
  {
    key: 'state',
    title: 'State',
    width: '124px',
    sort: (row: Person) => agentWords[live.agents.get(row.id)?.state ?? 'signedOut'],
  },
  {
    key: 'phone',
    title: 'Phone',
    width: '124px',
    sort: (row: Person) => phoneWords[live.agents.get(row.id)?.phone ?? 'none'],
  },
  { key: 'queues', title: 'Rings for' },
];

const phones = Object.entries(phoneWords).map(([value, title]) => ({ value, title }));

function choose(person: Person): void {
  beside.value = null;
  void go(person.id);
}

/** What the list is narrowed to stays in the address. */
async function go(id: string | null): Promise<void> {
  if (staying())
    await router.replace({ path: id === null ? '/people' : `/people/${id}`, query: route.query });
}

function add(model: Person | null = null): void {
  if (!session.mayEdit) return;
  like.value = model;
  beside.value = 'new';
}

const chosenRows = computed(() =>
  marked.value.size === 0 ? rows.value : rows.value.filter((person) => marked.value.has(person.id)),
);
const markedIds = computed(() =>
  rows.value.filter((person) => marked.value.has(person.id)).map(({ id }) => id),
);

/** The marked people, or all the sentence shows, as a list that can be brought back here or elsewhere. */
function save(as: 'csv' | 'xlsx' | 'vcard'): void {
  const people = chosenRows.value;
  if (as === 'vcard') {
    const numbersOf = (id: string) =>
      (setUp.numbers ?? [])
        .filter(({ destination }) => destination?.kind === 'person' && destination.id === id)
        .map((number) => number.e164);
    const company = session.view?.installation.name ?? '';
    const cards = people.map(({ id, name, teamName, mail, extension }) => ({
      ...{ id, name, company, team: teamName, mail, extension },
      numbers: numbersOf(id),
    }));
    saveFile('people.vcf', writeCards(cards, setUp.numbers?.[0]?.e164 ?? null), 'text/vcard;charset=utf-8');
    return;
  }
  const headers = ['Name', 'Team', 'Extension', 'Login', 'Role', 'Mail', 'Skills', 'Rings for'];
  const cells = people.map((person) => [
    person.name,
    person.teamName ?? '',
    person.extension,
    person.login,
    person.role,
    person.mail ?? '',
    person.skills.map(({ skillId, level }) => `${setUp.nameOf(skillId)} ${level}`).join(', '),
    person.queues.map((each) => each.name).join(', '),
  ]);
  if (as === 'csv') saveTable('people', headers, cells);
  else void saveWorkbook('people', headers, cells).catch(notices.fail);
}

function many(): void {
  close();
  beside.value = 'many';
}

function close(): void {
  beside.value = null;
  void go(null);
}

function created(person: Made): void {
  beside.value = null;
  codes.keep([person]);
  void go(person.id);
}

useKeys({ n: () => add(), m: () => session.mayEdit && many() });
</script>

<template>
  <PageHead title="People" :sentence="sentence">
    <v-menu v-if="rows.length > 0 && beside !== 'many'">
      <template #activator="{ props: menu }">
        <v-btn v-bind="menu">{{ marked.size > 0 ? `Save the ${marked.size} marked` : 'Save list' }}</v-btn>
      </template>
      <v-list>
        <v-list-item title="As CSV" @click="save('csv')" />
        <v-list-item title="As a workbook (XLSX)" @click="save('xlsx')" />
        <v-list-item title="As address cards (vCard)" @click="save('vcard')" />
      </v-list>
    </v-menu>
    <v-btn @click="beside = 'settings'">Agent settings</v-btn>
    <v-btn v-if="session.mayEdit" @click="many">Many at once<KeyCap>M</KeyCap></v-btn>
    <v-btn v-if="session.mayEdit" variant="flat" color="primary" @click="add()"
      >New person<KeyCap>N</KeyCap></v-btn
    >
  </PageHead>
  <p v-if="codes.people.length > 0 && beside !== 'many' && beside !== 'codes'" class="codes">
    {{
      codes.people.length === 1
        ? `The sign-in code of ${codes.people[0]!.name} is kept here until you hide it.`
        : `The codes of ${codes.people.length.toLocaleString('en')} people are kept here until you hide them.`
    }}
    <button type="button" class="link" @click="beside = 'codes'">Show</button>
    <button type="button" class="link" @click="codes.hideAll()">Hide</button>
  </p>
  <ManyPeople v-if="beside === 'many'" class="split" @close="close" />
  <MadePeople
    v-else-if="beside === 'codes'"
    :people="codes.people"
    :waiting="0"
    @close="(codes.hideAll(), close())"
  />
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
        <template v-if="setUp.skills.length > 0">
          with
          <v-select
            v-model="skill"
            aria-label="Skill"
            :items="[
              { value: null, title: 'any skill' },
              ...setUp.skills.map((each) => ({ value: each.id, title: each.name })),
            ]"
          />
        </template>
        <v-checkbox v-model="withRetired" label="with deactivated" />
      </div>
      <BulkBar
        v-if="markedIds.length > 0 && session.mayOperate"
        :ids="markedIds"
        @clear="marked = new Set()"
      />
      <LedgerTable
        v-model:marked="marked"
        v-model:sort="sort"
        caption="People"
        :columns="columns"
        :rows="rows"
        :chosen="props.id"
        :markable="session.mayOperate"
        @choose="choose"
      >
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
            <v-btn v-if="session.mayEdit" @click="add()">New person</v-btn>
          </EmptyLine>
        </template>
      </LedgerTable>
    </div>
    <NewPersonSheet
      v-if="beside === 'new'"
      :key="like?.id ?? ''"
      :like="like"
      @close="close"
      @made="created"
    />
    <AgentSettingsSheet v-else-if="beside === 'settings'" @close="close" />
    <PersonSheet
      v-else-if="props.id && setUp.personById.get(props.id)"
      :key="props.id"
      :person="setUp.personById.get(props.id)!"
      @close="close"
      @like="add"
    />
  </div>
</template>

<style scoped>
.codes {
  display: flex;
  gap: 16px;
  padding: 6px 20px;
  background: var(--wash);
  border-bottom: 1px solid var(--rule);
  flex: none;
}
.sentence {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 8px;
  padding: 5px 20px;
  border-bottom: 1px solid var(--rule);
  white-space: nowrap;
}
.sentence :deep(.v-select) {
  max-width: 132px;
  flex: 0 0 132px;
}
.sentence :deep(.v-checkbox) {
  flex: none;
}
</style>
