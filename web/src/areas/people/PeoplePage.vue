<script setup lang="ts">
import { locale } from '../../kit/locale.ts';
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import type { NewPerson as Made, Person, PersonRow } from '../../api/client.ts';
import { readPerson } from '../../api/lists.ts';
import EmptyLine from '../../kit/EmptyLine.vue';
import KeyCap from '../../kit/KeyCap.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import { useListLook } from '../../kit/list-view.ts';
import Narrowing from '../../kit/Narrowing.vue';
import PageHead from '../../kit/PageHead.vue';
import ViewMenu from '../../kit/ViewMenu.vue';
import Shape from '../../kit/Shape.vue';
import StateWord from '../../kit/StateWord.vue';
import SaveList from '../../kit/SaveList.vue';
import { agentWords, phoneWords } from '../../kit/words.ts';
import { useAddress } from '../../shell/address.ts';
import { useKeys } from '../../shell/keys.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useOne } from '../../shell/one.ts';
import { useCount, usePages } from '../../shell/pages.ts';
import { useSession } from '../../shell/session.ts';
import { useStaying } from '../../shell/staying.ts';
import { useSetUp } from '../../shell/set-up.ts';
import { useFreshCodes } from './fresh-codes.ts';
import BulkBar from './BulkBar.vue';

/** What stands beside the list is fetched when it is first asked for. */
const MadePeople = defineAsyncComponent(() => import('./MadePeople.vue'));
const ManyPeople = defineAsyncComponent(() => import('./ManyPeople.vue'));
const NewPersonSheet = defineAsyncComponent(() => import('./NewPersonSheet.vue'));
const PersonSheet = defineAsyncComponent(() => import('./PersonSheet.vue'));
const AgentSettingsSheet = defineAsyncComponent(() => import('./AgentSettingsSheet.vue'));

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
const find = address.part('find');
const team = address.choice('team');
const phone = address.choice('phone');
const queue = address.choice('queue');
const skill = address.choice('skill');
const withRetired = address.flag('deactivated');
const sort = address.part('sort');

const cannotBeRung = (person: { id: string }) => {
  const agent = live.agents.get(person.id);
  return agent !== undefined && agent.state !== 'signedOut' && agent.reachedBy === null;
};

const asked = computed(() => ({
  search: find.value.trim(),
  teamId: team.value,
  queueId: queue.value,
  skillId: skill.value,
  phone: phone.value,
  withRetired: withRetired.value ? 'true' : null,
  sort: sort.value.replace(/^-/, '') || 'extension',
  down: sort.value.startsWith('-') ? 'true' : null,
}));
const { rows, total, failed, more, load, idsOfAll } = usePages<PersonRow>(
  'person',
  '/api/people',
  () => asked.value,
  ['queue', 'team'],
);
const shown = useOne('person', readPerson, () => props.id);
const inUse = useCount('person', '/api/people', () => ({}));
const narrowed = computed(() =>
  [find, team, queue, skill, phone].some(({ value }) => value !== null && value !== ''),
);
function showAll(): void {
  void router.replace({ path: route.path, query: {} });
}

const sentence = computed(() => {
  if (inUse.value === null) return 'Reading the list.';
  const { signedIn, unreachable: stuck } = live;
  const people = inUse.value === 1 ? '1 person' : `${inUse.value.toLocaleString(locale.value)} people`;
  const fit =
    narrowed.value && total.value !== null
      ? `${total.value.toLocaleString(locale.value)} of ${people} fit`
      : people;
  return `${fit}, ${signedIn} signed in${stuck > 0 ? `, ${stuck} of them cannot be rung` : ''}`;
});

const columns = [
  { key: 'extension', title: 'Ext', width: '64px', mono: true, sort: true as const },
  { key: 'name', title: 'Name', sort: true as const },
  { key: 'team', title: 'Team', sort: true as const },
  { key: 'state', title: 'State', width: '124px', sort: true as const },
  { key: 'phone', title: 'Phone', width: '124px', sort: true as const },
  { key: 'queues', title: 'Rings for' },
];
const look = useListLook('people', () => columns);

const choicesOf = (all: string, items: readonly { id: string; name: string }[]) => [
  { value: null, title: all },
  ...items.map(({ id, name }) => ({ value: id, title: name })),
];
/** Lists one narrows by: made when they change, not at every key. */
const choices = computed(() => ({
  teams: choicesOf('all teams', setUp.teams),
  queues: choicesOf(
    'any queue',
    (setUp.queues ?? []).filter(({ retired }) => !retired),
  ),
  skills: choicesOf('any skill', setUp.skills),
}));
const phones = [
  { value: null, title: 'in any state' },
  ...Object.entries(phoneWords).map(([value, title]) => ({ value, title })),
];

function choose(person: { id: string }): void {
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

// Nothing is done to rows that one no longer sees.
watch(
  () => JSON.stringify({ ...asked.value, sort: '', down: '' }),
  () => (marked.value = new Set()),
);
const markedIds = computed(() => [...marked.value]);
const markAllThatFit = () =>
  idsOfAll()
    .then((ids) => (marked.value = new Set(ids)))
    .catch(notices.fail);

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
    <ViewMenu v-if="beside !== 'many'" :look="look" />
    <SaveList v-if="beside !== 'many'" list="people" :asked="asked" :marked="markedIds" cards />
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
        : `The codes of ${codes.people.length.toLocaleString(locale)} people are kept here until you hide them.`
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
      <Narrowing>
        <v-text-field v-model="find" aria-label="Find a person" placeholder="Find" class="find" />
        <v-select v-model="team" aria-label="Team" :items="choices.teams" />
        whose phone is
        <v-select v-model="phone" aria-label="Phone" :items="phones" />
        and who ring for
        <v-select v-model="queue" aria-label="Queue" :items="choices.queues" />
        <template v-if="setUp.skills.length > 0">
          with
          <v-select v-model="skill" aria-label="Skill" :items="choices.skills" />
        </template>
        <v-checkbox v-model="withRetired" label="with deactivated" />
      </Narrowing>
      <BulkBar
        v-if="markedIds.length > 0 && session.mayOperate"
        :ids="markedIds"
        :fit="total ?? 0"
        @all="markAllThatFit"
        @clear="marked = new Set()"
      />
      <LedgerTable
        v-model:marked="marked"
        v-model:sort="sort"
        caption="People"
        :columns="look.shown.value"
        :rows="rows ?? []"
        :total="total"
        :chosen="props.id"
        :markable="session.mayOperate"
        @choose="choose"
        @end="more"
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
          <EmptyLine v-if="failed" text="The list could not be read.">
            <v-btn @click="load()">Read it again</v-btn>
          </EmptyLine>
          <EmptyLine v-else-if="narrowed && rows !== null" text="Nobody fits this sentence.">
            <v-btn @click="showAll">Show everybody</v-btn>
          </EmptyLine>
          <EmptyLine
            v-else-if="rows !== null"
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
      v-else-if="props.id && shown.item.value"
      :key="props.id"
      :person="shown.item.value"
      :users="shown.usedBy.value"
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
.find {
  flex: 0 0 96px;
}
.narrowing :deep(.v-select) {
  max-width: 132px;
  flex: 0 1 116px;
}
.narrowing :deep(.v-checkbox) {
  flex: none;
}
</style>
