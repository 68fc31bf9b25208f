import {
  type InfiniteData,
  keepPreviousData,
  useInfiniteQuery,
  useQuery,
  useQueryClient,
} from '@tanstack/vue-query';
import { computed, watch } from 'vue';
import { type Page, type PageParts, readPage } from '../api/pages.ts';
import { calmly } from '../kit/calmly.ts';
import { useLive } from './live.ts';

const stretch = '100';
const mostAgain = 150;
const calmMs = 1_000;

/** What a count does not depend on is left out: two that ask the same are one request. */
function countedBy(asked: PageParts): PageParts {
  const parts = Object.entries(asked).filter(([name, value]) => !['sort', 'down'].includes(name) && value);
  return Object.fromEntries(parts.sort());
}

function countOf(path: string, asked: () => PageParts) {
  const key = computed(() => ['count', path, countedBy(asked())] as const);
  return useQuery({
    queryKey: key,
    queryFn: async ({ signal, queryKey }) =>
      (await readPage(path, { ...queryKey[2], limit: '1', total: 'true' }, signal)).total,
    placeholderData: keepPreviousData,
    gcTime: 0,
    staleTime: Number.POSITIVE_INFINITY,
    retry: 1,
  });
}

/** How many of a list fit; null until it is known. */
export function useCount(kind: string, path: string, asked: () => PageParts) {
  const live = useLive();
  const count = countOf(path, asked);
  const again = calmly(() => void count.refetch(), calmMs);
  watch(
    () => live.changedItems,
    (changed) => changed.some((each) => each.kind === kind) && again(),
  );
  watch(() => live.missed, again);
  return computed(() => count.data.value ?? null);
}

/** The ids of all that fit, for doing something with all of them. Throws ApiProblem. */
async function idsOfAll(path: string, asked: PageParts): Promise<string[]> {
  const ids: string[] = [];
  let after: string | null = null;
  do {
    const page: Page<{ id: string }> = await readPage(path, { ...asked, limit: '1000', after });
    ids.push(...page.rows.map(({ id }) => id));
    after = page.next;
  } while (after !== null);
  return ids;
}

/**
 * A long list, read a stretch at a time as one comes near its end. A change by anybody has the rows it is about read
 * again by their ids; when rows came or went, what was read so far is read anew.
 */
export function usePages<Row extends { id: string | number }>(
  kind: string,
  path: string,
  asked: () => PageParts,
  /** Kinds whose names stand in its rows. */
  shows: readonly string[] = [],
) {
  const live = useLive();
  const cache = useQueryClient();
  const key = computed(() => ['pages', path, asked()] as const);
  const query = useInfiniteQuery({
    queryKey: key,
    queryFn: ({ pageParam, signal }) =>
      readPage<Row>(path, { ...asked(), limit: stretch, after: pageParam }, signal),
    initialPageParam: null as string | null,
    getNextPageParam: (page: Page<Row>) => page.next,
    // While one types, what was there stays until what fits is read.
    placeholderData: keepPreviousData,
    gcTime: 0,
    staleTime: Number.POSITIVE_INFINITY,
    retry: 1,
    shallow: true,
  });
  const count = countOf(path, asked);
  const rows = computed(() => query.data.value?.pages.flatMap((page) => page.rows) ?? null);

  const readAnew = calmly(() => {
    void query.refetch();
    void count.refetch();
  }, calmMs);

  /** Puts rows that were read or saved in their places. */
  function put(fresh: readonly Row[]): void {
    const byId = new Map(fresh.map((row) => [row.id, row]));
    cache.setQueryData<InfiniteData<Page<Row>, string | null>>(key.value, (before) =>
      before === undefined
        ? before
        : {
            ...before,
            pages: before.pages.map((page) => ({
              ...page,
              rows: page.rows.map((row) => byId.get(row.id) ?? row),
            })),
          },
    );
  }

  async function readAgain(ids: readonly string[]): Promise<void> {
    if (ids.length > mostAgain) return readAnew();
    const { rows: fresh } = await readPage<Row>(path, { ...asked(), ids, limit: String(mostAgain) });
    const here = new Set(rows.value?.map(({ id }) => id as string));
    const fits = new Set(fresh.map(({ id }) => id as string));
    if (ids.some((id) => here.has(id) !== fits.has(id))) readAnew();
    put(fresh);
  }

  watch(
    () => live.changedItems,
    (changed) => {
      const ids = changed.filter((each) => each.kind === kind).map(({ id }) => id);
      if (rows.value === null) return;
      if (ids.length > 0) void readAgain(ids).catch(() => undefined);
      else if (changed.some((each) => shows.includes(each.kind))) readAnew();
    },
  );
  watch(() => live.missed, readAnew);

  return {
    rows,
    total: computed(() => count.data.value ?? null),
    failed: computed(() => query.isError.value),
    /** What is shown is not yet what was asked for. */
    isBehind: computed(() => query.isPlaceholderData.value),
    more: () => {
      if (query.hasNextPage.value && !query.isFetching.value) void query.fetchNextPage();
    },
    put,
    idsOfAll: () => idsOfAll(path, asked()),
    load: () => Promise.all([query.refetch(), count.refetch()]),
  };
}
