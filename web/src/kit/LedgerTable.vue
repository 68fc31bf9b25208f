<script setup lang="ts" generic="Row extends { id: string }">
import { computed, nextTick, ref } from 'vue';

export interface Column<Row = never> {
  key: string;
  title: string;
  width?: string;
  right?: boolean;
  mono?: boolean;
  /** What rows are sorted by when this column's head is pressed. */
  sort?: (row: Row) => string | number;
  /** Not shown beside a sheet; what was sorted by it stays so. */
  hidden?: boolean;
}

/**
 * A list as a ledger: row numbers in the margin behind a double rule, one row chosen, arrows move. Where rows can be
 * marked the margin marks them: a press marks one, with Shift all between, Space the chosen one.
 */
const props = defineProps<{
  columns: Column<Row>[];
  rows: Row[];
  chosen?: string | null | undefined;
  /** What this list is called, for those who hear it. */
  caption: string;
  /** Leaves the margin with the row numbers out. */
  bare?: boolean;
  /** Rows can be marked, to do something with all of them. */
  markable?: boolean;
}>();
const marked = defineModel<ReadonlySet<string>>('marked', { default: () => new Set() });
/** Key of the column, behind a hyphen when it is sorted downwards; empty for the order the rows came in. */
const sort = defineModel<string>('sort', { default: '' });
const emit = defineEmits<{ choose: [row: Row]; end: [] }>();

/** What a column without a slot of its own shows. */
const plain = (row: Row, key: string) => (row as Record<string, unknown>)[key];

const body = ref<HTMLElement | null>(null);
const rowHeight = 28;
const top = ref(0);
const height = ref(600);
const spare = 12;

const heads = computed(() => props.columns.filter((column) => column.hidden !== true));
const sorted = computed(() => {
  const column = props.columns.find((each) => each.key === sort.value.replace(/^-/, ''));
  if (column?.sort === undefined) return props.rows;
  const by = column.sort;
  const sign = sort.value.startsWith('-') ? -1 : 1;
  return [...props.rows].sort((one, other) => {
    const [a, b] = [by(one), by(other)];
    const order =
      typeof a === 'string' && typeof b === 'string'
        ? a.localeCompare(b, 'en', { numeric: true })
        : Number(a) - Number(b);
    return sign * order;
  });
});

/** Upwards, downwards, then as they came. */
function sortBy(column: Column<Row>): void {
  if (column.sort === undefined) return;
  if (sort.value === column.key) sort.value = `-${column.key}`;
  else sort.value = sort.value === `-${column.key}` ? '' : column.key;
}

const sortedAs = (column: Column<Row>) =>
  sort.value === column.key ? 'ascending' : sort.value === `-${column.key}` ? 'descending' : undefined;

let lastMarked = -1;
function mark(index: number, through: boolean): void {
  const fresh = new Set(marked.value);
  const wanted = !fresh.has(sorted.value[index]!.id);
  const from = through && lastMarked >= 0 ? Math.min(lastMarked, index) : index;
  const to = through && lastMarked >= 0 ? Math.max(lastMarked, index) : index;
  for (let at = from; at <= to; at++) {
    if (wanted) fresh.add(sorted.value[at]!.id);
    else fresh.delete(sorted.value[at]!.id);
  }
  lastMarked = index;
  marked.value = fresh;
}

const allMarked = computed(
  () => sorted.value.length > 0 && sorted.value.every((row) => marked.value.has(row.id)),
);
function markAll(): void {
  marked.value = allMarked.value ? new Set() : new Set(sorted.value.map((row) => row.id));
}

const first = computed(() => Math.max(0, Math.floor(top.value / rowHeight) - spare));
const last = computed(() =>
  Math.min(props.rows.length, Math.ceil((top.value + height.value) / rowHeight) + spare),
);
const shown = computed(() => sorted.value.slice(first.value, last.value));
const chosenIndex = computed(() => sorted.value.findIndex((row) => row.id === props.chosen));

function scrolled(): void {
  const element = body.value!;
  top.value = element.scrollTop;
  height.value = element.clientHeight;
  if (element.scrollTop + element.clientHeight > element.scrollHeight - 400) emit('end');
}

function press(event: MouseEvent, index: number): void {
  if (!props.markable) return;
  event.stopPropagation();
  event.preventDefault();
  mark(index, event.shiftKey);
}

async function move(by: number): Promise<void> {
  if (props.rows.length === 0) return;
  const from = chosenIndex.value < 0 ? (by > 0 ? -1 : props.rows.length) : chosenIndex.value;
  const index = Math.min(props.rows.length - 1, Math.max(0, from + by));
  emit('choose', sorted.value[index]!);
  const element = body.value!;
  const y = index * rowHeight;
  if (y < element.scrollTop) element.scrollTop = y;
  else if (y + 2 * rowHeight > element.scrollTop + element.clientHeight)
    element.scrollTop = y - element.clientHeight + 2 * rowHeight;
  await nextTick();
}
</script>

