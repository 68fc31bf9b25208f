import { computed, onMounted, ref, watch } from 'vue';
import type { JobKind, JobView } from '@night-bell/core/contracts/jobs';
import { send } from '../api/items.ts';
import { useLive } from './live.ts';
import { useNotices } from './notices.ts';

/** A job of one kind, behind this page: begun here, or found going on; how far it is, and stopping it. */
export function useJob(kind: JobKind) {
  const live = useLive();
  const notices = useNotices();
  const job = ref<JobView | null>(null);
  const going = computed(() => job.value !== null && job.value.endedAt === null);

  async function taken(work: Promise<JobView>): Promise<void> {
    try {
      job.value = await work;
    } catch (error) {
      notices.fail(error);
    }
  }
  const begin = (path: string, what: { body: object } | { file: Blob }) => taken(send('POST', path, what));
  const stop = () => taken(send('POST', `/api/jobs/${job.value!.id}/stop`, { body: {} }));
  const forget = () => (job.value = null);
  const readAgain = async (id: string) => {
    job.value = await send<JobView>('GET', `/api/jobs/${id}`).catch(() => job.value);
  };

  onMounted(async () => {
    const latest = await send<JobView[]>('GET', '/api/jobs').catch(() => []);
    job.value ??= latest.find((each) => each.kind === kind && each.endedAt === null) ?? null;
  });
  watch(
    () => live.changedItems,
    (changed) => {
      const mine = job.value?.id;
      if (mine !== undefined && changed.some(({ id }) => id === mine)) void readAgain(mine);
    },
  );
  watch(
    () => live.missed,
    () => job.value !== null && void readAgain(job.value.id),
  );

  return { job, going, begin, stop, forget };
}
