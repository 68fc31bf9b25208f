import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, watch } from 'vue';
import { useLive } from './live.ts';

/** Under which one item is kept, with what uses it. */
export const oneKey = (kind: string, id: string) => ['one', kind, id] as const;

/** One item with what uses it, for its sheet; read again when anybody changed it. */
export function useOne<View>(
  kind: string,
  read: (
    id: string,
  ) => Promise<{ item: View; usedBy: { id: string; kind: string; name: string; how: string }[] }>,
  id: () => string | undefined,
) {
  const live = useLive();
  const cache = useQueryClient();
  const key = computed(() => oneKey(kind, id() ?? ''));
  const query = useQuery({
    queryKey: key,
    queryFn: ({ queryKey }) => read(queryKey[2]),
    enabled: () => (id() ?? '') !== '',
    gcTime: 0,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
    shallow: true,
  });
  const readAgain = () => void cache.invalidateQueries({ queryKey: key.value });
  watch(
    () => live.changedItems,
    (changed) => {
      if (changed.some((each) => each.id === id())) readAgain();
    },
  );
  watch(() => live.missed, readAgain);
  return {
    item: computed(() => (query.data.value?.item ?? null) as View | null),
    usedBy: computed(() => query.data.value?.usedBy ?? []),
    /** There is none of this id, or it cannot be read. */
    failed: computed(() => query.isError.value),
  };
}