<template>
  <div
    ref="body"
    class="scroll"
    tabindex="0"
    role="region"
    :aria-label="caption"
    @scroll.passive="scrolled"
    @keydown.down.prevent="move(1)"
    @keydown.up.prevent="move(-1)"
    @keydown.page-down.prevent="move(20)"
    @keydown.page-up.prevent="move(-20)"
    @keydown.space.self.prevent="markable && chosenIndex >= 0 && mark(chosenIndex, $event.shiftKey)"
  >
    <table>
      <thead>
        <tr>
          <th v-if="!bare" class="margin">
            <input
              v-if="markable"
              type="checkbox"
              :checked="allMarked"
              :indeterminate.prop="marked.size > 0 && !allMarked"
              aria-label="Mark all rows"
              @change="markAll"
            />
            <span v-else class="visually-hidden">Row</span>
          </th>
          <th
            v-for="column in heads"
            :key="column.key"
            :style="{ width: column.width }"
            :class="{ right: column.right }"
            :aria-sort="sortedAs(column)"
            scope="col"
          >
            <button v-if="column.sort" type="button" class="head" @click="sortBy(column)">
              {{ column.title }}<span v-if="sortedAs(column)" class="way" :class="sortedAs(column)" />
            </button>
            <template v-else>{{ column.title }}</template>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-if="first > 0" aria-hidden="true" :style="{ height: `${first * rowHeight}px` }"></tr>
        <tr
          v-for="(row, index) in shown"
          :key="row.id"
          :class="{ chosen: row.id === chosen, marked: marked.has(row.id) }"
          :aria-selected="row.id === chosen"
          @click="emit('choose', row)"
        >
          <td
            v-if="!bare"
            class="margin mono"
            :class="{ marking: markable }"
            @click="press($event, first + index)"
          >
            <span class="number">{{ first + index + 1 }}</span>
            <input
              v-if="markable"
              type="checkbox"
              tabindex="-1"
              :checked="marked.has(row.id)"
              :aria-label="`Mark row ${first + index + 1}`"
            />
          </td>
          <td v-for="column in heads" :key="column.key" :class="{ right: column.right, mono: column.mono }">
            <slot :name="column.key" :row="row">{{ plain(row, column.key) }}</slot>
          </td>
        </tr>
        <tr
          v-if="last < rows.length"
          aria-hidden="true"
          :style="{ height: `${(rows.length - last) * rowHeight}px` }"
        ></tr>
      </tbody>
    </table>
    <slot v-if="rows.length === 0" name="empty" />
  </div>
</template>

<style scoped>
.scroll {
  overflow: auto;
  flex: 1;
  min-height: 0;
  outline-offset: -2px;
}
table {
  width: 100%;
  border-collapse: separate;
  border-spacing: 0;
  table-layout: fixed;
}
thead th {
  position: sticky;
  top: 0;
  z-index: 1;
  background: var(--page);
  font: 600 12px/28px var(--sans);
  text-align: left;
  padding: 0 8px;
  border-bottom: 1px solid var(--rule2);
  height: 28px;
  white-space: nowrap;
}
td {
  height: 28px;
  padding: 0 8px;
  border-bottom: 1px solid var(--rule);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
th.right,
td.right {
  text-align: right;
}
.margin {
  width: 40px;
  text-align: right;
  color: var(--ink2);
  border-right: 4px double var(--margin);
  padding-right: 8px;
}
tbody tr {
  cursor: pointer;
}
tbody tr:hover td {
  background: color-mix(in srgb, var(--sel) 50%, transparent);
}
tbody tr.chosen td {
  background: var(--sel);
}
tbody tr:last-child td {
  border-bottom: 3px double var(--rule2);
}
tbody tr.marked td {
  background: var(--wash);
}
tbody tr.marked.chosen td {
  background: var(--sel);
}
.head {
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  padding: 0;
  cursor: pointer;
}
.way {
  display: inline-block;
  margin: 0 0 2px 5px;
  border: 3px solid transparent;
}
.way.ascending {
  border-bottom: 5px solid var(--brass);
  border-top: 0;
}
.way.descending {
  border-top: 5px solid var(--brass);
  border-bottom: 0;
}
.margin input {
  width: 13px;
  height: 13px;
  margin: 0;
  vertical-align: -2px;
}
td.marking {
  cursor: default;
}
td.marking input {
  display: none;
}
tr.marked td.marking input,
td.marking:hover input {
  display: inline-block;
}
tr.marked td.marking .number,
td.marking:hover .number {
  display: none;
}
.visually-hidden {
  position: absolute;
  clip-path: inset(50%);
}
</style>
