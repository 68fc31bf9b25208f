import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, watch } from 'vue';
import type { ItemApi } from '../api/items.ts';
import { useLive } from './live.ts';

interface Item {
  id: string;
  name: string;
  retired: boolean;
}

/** By name, then id: the order in which the server lists. */
function inOrder<View extends Item>(items: View[]): View[] {
  return [...items].sort((one, other) => one.name.localeCompare(other.name) || (one.id < other.id ? -1 : 1));
}

/**
 * All items of a kind: read when first needed, kept for every page, and brought up to date one by one as the server says
 * which of them changed. After a time away everything is read again.
 */
export function useCollection<Draft, View extends Item>(api: ItemApi<Draft, View>) {
  const live = useLive();
  const cache = useQueryClient();
  const key = ['items', api.kind];
  const query = useQuery({
    queryKey: key,
    queryFn: () => api.list(),
    staleTime: Number.POSITIVE_INFINITY,
    retry: 1,
    // Items are replaced whole, never changed in place.
    shallow: true,
  });
  const items = computed(() => (query.data.value ?? null) as View[] | null);
  const byId = computed(() => new Map((items.value ?? []).map((item) => [item.id, item])));

  /** Puts an item that was just read, or just saved, in its place. */
  function put(item: View): void {
    cache.setQueryData<View[]>(key, (before) =>
      before === undefined ? before : inOrder([...before.filter(({ id }) => id !== item.id), item]),
    );
  }

  async function readAgain(id: string): Promise<void> {
    const { item } = await api.read(id);
    put(item);
  }

  watch(
    () => live.changedItems,
    (changed) => {
      if (items.value === null) return;
      for (const { kind, id } of changed) if (kind === api.kind) void readAgain(id).catch(() => undefined);
    },
  );
  watch(
    () => live.missed,
    () => void cache.invalidateQueries({ queryKey: key }),
  );

  return {
    items,
    byId,
    put,
    readAgain,
    failed: computed(() => query.isError.value),
    load: () => query.refetch(),
  };
}
