import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, type MaybeRefOrGetter, toValue, watch } from 'vue';
import type { ListApi } from '../api/items.ts';
import { calmly } from '../kit/calmly.ts';
import { compared } from '../kit/compared.ts';
import { useLive } from './live.ts';
import { oneKey } from './one.ts';

interface Item {
  id: string;
  name: string;
}

const calmMs = 1_000;

/** By name, then id: the order in which the server lists. */
function byName<View extends Item>(items: View[]): View[] {
  return [...items].sort((one, other) => compared(one.name, other.name) || (one.id < other.id ? -1 : 1));
}

/**
 * All items of a kind: read when first `needed`, kept for every page, and brought up to date one by one as the server says
 * which of them changed. After a time away everything is read again.
 */
export function useCollection<View extends Item>(
  api: ListApi<View>,
  needed: MaybeRefOrGetter<boolean> = true,
) {
  const live = useLive();
  const cache = useQueryClient();
  const key = ['items', ...api.kinds];
  const query = useQuery({
    queryKey: key,
    queryFn: () => api.list(),
    enabled: () => toValue(needed),
    staleTime: Number.POSITIVE_INFINITY,
    retry: 1,
    // Items are replaced whole, never changed in place.
    shallow: true,
  });
  const items = computed(() => (query.data.value ?? null) as View[] | null);
  const byId = computed(() => new Map((items.value ?? []).map((item) => [item.id, item])));

  /** Puts an item that was just read, or just saved, in its place. */
  function put(item: View): void {
    cache.setQueryData<{ item: View }>(oneKey(api.kinds[0]!, item.id), (before) =>
      before === undefined ? before : { ...before, item },
    );
    cache.setQueryData<View[]>(key, (before) => {
      if (before === undefined) return before;
      const isNew = before.every(({ id }) => id !== item.id);
      const all = isNew ? [...before, item] : before.map((each) => (each.id === item.id ? item : each));
      return api.inOrder === true ? all : byName(all);
    });
  }

  async function readAgain(id: string): Promise<void> {
    if (api.read === undefined) await query.refetch();
    else put((await api.read(id)).item);
  }

  const readAnew = calmly(() => void cache.invalidateQueries({ queryKey: key }), calmMs);
  watch(
    () => live.changedItems,
    (changed) => {
      if (items.value === null) return;
      const ours = changed.filter(({ kind }) => api.kinds.includes(kind));
      // One small request for a change by somebody; many changes at once are one reading of the list.
      if (ours.length === 1 && ours[0]!.kind === api.kinds[0] && api.read !== undefined)
        void readAgain(ours[0]!.id).catch(() => undefined);
      else if (ours.length > 0) readAnew();
    },
  );
  watch(() => live.missed, readAnew);

  return {
    items,
    byId,
    put,
    readAgain,
    failed: computed(() => query.isError.value),
    load: () => query.refetch(),
  };
}
