import { useQuery } from '@tanstack/vue-query';
import { computed } from 'vue';
import { api, ask } from '../../api/client.ts';

/** Half a minute more or less makes no difference to how a day goes. */
const lookEveryMs = 30_000;

/** Of each queue, how its calls of today stand towards what it aims at; queues without calls are not in it. */
export function useQueueLevels() {
  const query = useQuery({
    queryKey: ['queue-levels'],
    queryFn: () => ask(api.GET('/api/queue-levels')),
    refetchInterval: lookEveryMs,
    retry: false,
  });
  return computed(() => new Map((query.data.value ?? []).map((level) => [level.queueId, level])));
}
