import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, watch } from 'vue';
import { send } from '../api/items.ts';
import { calmly } from '../kit/calmly.ts';
import { useLive } from './live.ts';

/** A box whose messages I may hear. */
export interface AudibleBox {
  id: string;
  name: string;
  own: boolean;
  held: number;
  fresh: number;
  oldestFresh: number | null;
}

const key = ['voicemail'];
const calmMs = 1_000;

/** The boxes I may hear, those with new messages first; read again when one of them changes. */
export function useVoicemail() {
  const live = useLive();
  const cache = useQueryClient();
  const query = useQuery({
    queryKey: key,
    queryFn: () => send<AudibleBox[]>('GET', '/api/voicemail'),
    staleTime: Number.POSITIVE_INFINITY,
    retry: 1,
  });
  // Many messages at once are one reading.
  const readAgain = calmly(() => void cache.invalidateQueries({ queryKey: key }), calmMs);
  watch([() => live.changedItems, () => live.missed], ([changed, missed], [, missedBefore]) => {
    if (missed !== missedBefore || changed.some(({ kind }) => kind === 'voicemail')) readAgain();
  });
  const boxes = computed(() => query.data.value ?? null);
  return {
    boxes,
    fresh: computed(() => (boxes.value ?? []).reduce((sum, box) => sum + box.fresh, 0)),
    failed: computed(() => query.isError.value),
    load: () => query.refetch(),
  };
}
