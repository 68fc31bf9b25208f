<script
  setup
  lang="ts"
  generic="
    Draft extends { name: string },
    View extends Draft & { id: string; version: number; retired: boolean }
  "
>
import { computed, ref } from 'vue';
import type { ViewedList } from '@night-bell/core/contracts/list-views';
import { useAddress } from '../shell/address.ts';
import { useCollection } from '../shell/collection.ts';
import { useItemList } from '../shell/item-list.ts';
import { useSession } from '../shell/session.ts';
import EmptyLine from './EmptyLine.vue';
import ItemBulkBar from './ItemBulkBar.vue';
import type { ItemArea } from './item-area.ts';
import KeyCap from './KeyCap.vue';
import type { Column } from './ledger.ts';
import LedgerTable from './LedgerTable.vue';
import { useListLook } from './list-view.ts';
import PageHead from './PageHead.vue';
import SaveList from './SaveList.vue';
import ViewMenu from './ViewMenu.vue';

/** A list of plain items with the sheet of one beside it. Columns, cells and the sheet's fields come from the area. */
const props = defineProps<{
  area: ItemArea<Draft, View>;
  columns: Column<View>[];
  /** What the list says of itself, of the items in use. */
  sentence: (inUse: View[]) => string;
  /** For who has none yet. */
  empty: string;
  id?: string | undefined;
  /** A row opens a page of its own instead of the sheet beside. */
  opens?: (item: View) => void;
}>();
defineSlots<
  {
    sheet(given: { item: View | null; close: () => void; choose: (item: View) => void }): unknown;
    /** Under the head: what is to be said of the whole list, or done to it. */
    under?(): unknown;
    /** In the head, before what every list has. */
    actions?(given: { sort: string }): unknown;
    /** Over the list, while no sheet is open. */
    above?(given: { choose: (item: { id: string }) => void }): unknown;
  } & Record<`cell-${string}`, (given: { row: View }) => unknown>
>();
const { items, byId, failed, load } = useCollection(props.area.api);
const session = useSession();
const { making, choose, add, close } = useItemList(props.area.page);
const address = useAddress();
const withRetired = address.flag('deactivated');
const sort = address.part('sort');
const find = address.part('find');

const rows = computed(() => {
  const text = find.value.trim().toLowerCase();
  return (items.value ?? []).filter(
    (item) =>
      (!item.retired || withRetired.value) &&
      `${item.name} ${props.area.finds?.(item) ?? ''}`.toLowerCase().includes(text),
  );
});
/** Nothing is done to rows that one no longer sees. */
const marked = ref<ReadonlySet<string>>(new Set());
const markedItems = computed(() => rows.value.filter(({ id }) => marked.value.has(id)));
/** What is found is what is saved. */
const shownIds = computed(() =>
  find.value === '' && !withRetired.value ? undefined : rows.value.map(({ id }) => id),
);
const said = computed(() =>
  items.value === null ? 'Reading the list.' : props.sentence(items.value.filter((item) => !item.retired)),
);
/** What a column without a cell of its own shows. */
const plain = (row: unknown, key: string) => (row as Record<string, unknown>)[key];
const chosen = computed(() => byId.value.get(props.id ?? '') ?? null);
const isOpen = computed(() => making.value || chosen.value !== null);
const look = useListLook(props.area.page.slice(1) as ViewedList, () => props.columns);
/** Beside a sheet there is room for what counts. */
const shownColumns = computed(() =>
  look.shown.value.map((column) =>
    column.roomy === true && isOpen.value ? { ...column, hidden: true } : column,
  ),
);
</script>

<template>
  <PageHead :title="area.title" :sentence="said">
    <v-text-field v-model="find" :aria-label="`Find a ${area.one}`" placeholder="Find" class="find" />
    <slot name="actions" :sort="sort" />
    <v-checkbox v-model="withRetired" label="with deactivated" />
    <ViewMenu :look="look" />
    <SaveList
      v-if="rows.length > 0"
      :list="area.savedAs"
      :shown="shownIds"
      :marked="markedItems.map(({ id }) => id)"
    />
    <v-btn v-if="session.mayEdit" variant="flat" color="primary" @click="add"
      >New {{ area.one }}<KeyCap>N</KeyCap></v-btn
    >
  </PageHead>
  <slot name="under" />
  <div class="split">
    <div class="list">
      <ItemBulkBar
        v-if="markedItems.length > 0"
        :area="area"
        :items="markedItems"
        @clear="marked = new Set()"
      />
      <slot v-if="!isOpen" name="above" :choose="choose" />
      <LedgerTable
        v-model:sort="sort"
        v-model:marked="marked"
        :markable="session.mayEdit"
        :caption="area.title"
        :columns="shownColumns"
        :rows="rows"
        :chosen="id"
        @choose="opens === undefined ? choose($event) : opens($event as View)"
      >
        <template #name="{ row }"
          >{{ row.name }} <span v-if="row.retired" class="second">deactivated</span></template
        >
        <template
          v-for="column in columns.filter(({ key }) => key !== 'name')"
          #[column.key]="{ row }"
          :key="column.key"
        >
          <slot :name="`cell-${column.key}`" :row="row as View">{{ plain(row, column.key) }}</slot>
        </template>
        <template #empty>
          <EmptyLine v-if="failed" text="The list could not be read.">
            <v-btn @click="load()">Read it again</v-btn>
          </EmptyLine>
          <EmptyLine v-else-if="find !== ''" :text="`Nothing here is called ${find}.`">
            <v-btn @click="find = ''">Show all</v-btn>
          </EmptyLine>
          <EmptyLine v-else-if="items !== null" :text="empty">
            <v-btn v-if="session.mayEdit" @click="add">New {{ area.one }}</v-btn>
          </EmptyLine>
        </template>
      </LedgerTable>
    </div>
    <slot v-if="making" name="sheet" :item="null" :close="close" :choose="choose" />
    <slot v-else-if="chosen" name="sheet" :item="chosen" :close="close" :choose="choose" />
  </div>
</template>

<style scoped>
.find {
  flex: 0 0 140px;
}
</style>
