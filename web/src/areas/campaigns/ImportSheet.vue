<script setup lang="ts">
import { locale } from '../../kit/locale.ts';
import { computed, ref, watch } from 'vue';
import { api, ApiProblem, ask, type Campaign, type ListPreview } from '../../api/client.ts';
import JobLine from '../../kit/JobLine.vue';
import Sheet from '../../kit/Sheet.vue';
import Shape from '../../kit/Shape.vue';
import { FileFault, readText } from '../../kit/text-file.ts';
import { useJob } from '../../shell/job.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSetUp } from '../../shell/set-up.ts';
import { faultWords } from './words.ts';

/** A list is read and checked before anything is kept: columns, every row, and why some are left out. */
const props = defineProps<{ campaign: Campaign; file: File | null }>();
const emit = defineEmits<{ close: []; done: [] }>();
const notices = useNotices();
const setUp = useSetUp();
const text = ref('');
const fileName = ref('');
const preview = ref<ListPreview | null>(null);
const mapping = ref<ListPreview['mapping'] | null>(null);
const fault = ref('');
const busy = ref(false);
const picker = ref<HTMLInputElement | null>(null);
const largest = 256 * 1024 * 1024;
/** So much of a long list is looked at before it is brought; the rest is checked as it is. */
const lookedAt = 2_000_000;
const beginning = computed(() => {
  const whole = text.value;
  return whole.length <= lookedAt ? whole : whole.slice(0, whole.lastIndexOf('\n', lookedAt));
});
const isPart = computed(() => beginning.value.length < text.value.length);
const { job, going, begin, stop, forget } = useJob('importContacts');

const separatorWords: Record<string, string> = {
  ',': 'commas',
  ';': 'semicolons',
  '\t': 'tabs',
  '|': 'upright bars',
};

async function take(file: File | undefined | null): Promise<void> {
  if (file == null) return;
  if (file.size > largest) {
    fault.value = `${file.name} has ${Math.round(file.size / 1_048_576)} MB; 256 MB are taken at once. Split it.`;
    return;
  }
  fileName.value = file.name;
  try {
    text.value = await readText(file);
  } catch (error) {
    fault.value = error instanceof FileFault ? error.message : 'This file cannot be read.';
    return;
  }
  await check(null);
}

async function check(chosen: ListPreview['mapping'] | null): Promise<void> {
  if (text.value.trim() === '') return;
  busy.value = true;
  fault.value = '';
  try {
    const params = { path: { id: props.campaign.id } };
    const body = { text: beginning.value, mapping: chosen };
    preview.value = await ask(api.POST('/api/campaigns/{id}/contacts/preview', { params, body }));
    mapping.value = preview.value.mapping;
  } catch (error) {
    preview.value = null;
    fault.value = error instanceof ApiProblem ? error.detail : 'This cannot be read.';
  } finally {
    busy.value = false;
  }
}
watch(() => props.file, take, { immediate: true });

const columns = computed(() => [
  { value: null, title: 'none' },
  ...(preview.value?.headers ?? []).map((title, value) => ({ value, title: title || `column ${value + 1}` })),
]);
const reasons = computed(() =>
  Object.entries((preview.value?.checked?.byReason ?? {}) as Record<string, number>),
);
const roles = [
  { key: 'phone', word: 'Number' },
  { key: 'name', word: 'Name' },
  { key: 'firstName', word: 'First name' },
  { key: 'lastName', word: 'Last name' },
] as const;

function map(key: (typeof roles)[number]['key'], column: number | null): void {
  if (mapping.value === null) return;
  const next = { ...mapping.value, [key]: column };
  next.fields = next.fields.filter((field) => field.column !== column);
  void check(next);
}

async function keep(): Promise<void> {
  busy.value = true;
  fault.value = '';
  const mapped = encodeURIComponent(JSON.stringify(mapping.value));
  const file = new Blob([text.value], { type: 'text/csv' });
  await begin(`/api/campaigns/${props.campaign.id}/contacts/file?mapping=${mapped}`, { file });
  busy.value = false;
}
/** What is left out of a list that was seen whole has been named before. */
watch(
  () => job.value?.state,
  async (state) => {
    if (state === 'failed') fault.value = job.value!.outcome ?? '';
    if (state !== 'done') return;
    await setUp.load();
    notices.say(job.value!.outcome ?? '');
    if (!isPart.value || job.value!.leftOut.length === 0) return emit('done');
    // What is left to read is which rows were left out.
    [preview.value, text.value] = [null, ''];
  },
);
</script>

