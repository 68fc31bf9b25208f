<script setup lang="ts" generic="Row extends { id: string }">
import { computed, ref, useId, watch } from 'vue';
import { type Column, useLedger, useMarks, widthOf } from './ledger.ts';

/**
 * A list as a ledger: row numbers in the margin behind a double rule. Arrows move, Enter or a press opens. Where rows can
 * be marked the margin marks them: a press marks one, with Shift all between, Space the one the arrows are on.
 */
const props = defineProps<{
  columns: readonly Column<Row>[];
  rows: readonly Row[];
  chosen?: string | null | undefined;
  /** What this list is called, for those who hear it. */
  caption: string;
  /** Leaves the margin with the row numbers out. */
  bare?: boolean;
  /** Rows can be marked, to do something with all of them. */
  markable?: boolean;
  /** How many rows there are in all, where not all of them are read yet. */
  total?: number | null | undefined;
}>();
const marked = defineModel<ReadonlySet<string>>('marked', { default: () => new Set() });
/** Key of the column, behind a hyphen when it is sorted downwards; empty for the order the rows came in. */
const sort = defineModel<string>('sort', { default: '' });
const emit = defineEmits<{ choose: [row: Row]; end: [] }>();

/** What a column without a slot of its own shows. */
const plain = (row: Row, key: string) => (row as Record<string, unknown>)[key];

const scroller = ref<HTMLElement | null>(null);
const { sorted, heads, sortBy, sortedAs, bringIntoView, first, last, shown, above, below } = useLedger(
  () => props.rows,
  () => props.columns,
  sort,
  scroller,
);
const { mark, allMarked, markAll } = useMarks(() => sorted.value, marked);

/** The row the arrows are on. */
const active = ref<string | null>(props.chosen ?? null);
const own = useId();
const idOf = (row: Row) => `${own}-${row.id}`;
watch(
  () => props.chosen,
  (chosen) => (active.value = chosen ?? active.value),
);
const activeIndex = computed(() => sorted.value.findIndex(({ id }) => id === active.value));

// The end is near: whoever has more rows reads them now.
watch([last, () => props.rows.length], () => {
  if (last.value > props.rows.length - 30) emit('end');
});

function press(event: MouseEvent, index: number): void {
  if (!props.markable) return;
  event.stopPropagation();
  event.preventDefault();
  mark(index, event.shiftKey);
}

function choose(row: Row): void {
  active.value = row.id;
  emit('choose', row);
}

async function moveTo(index: number): Promise<void> {
  if (sorted.value.length === 0) return;
  const row = sorted.value[Math.min(sorted.value.length - 1, Math.max(0, index))]!;
  await bringIntoView(sorted.value.indexOf(row));
  active.value = row.id;
}

const move = (by: number) =>
  moveTo(activeIndex.value < 0 ? (by > 0 ? 0 : sorted.value.length - 1) : activeIndex.value + by);

function enter(): void {
  const row = sorted.value[activeIndex.value];
  if (row !== undefined) emit('choose', row);
}
</script>

<template>
  <div ref="scroller" class="scroll">
    <table
      role="grid"
      tabindex="0"
      :aria-label="caption"
      :aria-rowcount="(total ?? rows.length) + 1"
      :aria-activedescendant="shown.some(({ id }) => id === active) ? `${own}-${active}` : undefined"
      :aria-multiselectable="markable || undefined"
      data-list
      @keydown.down.self.prevent="move(1)"
      @keydown.up.self.prevent="move(-1)"
      @keydown.page-down.self.prevent="move(20)"
      @keydown.page-up.self.prevent="move(-20)"
      @keydown.home.self.prevent="moveTo(0)"
      @keydown.end.self.prevent="moveTo(sorted.length - 1)"
      @keydown.enter.self.prevent="enter"
      @keydown.space.self.prevent="markable && activeIndex >= 0 && mark(activeIndex, $event.shiftKey)"
    >
      <thead>
        <tr aria-rowindex="1">
          <th v-if="!bare" class="margin" scope="col">
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
            :style="{ width: widthOf(column as never) }"
            :class="{ right: column.right }"
            :aria-sort="sortedAs(column)"
            scope="col"
          >
            <button v-if="column.sort" type="button" class="head" @click="sortBy(column)">
              <template v-if="column.title !== ''">{{ column.title }}</template><span
                v-else
                class="visually-hidden"
                >{{ column.key }}</span
              ><span v-if="sortedAs(column)" class="way" :class="sortedAs(column)" />
            </button>
            <template v-else-if="column.title !== ''">{{ column.title }}</template>
            <span v-else class="visually-hidden">{{ column.key }}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-if="above > 0" aria-hidden="true" :style="{ height: `${above}px` }"></tr>
        <tr
          v-for="(row, index) in shown"
          :id="idOf(row)"
          :key="row.id"
          :class="{ chosen: row.id === chosen, marked: marked.has(row.id), active: row.id === active }"
          :aria-selected="row.id === chosen || marked.has(row.id)"
          :aria-rowindex="first + index + 2"
          @click="choose(row)"
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
        <tr v-if="below > 0" aria-hidden="true" :style="{ height: `${below}px` }"></tr>
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
}
table:focus-visible {
  outline: none;
}
/* The list has the keys: its head says so, and the row the arrows are on. */
table:focus-visible thead th {
  border-bottom: 2px solid var(--brass);
}
/* Narrower than a name has room for, the list is pushed sideways; its head and margin stay what they are. */
@media (max-width: 760px) {
  table {
    min-width: 720px;
  }
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
  overflow: hidden;
  text-overflow: ellipsis;
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
th:last-child,
td:last-child {
  padding-right: 20px;
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
table:focus-visible tbody tr.active td {
  box-shadow:
    inset 0 1px var(--brass),
    inset 0 -1px var(--brass);
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
