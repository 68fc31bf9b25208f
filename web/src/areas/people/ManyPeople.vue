<script setup lang="ts">
import { figure } from '../../kit/locale.ts';
import { computed, ref } from 'vue';
import {
  type CheckedPerson,
  type ListColumn,
  personRange,
  type PersonColumn,
  personColumns,
  type PersonRow,
} from '@night-bell/core/model/people-list';
import { api, ApiProblem, ask } from '../../api/client.ts';
import EmptyLine from '../../kit/EmptyLine.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import Shape from '../../kit/Shape.vue';
import { FileFault, readText } from '../../kit/text-file.ts';
import { useSetUp } from '../../shell/set-up.ts';
import { useFreshCodes } from './fresh-codes.ts';
import MadePeople from './MadePeople.vue';
import PeopleEntry from './PeopleEntry.vue';
import { columnWords } from './words.ts';
import TakeOut from '../../kit/TakeOut.vue';

/** Many people at once: rows are pasted, read from a file or counted; each is checked, mended in place, then made. */
const emit = defineEmits<{ close: [] }>();
const setUp = useSetUp();
const largest = 8 * 1024 * 1024;

interface Entry {
  id: string;
  given: PersonRow;
  checked: CheckedPerson | null;
}

const text = ref('');
const range = ref({ count: 20, from: 2501, team: '', word: 'Agent' });
const columns = ref<{ header: string; holds: ListColumn }[]>([]);
const entries = ref<Entry[]>([]);
const newTeams = ref<string[]>([]);
const onlyFaulty = ref(false);
const fault = ref('');
const busy = ref(false);
const codes = useFreshCodes();
const handsOut = ref(false);
/** Codes go by mail to those who have an address. */
const sends = ref(true);
const reachable = computed(() => good.value.filter(({ checked }) => checked!.row.mail !== '').length);

const holdings = [
  { value: null, title: 'left out' },
  ...Object.entries(columnWords).map(([value, title]) => ({ value, title })),
];

const faulty = (entry: Entry) => Object.keys(entry.checked?.faults ?? {}).length > 0;
const good = computed(() => entries.value.filter((entry) => entry.checked !== null && !faulty(entry)));
const bad = computed(() => entries.value.filter(faulty));
const shown = computed(() => (onlyFaulty.value && bad.value.length > 0 ? bad.value : entries.value));

const ledger = [
  { key: 'name', title: 'Name', width: '13%' },
  { key: 'team', title: 'Team', width: '10%' },
  { key: 'role', title: 'Role', width: '92px' },
  { key: 'login', title: 'Login', width: '12%' },
  { key: 'extension', title: 'Ext', width: '64px' },
  { key: 'phone', title: 'Phone', width: '13%' },
  { key: 'mail', title: 'Mail', width: '14%' },
  { key: 'fault', title: 'What is wrong' },
  { key: 'out', title: '', width: '60px' },
];

async function working(work: () => Promise<void>): Promise<void> {
  busy.value = true;
  fault.value = '';
  try {
    await work();
  } catch (error) {
    if (error instanceof FileFault) return void (fault.value = error.message);
    if (!(error instanceof ApiProblem)) throw error;
    const [path, detail] = Object.entries(error.faults)[0] ?? ['', error.detail];
    // Something was taken meanwhile: its cells are marked by checking again.
    fault.value = path.startsWith('/rows') ? error.detail : detail;
    if (path.startsWith('/rows')) await check().catch(() => undefined);
  } finally {
    busy.value = false;
  }
}

async function takeFile(file: File | undefined | null): Promise<void> {
  if (file == null) return;
  if (file.size > largest) {
    fault.value = `${file.name} has ${Math.round(file.size / 1_048_576)} MB; 8 MB are taken at once. Split it.`;
    return;
  }
  await working(async () => {
    text.value = await readText(file);
  });
  if (fault.value === '') await read(null);
}

const read = (chosen: ListColumn[] | null) =>
  working(async () => {
    const answer = await ask(
      api.POST('/api/people/list/read', { body: { text: text.value, columns: chosen } }),
    );
    columns.value = answer.headers.map((header, index) => ({ header, holds: answer.columns[index] ?? null }));
    await take(answer.rows);
  });
const choose = (index: number, holds: ListColumn) =>
  read(columns.value.map((column, at) => (at === index ? holds : column.holds)));

const count = () =>
  working(async () => {
    columns.value = [];
    const { count: many, from, team, word } = range.value;
    await take(personRange({ count: Math.min(5_000, Number(many)), from: Number(from), team, word }));
  });

async function take(rows: PersonRow[]): Promise<void> {
  if (rows.length === 0) {
    fault.value = 'No row holds a person. Say which column is the name.';
    return;
  }
  entries.value = rows.map((given, index) => ({ id: String(index), given, checked: null }));
  await check();
}

let asked = 0;
/** Rows are checked against each other too, so all of them go. */
async function check(): Promise<void> {
  const turn = ++asked;
  if (entries.value.length === 0) return;
  const answer = await ask(
    api.POST('/api/people/list/check', { body: { rows: entries.value.map((entry) => entry.given) } }),
  );
  if (turn !== asked) return;
  newTeams.value = answer.newTeams;
  entries.value = entries.value.map((entry, index) => ({
    ...entry,
    checked: answer.rows[index] as unknown as CheckedPerson,
  }));
}

