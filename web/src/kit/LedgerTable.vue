<script setup lang="ts" generic="Row extends { id: string }">
import { computed, nextTick, ref } from 'vue';

export interface Column {
  key: string;
  title: string;
  width?: string;
  right?: boolean;
  mono?: boolean;
}

/** A list as a ledger: row numbers in the margin behind a double rule, one row chosen, arrows move. */
const props = defineProps<{
  columns: Column[];
  rows: Row[];
  chosen?: string | null | undefined;
  /** What this list is called, for those who hear it. */
  caption: string;
  /** Leaves the margin with the row numbers out. */
  bare?: boolean;
}>();
const emit = defineEmits<{ choose: [row: Row]; end: [] }>();

/** What a column without a slot of its own shows. */
const plain = (row: Row, key: string) => (row as Record<string, unknown>)[key];

const body = ref<HTMLElement | null>(null);
const rowHeight = 28;
const top = ref(0);
const height = ref(600);
const spare = 12;

const first = computed(() => Math.max(0, Math.floor(top.value / rowHeight) - spare));
const last = computed(() =>
  Math.min(props.rows.length, Math.ceil((top.value + height.value) / rowHeight) + spare),
);
const shown = computed(() => props.rows.slice(first.value, last.value));
const chosenIndex = computed(() => props.rows.findIndex((row) => row.id === props.chosen));

function scrolled(): void {
  const element = body.value!;
  top.value = element.scrollTop;
  height.value = element.clientHeight;
  if (element.scrollTop + element.clientHeight > element.scrollHeight - 400) emit('end');
}

async function move(by: number): Promise<void> {
  if (props.rows.length === 0) return;
  const from = chosenIndex.value < 0 ? (by > 0 ? -1 : props.rows.length) : chosenIndex.value;
  const index = Math.min(props.rows.length - 1, Math.max(0, from + by));
  emit('choose', props.rows[index]!);
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
  >
    <table>
      <thead>
        <tr>
          <th v-if="!bare" class="margin"><span class="visually-hidden">Row</span></th>
          <th
            v-for="column in columns"
            :key="column.key"
            :style="{ width: column.width }"
            :class="{ right: column.right }"
            scope="col"
          >
            {{ column.title }}
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-if="first > 0" aria-hidden="true" :style="{ height: `${first * rowHeight}px` }"></tr>
        <tr
          v-for="(row, index) in shown"
          :key="row.id"
          :class="{ chosen: row.id === chosen }"
          :aria-selected="row.id === chosen"
          @click="emit('choose', row)"
        >
          <td v-if="!bare" class="margin mono">{{ first + index + 1 }}</td>
          <td v-for="column in columns" :key="column.key" :class="{ right: column.right, mono: column.mono }">
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
.visually-hidden {
  position: absolute;
  clip-path: inset(50%);
}
</style>
