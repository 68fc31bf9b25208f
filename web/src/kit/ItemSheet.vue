<script
  setup
  lang="ts"
  generic="
    Draft extends { name: string },
    View extends Draft & { id: string; version: number; retired: boolean }
  "
>
import { computed, nextTick, ref } from 'vue';
import { useSession } from '../shell/session.ts';
import ConflictNote from './ConflictNote.vue';
import FormEnd from './FormEnd.vue';
import HistoryList from './HistoryList.vue';
import type { ItemArea } from './item-area.ts';
import { useItemForm } from './item-form.ts';
import Sheet from './Sheet.vue';
import TextLine from './TextLine.vue';
import UsedByList from './UsedByList.vue';

/**
 * The sheet of one item: its form, what uses it, its history. The area brings the fields; saving, two who edit at once,
 * deactivating and taking back are the same for all.
 */
const props = withDefaults(
  defineProps<{
    area: ItemArea<Draft, View>;
    item: View | null;
    /** How many use it beside those the item's references name. */
    moreUsers?: number;
  }>(),
  { moreUsers: 0 },
);
const emit = defineEmits<{ close: []; made: [item: View] }>();
defineSlots<
  {
    /** Before the form: what is doubtful about it. */
    above?(given: { item: View | null }): unknown;
    /** Its fields beside the name. */
    default?(given: {
      draft: Draft;
      faults: Record<string, string>;
      readonly: boolean;
      item: View | null;
    }): unknown;
    /** Sections of more fields. */
    sections?(given: { draft: Draft; item: View | null }): unknown;
    state?(): unknown;
    /** Under the form: what can be done to it, and what belongs to it. */
    beside?(given: { item: View; changed: boolean; draft: Draft }): unknown;
    /** While one is made, too. */
    trial?(given: { draft: Draft; item: View | null }): unknown;
    /** What uses it beside its references. */
    users?(): unknown;
  } & Record<`tab-${string}`, (given: { item: View; open: (field: string) => void }) => unknown>
>();
const session = useSession();
const tab = ref(0);
const { draft, faults, general, saving, changed, conflict, users, readonly, ...form } = useItemForm<
  Draft,
  View
>(
  () => props.area,
  () => props.item,
  (item) => emit('made', item),
);
const tabs = computed(() => [
  { key: 'settings', title: props.area.first ?? 'Settings' },
  ...(props.area.tabs ?? []),
  ...(props.area.unused === undefined
    ? []
    : [{ key: 'users', title: `Used by ${users.value.length + props.moreUsers}` }]),
  { key: 'history', title: 'History' },
]);
const shown = computed(() => (props.item === null ? 'settings' : tabs.value[tab.value]!.key));
const second = computed(() =>
  typeof props.area.second === 'string' ? props.area.second : props.area.second(props.item),
);

/** From another tab to a field of the form. */
async function open(field: string): Promise<void> {
  tab.value = 0;
  await nextTick();
  document.getElementById(`${props.area.api.kinds[0]!}-${field}`)?.focus();
}

const leave = () => (props.item === null ? emit('close') : form.leave());
</script>

<template>
  <Sheet
    :fresh="item === null"
    v-model:tab="tab"
    :title="item?.name ?? `New ${area.one}`"
    :second="second"
    :tabs="item === null ? [] : tabs.map(({ title }) => title)"
    @close="emit('close')"
  >
    <template #state><slot name="state" /></template>
    <template v-if="shown === 'settings' && draft">
      <slot name="above" :item="item" />
      <ConflictNote
        v-if="conflict"
        :conflict="conflict"
        :mine="draft"
        :words="area.words as Record<string, string>"
        :show="area.show"
        @mine="form.keepMine"
        @theirs="form.takeTheirs"
      />
      <form @submit.prevent="form.save">
        <section>
          <TextLine v-model="draft.name" field="name" label="Name" :autofocus="item === null" />
          <slot :draft="draft as Draft" :faults="faults" :readonly="readonly" :item="item" />
        </section>
        <slot name="sections" :draft="draft as Draft" :item="item" />
        <section v-if="general || (session.mayEdit && (changed || item === null))" class="end">
          <FormEnd
            :general="general"
            :saving="saving"
            :changed="changed"
            :make="item === null ? `Make this ${area.one}` : null"
            @leave="leave"
          />
        </section>
      </form>
      <slot name="trial" :draft="draft as Draft" :item="item" />
      <slot v-if="item" name="beside" :item="item" :changed="changed" :draft="draft as Draft" />
      <section v-if="item && session.mayEdit">
        <v-btn v-if="!item.retired" @click="form.retire(item)">Deactivate</v-btn>
        <v-btn v-else @click="form.reactivate(item)">Reactivate</v-btn>
      </section>
    </template>
    <template v-else-if="shown === 'users'">
      <UsedByList :users="users" :none="moreUsers > 0 ? '' : (area.unused ?? '')" />
      <slot name="users" />
    </template>
    <HistoryList
      v-else-if="shown === 'history' && item"
      :key="item.version"
      :item-id="item.id"
      :words="area.words as Record<string, string>"
      :show="area.show"
      @taken-back="form.readAgain(item.id)"
    />
    <slot v-else-if="item" :name="`tab-${shown}`" :item="item" :open="open" />
  </Sheet>
</template>

<style scoped>
.end :deep(.buttons) {
  margin-top: 0;
}
</style>
