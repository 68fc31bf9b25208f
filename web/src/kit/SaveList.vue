<script setup lang="ts">
import { locale } from './locale.ts';
import { computed, ref, watch } from 'vue';
import type { JobView } from '@night-bell/core/contracts/jobs';
import { send } from '../api/items.ts';
import type { PageParts } from '../api/pages.ts';
import { useLive } from '../shell/live.ts';
import { useNotices } from '../shell/notices.ts';

/** Saves a list as a file, as it is narrowed, or the marked rows of it: made behind the page, then handed over. */
const props = defineProps<{
  /** As the server calls it. */
  list: string;
  asked?: PageParts;
  marked?: readonly string[];
  /** Of a short list that is narrowed on the page: those it shows. */
  shown?: readonly string[] | undefined;
  /** People are address cards too. */
  cards?: boolean;
}>();
const live = useLive();
const notices = useNotices();
const job = ref<JobView | null>(null);

const ways = computed(() => [
  { as: 'csv', title: 'As CSV' },
  { as: 'xlsx', title: 'As a workbook (XLSX)' },
  { as: 'jsonl', title: 'As JSON Lines' },
  ...(props.cards === true ? [{ as: 'vcf', title: 'As address cards (vCard)' }] : []),
]);
const word = computed(() => {
  const count = props.marked?.length ?? 0;
  return count > 0 ? `Download the ${count.toLocaleString(locale.value)} marked` : 'Download';
});
const soFar = computed(() => {
  const { state, done, total } = job.value!;
  if (state === 'waiting') return 'Waits for its turn';
  return total === null || total === 0
    ? `${done.toLocaleString(locale.value)} rows`
    : `${Math.round((100 * done) / total)} %`;
});

async function save(as: string): Promise<void> {
  const query = Object.fromEntries(
    Object.entries(props.asked ?? {}).filter(([, value]) => value != null && value !== ''),
  );
  const ids = (props.marked?.length ?? 0) > 0 ? props.marked : (props.shown ?? null);
  try {
    job.value = await send<JobView>('POST', '/api/saved-lists', {
      body: { list: props.list, as, query, ids },
    });
    look(job.value);
  } catch (error) {
    notices.fail(error);
  }
}

/** The file is handed over as soon as it is there. */
function look(now: JobView): void {
  if (now.endedAt === null) return;
  job.value = null;
  if (now.state === 'stopped') return;
  if (now.state === 'failed') return notices.warn(now.outcome ?? 'The list could not be saved.');
  const link = document.createElement('a');
  link.href = `/api/saved-lists/${now.id}/file`;
  link.download = now.file ?? '';
  link.click();
  notices.say(`${now.outcome ?? 'Saved.'}`);
}

async function readAgain(): Promise<void> {
  const id = job.value?.id;
  if (id === undefined) return;
  const now = await send<JobView>('GET', `/api/jobs/${id}`).catch(() => null);
  if (now === null || job.value?.id !== id) return;
  job.value = now;
  look(now);
}
watch(
  () => live.changedItems,
  (changed) => changed.some(({ id }) => id === job.value?.id) && void readAgain(),
);
watch(() => live.missed, readAgain);

const stop = () =>
  send<JobView>('POST', `/api/jobs/${job.value!.id}/stop`, { body: {} }).then(look).catch(notices.fail);
</script>

<template>
  <span v-if="job" class="saving" role="status">
    <span class="mono second">{{ soFar }}</span>
    <v-btn @click="stop">Stop</v-btn>
  </span>
  <v-menu v-else>
    <template #activator="{ props: menu }">
      <v-btn v-bind="menu">{{ word }}</v-btn>
    </template>
    <v-list>
      <v-list-item v-for="way in ways" :key="way.as" :title="way.title" @click="save(way.as)" />
    </v-list>
  </v-menu>
</template>

<style scoped>
.saving {
  display: inline-flex;
  gap: 8px;
  align-items: center;
}
</style>
