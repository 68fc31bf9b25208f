import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, type ComputedRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import type { ListView, ListViewDraft, ViewedList, WaysToLook } from '@night-bell/core/contracts/list-views';
import { send } from '../api/items.ts';
import { useNotices } from '../shell/notices.ts';
import { useSession } from '../shell/session.ts';
import type { Column } from './ledger.ts';

/** A column as the menu offers it. */
export interface ColumnChoice {
  key: string;
  title: string;
  shown: boolean;
}

export interface ListLook {
  columns: ComputedRef<ColumnChoice[]>;
  views: ComputedRef<ListView[]>;
  /** The view whose address this is. */
  current: ComputedRef<ListView | null>;
  /** Keys the address asks columns by that this list does not have. */
  missing: ComputedRef<string[]>;
  showColumn: (key: string, shown: boolean) => Promise<void>;
  usualColumns: () => Promise<void>;
  take: (view: ListView) => void;
  keep: (name: string, shared: boolean) => Promise<void>;
  drop: (view: ListView) => Promise<void>;
}

/** What a list is called in the address, and the part of it that names columns. */
const columnsPart = 'columns';

/** The address of a list without what is no way to look at it. */
function lookOf(query: Readonly<Record<string, unknown>>): string {
  const parts = Object.entries(query)
    .filter(([key, value]) => key !== columnsPart && typeof value === 'string' && value !== '')
    .sort(([one], [other]) => (one < other ? -1 : 1));
  return new URLSearchParams(parts as [string, string][]).toString();
}

const same = (one: readonly string[] | null, other: readonly string[] | null) =>
  JSON.stringify(one) === JSON.stringify(other);

/**
 * Which columns of a list are shown, and the views kept of it. Columns that the address names come first, then those one
 * chose, else all. The name and columns without a title are always there.
 */
export function useListLook<Row>(
  list: ViewedList,
  all: () => readonly Column<Row>[],
): ListLook & { shown: ComputedRef<Column<Row>[]> } {
  const route = useRoute();
  const router = useRouter();
  const cache = useQueryClient();
  const notices = useNotices();
  const session = useSession();
  const key = ['list-views', list];
  const kept = useQuery({
    queryKey: key,
    queryFn: () => send<WaysToLook>('GET', `/api/list-views?list=${list}`),
    enabled: () => session.mayRead,
    staleTime: Number.POSITIVE_INFINITY,
  });

  const named = computed(() => {
    const asked = route.query[columnsPart];
    return typeof asked === 'string' && asked !== '' ? asked.split(',') : null;
  });
  const chosen = computed(() => named.value ?? kept.data.value?.columns ?? null);
  const isFixed = ({ key: of, title }: Column<Row>) => of === 'name' || title === '';
  const isShown = (column: Column<Row>) =>
    isFixed(column) || chosen.value === null || chosen.value.includes(column.key);

  const choosable = () => all().filter((column) => !isFixed(column));
  const views = computed(() => kept.data.value?.views ?? []);
  const current = computed(
    () =>
      views.value.find(({ query, columns }) => query === lookOf(route.query) && same(columns, named.value)) ??
      null,
  );

  const go = (query: string, columns: readonly string[] | null) =>
    router.replace({
      path: route.path,
      query: {
        ...Object.fromEntries(new URLSearchParams(query)),
        ...(columns === null ? {} : { [columnsPart]: columns.join(',') }),
      },
    });

  async function choose(columns: string[] | null): Promise<void> {
    if (named.value !== null) return void (await go(lookOf(route.query), columns));
    try {
      await send('PUT', `/api/column-choices/${list}`, { body: { columns } });
      cache.setQueryData<WaysToLook>(key, (now) => (now === undefined ? now : { ...now, columns }));
    } catch (error) {
      notices.fail(error);
    }
  }

  async function reread(work: Promise<WaysToLook>): Promise<void> {
    cache.setQueryData(key, await work);
  }

  return {
    shown: computed(() => all().filter(isShown)),
    columns: computed(() =>
      choosable().map((column) => ({ key: column.key, title: column.title, shown: isShown(column) })),
    ),
    views,
    current,
    missing: computed(() =>
      (named.value ?? []).filter((each) => all().every((column) => column.key !== each)),
    ),
    showColumn: (of, shown) => {
      const keys = choosable()
        .filter((column) => (column.key === of ? shown : isShown(column)))
        .map((column) => column.key);
      return choose(keys.length === choosable().length ? null : keys);
    },
    usualColumns: () => choose(null),
    take: (view) => void go(view.query, view.columns),
    keep: (name, shared) => {
      // What everybody sees has its columns in it, whoever looks.
      const columns =
        chosen.value === null
          ? null
          : choosable()
              .filter(isShown)
              .map((column) => column.key);
      const body: ListViewDraft = { list, name, query: lookOf(route.query), columns, shared };
      return reread(send<WaysToLook>('POST', '/api/list-views', { body }))
        .then(() => go(body.query, columns))
        .then(() => undefined);
    },
    drop: async ({ id }) => {
      await send('DELETE', `/api/list-views/${id}`);
      await kept.refetch();
    },
  };
}
