<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from 'vue';
import type { RegionRow, RegionsPreview, RegionView } from '@night-bell/core/contracts/regions';
import type { Destination } from '@night-bell/core/model/destination';
import { allPlaces } from '@night-bell/core/numbers/places';
import { prefixWords } from '@night-bell/core/plan/regions';
import { readPage } from '../../api/pages.ts';
import { sentenceOf } from '../../api/client.ts';
import { send } from '../../api/items.ts';
import AddField from '../../kit/AddField.vue';
import DestinationField from '../../kit/DestinationField.vue';
import LedgerField from '../../kit/LedgerField.vue';
import JobLine from '../../kit/JobLine.vue';
import TakeOut from '../../kit/TakeOut.vue';
import { FileFault, readText } from '../../kit/text-file.ts';
import { useJob } from '../../shell/job.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { callerWords, figure, rowCount } from './words.ts';

/** The rows of one table: found, typed, pasted, chosen by place, brought from a file, taken out. */
const props = defineProps<{ table: RegionView }>();
const session = useSession();
const notices = useNotices();
const rowsPath = computed(() => `/api/region-tables/${props.table.id}/rows`);

const search = ref('');
const rows = ref<RegionRow[]>([]);
const next = ref<string | null>(null);
const fault = ref('');
let asked = 0;
async function read(after: string | null): Promise<void> {
  const turn = ++asked;
  try {
    const page = await readPage<RegionRow>(rowsPath.value, {
      ...{ search: search.value, limit: after === null ? '12' : '100', after },
    });
    if (turn !== asked) return;
    rows.value = after === null ? page.rows : [...rows.value, ...page.rows];
    next.value = page.next;
    fault.value = '';
  } catch (error) {
    if (turn === asked) fault.value = sentenceOf(error);
  }
}
watch([search, () => props.table.rows, rowsPath], () => void read(null), { immediate: true });

const text = ref('');
const to = ref<Destination | null>(null);
const preview = ref<RegionsPreview | null>(null);
const typedFault = ref('');
const keeping = ref(false);
const places = allPlaces().map(({ name, codes }) => ({
  ...{ value: name, title: name },
  props: { subtitle: codes.join(', ') },
}));
const addPlace = (name: string) => (text.value = `${text.value.trimEnd()}\n${name}`.trimStart());
/** What was typed before is still asked about; only the latest answer counts. */
let turn = 0;
let waiting: ReturnType<typeof setTimeout> | undefined;
watch(text, () => {
  clearTimeout(waiting);
  typedFault.value = '';
  if (text.value.trim() === '') {
    turn++;
    preview.value = null;
  } else waiting = setTimeout(() => void look(), 300);
});
onBeforeUnmount(() => clearTimeout(waiting));
async function look(): Promise<void> {
  const mine = ++turn;
  const body = { text: text.value, to: { kind: 'end' } };
  try {
    const came = await send<RegionsPreview>('POST', `${rowsPath.value}/preview`, { body });
    if (mine === turn) preview.value = came;
  } catch (error) {
    if (mine === turn) typedFault.value = sentenceOf(error);
  }
}
const replaced = computed(() => preview.value?.rows.filter(({ before }) => before !== null) ?? []);

async function keep(): Promise<void> {
  if (to.value === null) {
    typedFault.value = 'Say where these callers go.';
    return;
  }
  keeping.value = true;
  try {
    const body = { text: text.value, to: to.value };
    const put = await send<{ added: number; changed: number; faults: { line: number }[] }>(
      'POST',
      rowsPath.value,
      { body },
    );
    const bad = new Set(put.faults.map(({ line }) => line));
    // What could not be read stays to be mended.
    text.value = text.value
      .split(/\r?\n/)
      .filter((_, index) => bad.has(index + 1))
      .join('\n');
    notices.say(`${rowCount(put.added)} added, ${figure(put.changed)} changed.`);
    await read(null);
  } catch (error) {
    typedFault.value = sentenceOf(error);
  } finally {
    keeping.value = false;
  }
}

async function takeOut(row: RegionRow): Promise<void> {
  try {
    await send('POST', `${rowsPath.value}/take-out`, { body: { prefixes: [row.prefix] } });
    const back = { text: `+${row.prefix}`, to: row.to };
    notices.say(`${prefixWords(row.prefix)} is taken out.`, async () => {
      await send('POST', rowsPath.value, { body: back });
      await read(null);
    });
    await read(null);
  } catch (error) {
    notices.fail(error);
  }
}

