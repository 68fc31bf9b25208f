import {
  columnVisibilityFeature,
  createSortedRowModel,
  rowSortingFeature,
  tableFeatures,
  useTable,
} from '@tanstack/vue-table';
import { useVirtualizer } from '@tanstack/vue-virtual';
import { computed, nextTick, ref, type Ref, watch } from 'vue';
import { compared } from './compared.ts';
import { hasTwelveHours } from './locale.ts';
import { turn } from './turns.ts';

export interface Column<Row = never> {
  key: string;
  title: string;
  width?: string;
  right?: boolean;
  mono?: boolean;
  /** What rows are sorted by when this column's head is pressed; true where the server sorts. */
  sort?: ((row: Row) => string | number) | true;
  /** Not shown beside a sheet; what was sorted by it stays so. */
  hidden?: boolean;
  /** Holds times of day: wider where the clock has twelve hours. */
  time?: true;
  /** For where there is room: not beside a sheet. */
  roomy?: true;
}

const twelveHourPx = 20;

/** How wide a column is, as it was asked for, in this reader's way of writing. */
export function widthOf({ width, time }: Column<never>): string | undefined {
  if (time !== true || width === undefined || !hasTwelveHours()) return width;
  return `${parseInt(width) + twelveHourPx}px`;
}

const rowHeight = 28;
const spare = 12;

const features = tableFeatures({
  rowSortingFeature,
  columnVisibilityFeature,
  sortedRowModel: createSortedRowModel(),
});

/**
 * The rows of a ledger in their order, and which of them are drawn. `sort` is a column's key, behind a hyphen when it is
 * downwards; empty for the order the rows came in.
 */
export function useLedger<Row extends { id: string }>(
  rows: () => readonly Row[],
  columns: () => readonly Column<Row>[],
  sort: Ref<string>,
  scroller: Ref<HTMLElement | null>,
) {
  const sortedKey = computed(() => sort.value.replace(/^-/, ''));
  const table = useTable({
    features,
    data: computed(rows),
    columns: computed(() =>
      columns().map(({ key, sort: by }) => ({
        id: key,
        accessorFn: typeof by === 'function' ? by : () => '',
        enableSorting: typeof by === 'function',
        sortFn: (one: { getValue: (id: string) => unknown }, other: { getValue: (id: string) => unknown }) =>
          compared(one.getValue(key) as string, other.getValue(key) as string),
      })),
    ),
    getRowId: (row: Row) => row.id,
    state: computed(() => ({
      sorting: columns().some(({ key, sort: by }) => key === sortedKey.value && typeof by === 'function')
        ? [{ id: sortedKey.value, desc: sort.value.startsWith('-') }]
        : [],
      columnVisibility: Object.fromEntries(columns().map(({ key, hidden }) => [key, hidden !== true])),
    })),
  });
  const sorted = computed(() => table.getRowModel().rows.map(({ original }) => original));
  const heads = computed(() => {
    const shown = new Set(table.getVisibleLeafColumns().map(({ id }) => id));
    return columns().filter(({ key }) => shown.has(key));
  });

  // What is seen is drawn first; what one may scroll to next, after that.
  const drawsSpare = ref(false);
  watch(
    () => sorted.value.length > 0,
    (some) => some && void turn().then(() => (drawsSpare.value = true)),
    { immediate: true },
  );
  const virtualizer = useVirtualizer(
    computed(() => ({
      count: sorted.value.length,
      getScrollElement: () => scroller.value,
      estimateSize: () => rowHeight,
      overscan: drawsSpare.value ? spare : 0,
      // Before anything is measured: enough for a tall window.
      initialRect: { width: 1_000, height: 600 },
    })),
  );
  const first = computed(() => virtualizer.value.getVirtualItems()[0]?.index ?? 0);
  const last = computed(() => (virtualizer.value.getVirtualItems().at(-1)?.index ?? -1) + 1);

  /** Upwards, downwards, then as they came. */
  function sortBy({ key, sort: by }: Column<Row>): void {
    if (by === undefined) return;
    if (sort.value === key) sort.value = `-${key}`;
    else sort.value = sort.value === `-${key}` ? '' : key;
  }

  const sortedAs = ({ key }: Column<Row>) =>
    sort.value === key ? 'ascending' : sort.value === `-${key}` ? 'descending' : undefined;

  async function bringIntoView(index: number): Promise<void> {
    virtualizer.value.scrollToIndex(index);
    await nextTick();
  }

  return {
    ...{ sorted, heads, sortBy, sortedAs, bringIntoView, first, last },
    shown: computed(() => sorted.value.slice(first.value, last.value)),
    above: computed(() => first.value * rowHeight),
    below: computed(() => (sorted.value.length - last.value) * rowHeight),
  };
}

/** Rows marked to do something with all of them: one at a time, or with Shift all between. */
export function useMarks<Row extends { id: string }>(
  rows: () => readonly Row[],
  marked: Ref<ReadonlySet<string>>,
) {
  let lastMarked = -1;
  function mark(index: number, through: boolean): void {
    const fresh = new Set(marked.value);
    const wanted = !fresh.has(rows()[index]!.id);
    const [from, to] =
      through && lastMarked >= 0
        ? [Math.min(lastMarked, index), Math.max(lastMarked, index)]
        : [index, index];
    for (const { id } of rows().slice(from, to + 1)) {
      if (wanted) fresh.add(id);
      else fresh.delete(id);
    }
    lastMarked = index;
    marked.value = fresh;
  }

  const allMarked = computed(() => rows().length > 0 && rows().every(({ id }) => marked.value.has(id)));
  function markAll(): void {
    marked.value = allMarked.value ? new Set() : new Set(rows().map(({ id }) => id));
  }
  return { mark, allMarked, markAll };
}