<template>
  <Sheet
    title="Bring a contact list"
    :second="fileName || 'CSV or XLSX: the first row names the columns'"
    @close="emit('close')"
  >
    <JobLine v-if="job" :job="job" @stop="stop" @forget="forget" />
    <section v-if="job && !going && job.leftOut.length > 0">
      <h3>Rows left out</h3>
      <ul class="faults small">
        <li v-for="each in job.leftOut" :key="each.row">
          <span class="mono">row {{ each.row + 1 }}</span>
          <span class="mono cell">{{ each.cell || 'empty' }}</span>
          <span>{{ each.detail }}</span>
        </li>
      </ul>
    </section>
    <section v-if="preview === null">
      <input
        ref="picker"
        class="unseen"
        type="file"
        accept=".csv,.txt,.tsv,.xlsx,text/*"
        aria-label="File"
        @change="take(($event.target as HTMLInputElement).files?.[0])"
      />
      <p class="choose">
        <v-btn @click="picker?.click()">Choose a file</v-btn>
        <span class="second">or drop one on the page</span>
      </p>
      <label for="import-text" class="second">or paste rows, with their header</label>
      <textarea
        id="import-text"
        v-model="text"
        rows="9"
        class="mono"
        placeholder="name,phone,fare&#10;Ann Lee,+1 360 555 0117,12.50"
      ></textarea>
      <p v-if="fault" class="fault-text" role="alert"><Shape name="fault" /> {{ fault }}</p>
      <div class="buttons">
        <v-btn
          variant="flat"
          color="primary"
          :loading="busy"
          :disabled="text.trim() === ''"
          @click="check(null)"
          >Look at it</v-btn
        >
      </div>
    </section>
    <template v-else>
      <section>
        <p>
          <template v-if="isPart">The first </template
          ><b>{{ preview.total.toLocaleString(locale) }}</b> rows{{ isPart ? ' were looked at' : '' }}, cells
          separated by {{ separatorWords[preview.separator] }}.
          <template v-if="isPart"> The rest is checked in the same way as it is brought.</template>
        </p>
        <ul class="mapping">
          <li v-for="role in roles" :key="role.key">
            <span class="second">{{ role.word }}</span>
            <v-select
              :model-value="mapping?.[role.key] ?? null"
              :items="columns"
              :aria-label="`Column with the ${role.word.toLowerCase()}`"
              @update:model-value="map(role.key, $event)"
            />
          </li>
        </ul>
        <p v-if="mapping && mapping.phone === null" class="fault-text" role="alert">
          <Shape name="fault" /> No column is called phone. Say which one holds the numbers.
        </p>
        <p v-if="mapping && mapping.fields.length > 0" class="second small">
          Own fields kept: <span class="mono">{{ mapping.fields.map((field) => field.key).join(', ') }}</span>
        </p>
      </section>
      <section v-if="preview.checked">
        <p class="line">
          <Shape name="done" /> <b>{{ preview.checked.good.toLocaleString(locale) }}</b> can be called
        </p>
        <p v-for="[why, count] in reasons" :key="why" class="line">
          <Shape name="missing" /> <b>{{ count.toLocaleString(locale) }}</b> left out:
          {{ faultWords[why] ?? why }}
        </p>
        <p v-if="preview.checked.uncertainZones > 0" class="line second">
          <span></span>{{ preview.checked.uncertainZones.toLocaleString(locale) }} may be in several time
          zones; they are called when all of those are within the calling hours.
        </p>
        <p v-if="preview.checked.withoutZone > 0" class="line fault-text">
          <Shape name="fault" />{{ preview.checked.withoutZone }} have no known time zone and are never
          called.
        </p>
        <p v-if="fault" class="fault-text" role="alert"><Shape name="fault" /> {{ fault }}</p>
        <div class="buttons">
          <v-btn
            variant="flat"
            color="primary"
            :loading="busy"
            :disabled="preview.checked.good === 0 || going"
            @click="keep"
            >{{
              isPart ? 'Bring them all' : `Add ${preview.checked.good.toLocaleString(locale)} contacts`
            }}</v-btn
          >
          <v-btn @click="preview = null">Another file</v-btn>
        </div>
      </section>
      <section v-if="preview.checked && preview.checked.faults.length > 0">
        <h3>Rows left out</h3>
        <ul class="faults small">
          <li v-for="each in preview.checked.faults" :key="each.row">
            <span class="mono">row {{ each.row + 1 }}</span>
            <span class="mono cell">{{ each.cell || 'empty' }}</span>
            <span>{{ each.detail }}</span>
          </li>
        </ul>
        <p v-if="preview.checked.faulty > preview.checked.faults.length" class="second small">
          and {{ (preview.checked.faulty - preview.checked.faults.length).toLocaleString(locale) }} more
        </p>
      </section>
      <section>
        <h3>The first rows</h3>
        <div class="peek">
          <table>
            <thead>
              <tr>
                <th v-for="(header, index) in preview.headers" :key="index">{{ header }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(row, index) in preview.rows" :key="index">
                <td v-for="(cell, at) in row" :key="at">{{ cell }}</td>
              </tr>
            </tbody>
          </table>
        </div>
      </section>
    </template>
  </Sheet>
</template>

<style scoped>
.unseen {
  display: none;
}
.choose {
  display: flex;
  align-items: center;
  gap: 10px;
  margin-bottom: 12px;
}
textarea {
  width: 100%;
  margin: 4px 0 8px;
  border: 1px solid var(--rule2);
  border-radius: 2px;
  background: none;
  color: inherit;
  padding: 6px 8px;
  resize: vertical;
}
label {
  display: block;
  padding-top: 10px;
}
.mapping li {
  display: grid;
  grid-template-columns: 96px 1fr;
  align-items: center;
}
.line {
  display: grid;
  grid-template-columns: 16px auto 1fr;
  gap: 6px;
  align-items: baseline;
  padding: 2px 0;
}
.line.second,
.line.fault-text {
  grid-template-columns: 16px 1fr;
}
.faults li {
  display: grid;
  grid-template-columns: max-content 108px 1fr;
  gap: 6px;
  padding: 3px 0;
  border-bottom: 1px solid var(--rule);
}
.cell {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  color: var(--oxide);
}
.peek {
  overflow: auto;
}
table {
  border-collapse: collapse;
  font-size: 12px;
}
th,
td {
  text-align: left;
  padding: 2px 10px 2px 0;
  border-bottom: 1px solid var(--rule);
  white-space: nowrap;
}
</style>