function change(entry: Entry, column: PersonColumn, value: string): void {
  if (entry.given[column] === value) return;
  // What the columns hold is settled: reading anew would undo what is mended here.
  columns.value = [];
  entry.given = { ...entry.given, [column]: value };
  void working(check);
}
function leaveOut(entry: Entry): void {
  entries.value = entries.value.filter((each) => each.id !== entry.id);
  void working(check);
}

const make = () =>
  working(async () => {
    const taken = good.value;
    const rows = taken.map((entry) => entry.checked!.row);
    codes.keep(
      await ask(
        api.POST('/api/people/list', { body: { rows, sendCodes: sends.value && reachable.value > 0 } }),
      ),
    );
    handsOut.value = true;
    entries.value = bad.value;
    columns.value = [];
    await setUp.load();
    await check();
  });

function over(): void {
  handsOut.value = false;
  if (entries.value.length > 0) return;
  codes.hideAll();
  emit('close');
}
</script>

<template>
  <MadePeople v-if="handsOut" :people="codes.people" :waiting="entries.length" @close="over" />
  <PeopleEntry
    v-else-if="entries.length === 0"
    v-model="text"
    v-model:range="range"
    :fault="fault"
    :busy="busy"
    @read="read(null)"
    @count="count"
    @file="takeFile"
  />
  <div v-else class="rows">
    <div class="sentence">
      <b>{{ figure(entries.length) }}</b> rows,
      <span><Shape name="done" /> {{ figure(good.length) }} good</span>
      <span v-if="bad.length > 0" class="fault-text"
        ><Shape name="fault" /> {{ figure(bad.length) }} to mend</span
      >
      <v-checkbox v-if="bad.length > 0" v-model="onlyFaulty" label="only those" />
      <span v-if="newTeams.length > 0" class="second">Made with them: {{ newTeams.join(', ') }}.</span>
      <v-checkbox
        v-if="reachable > 0"
        v-model="sends"
        :label="reachable === 1 ? 'send 1 of them the codes' : `send ${figure(reachable)} of them the codes`"
      />
      <span class="actions">
        <v-btn @click="entries = []">Back</v-btn>
        <v-btn variant="flat" color="primary" :loading="busy" :disabled="good.length === 0" @click="make"
          >Make {{ figure(good.length) }} people</v-btn
        >
      </span>
    </div>
    <p v-if="fault" class="fault-text told" role="alert"><Shape name="fault" /> {{ fault }}</p>
    <div v-if="columns.length > 0" class="sentence columns">
      <label v-for="(column, index) in columns" :key="index">
        <span class="second">{{ column.header || `column ${index + 1}` }} is</span>
        <v-select
          :model-value="column.holds"
          :items="holdings"
          :aria-label="`What ${column.header} is`"
          @update:model-value="choose(index, $event)"
        />
      </label>
    </div>
    <LedgerTable caption="People to be made" :columns="ledger" :rows="shown">
      <template v-for="column in personColumns" :key="column" #[column]="{ row }">
        <input
          class="cell"
          :class="{ wrong: row.checked?.faults[column], mono: column === 'login' || column === 'extension' }"
          :value="row.given[column]"
          :placeholder="row.checked?.row[column]"
          :aria-label="`${column} of row ${Number(row.id) + 1}`"
          :aria-invalid="row.checked?.faults[column] !== undefined"
          @change="change(row, column, ($event.target as HTMLInputElement).value)"
        />
      </template>
      <template #fault="{ row }">
        <span v-if="faulty(row)" class="fault-text" :title="Object.values(row.checked!.faults).join(' ')">{{
          Object.values(row.checked!.faults).join(' ')
        }}</span>
      </template>
      <template #out="{ row }">
        <TakeOut :what="`Leave row ${Number(row.id) + 1} out`" @click="leaveOut(row)" />
      </template>
      <template #empty><EmptyLine text="No row is left." /></template>
    </LedgerTable>
  </div>
</template>

<style scoped>
.rows {
  flex: 1;
  min-width: 0;
  display: flex;
  flex-direction: column;
}
.sentence {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 10px;
  padding: 6px 20px;
}
.rows .sentence {
  border-bottom: 1px solid var(--rule);
}
.actions {
  margin-left: auto;
  display: flex;
  gap: 8px;
}
.columns label {
  display: flex;
  align-items: center;
  gap: 6px;
}
.columns :deep(.v-select) {
  flex: 0 0 116px;
}
.told {
  padding: 6px 20px 0;
}
.cell {
  width: 100%;
  height: 24px;
  border: 0;
  border-bottom: 1px solid transparent;
  background: none;
  color: inherit;
}
.cell:hover,
.cell:focus {
  border-bottom-color: var(--rule2);
}
.cell.wrong {
  border-bottom: 2px solid var(--oxide);
}
.cell::placeholder {
  color: var(--ink2);
  opacity: 1;
}
</style>