const { job, begin, stop, forget } = useJob('importRegions');
const picker = ref<HTMLInputElement | null>(null);
async function bring(file: File | undefined): Promise<void> {
  if (file === undefined) return;
  typedFault.value = '';
  try {
    const blob = new Blob([await readText(file)], { type: 'text/csv' });
    await begin(`/api/region-tables/${props.table.id}/file`, { file: blob });
  } catch (error) {
    typedFault.value = error instanceof FileFault ? error.message : 'This file cannot be read.';
  }
}
watch(
  () => job.value?.state,
  (state) => state === 'done' && void read(null),
);
</script>

<template>
  <section class="region-rows">
    <header>
      <h3>{{ rowCount(table.rows) }}</h3>
      <input v-model="search" type="search" class="find" placeholder="Find" aria-label="Find a row" />
    </header>
    <p v-if="fault" class="fault-text" role="alert">{{ fault }}</p>
    <p v-else-if="rows.length === 0" class="second">
      {{ search === '' ? 'No row yet: everybody goes the way of “no row fits”.' : 'No row fits.' }}
    </p>
    <table v-else>
      <thead>
        <tr>
          <th>Begins with</th>
          <th>Place</th>
          <th>Goes to</th>
          <th><span class="sr-only">Take out</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.prefix">
          <td class="mono">{{ prefixWords(row.prefix) }}</td>
          <td class="second">{{ row.place ?? '' }}</td>
          <td>{{ row.toName }}</td>
          <td>
            <TakeOut
              v-if="session.mayEdit"
              :what="`Take ${prefixWords(row.prefix)} out`"
              @click="takeOut(row)"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <button v-if="next !== null" type="button" class="link" @click="read(next)">Show more</button>
    <template v-if="session.mayEdit">
      <h3>Add regions</h3>
      <v-textarea
        v-model="text"
        aria-label="Regions"
        placeholder="206, 360&#10;+1 425 555&#10;Oregon"
        rows="3"
        auto-grow
        max-rows="12"
        class="mono"
      />
      <AddField :items="places" label="A state, province or town" @add="addPlace" />
      <ul v-if="preview" class="small">
        <li>
          {{ rowCount(preview.rows.length) }}: {{ callerWords(preview.caught, preview.calls, preview.days) }}
        </li>
        <li v-for="each in replaced.slice(0, 5)" :key="each.prefix">
          {{ prefixWords(each.prefix) }} goes to {{ each.before }} now.
        </li>
        <li v-if="replaced.length > 5">{{ figure(replaced.length - 5) }} more go elsewhere now.</li>
        <li v-for="each in preview.faults.slice(0, 5)" :key="each.line" class="fault-text">
          Line {{ each.line }}: {{ each.detail }}
        </li>
        <li v-if="preview.faults.length > 5" class="fault-text">
          {{ figure(preview.faults.length - 5) }} more lines cannot be read.
        </li>
      </ul>
      <LedgerField label="They go to" for="region-to">
        <DestinationField id="region-to" v-model="to" label="Where these callers go" make-queue />
      </LedgerField>
      <p v-if="typedFault" class="fault-text" role="alert">{{ typedFault }}</p>
      <div class="buttons">
        <v-btn :loading="keeping" :disabled="text.trim() === ''" @click="keep">Send them there</v-btn>
        <input
          ref="picker"
          class="sr-only"
          type="file"
          accept=".csv,.txt,.tsv,.xlsx,text/*"
          aria-label="File of regions"
          tabindex="-1"
          @change="bring(($event.target as HTMLInputElement).files?.[0])"
        />
        <button type="button" class="link" @click="picker?.click()">Bring a file</button>
        <span class="second small">CSV or XLSX with the columns region and destination</span>
      </div>
      <JobLine v-if="job" :job="job" @stop="stop" @forget="forget" />
      <ul v-if="job && job.leftOut.length > 0" class="small">
        <li v-for="each in job.leftOut.slice(0, 20)" :key="each.row" class="fault-text">
          Row {{ each.row }}, {{ each.cell || 'empty' }}: {{ each.detail }}
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
header {
  display: flex;
  align-items: baseline;
  justify-content: space-between;
  gap: 12px;
}
.find {
  width: 140px;
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
}
table {
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
}
th {
  text-align: left;
  font-size: 12px;
  border-bottom: 1px solid var(--rule2);
}
th:first-child {
  width: 118px;
}
th:last-child {
  width: 28px;
}
td {
  border-bottom: 1px solid var(--rule);
  padding: 3px 8px 3px 0;
  overflow: hidden;
  text-overflow: ellipsis;
}
td:last-child {
  overflow: visible;
  padding: 0;
}
h3 {
  margin: 10px 0 4px;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 12px;
  margin-top: 8px;
}
</style>
