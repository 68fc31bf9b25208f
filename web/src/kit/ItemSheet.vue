<script
  setup
  lang="ts"
  generic="
    Draft extends { name: string },
    View extends Draft & { id: string; version: number; retired: boolean }
  "
>
import { computed, ref, watch } from 'vue';
import type { UsedBy } from '../api/client.ts';
import { useCollection } from '../shell/collection.ts';
import { useKeys } from '../shell/keys.ts';
import { useNotices } from '../shell/notices.ts';
import { useSession } from '../shell/session.ts';
import ConflictNote from './ConflictNote.vue';
import { useEditing } from './editing.ts';
import FormEnd from './FormEnd.vue';
import HistoryList from './HistoryList.vue';
import type { ItemArea } from './item-area.ts';
import LedgerField from './LedgerField.vue';
import Sheet from './Sheet.vue';
import UsedByList from './UsedByList.vue';

/**
 * The sheet of one item: its form, what uses it, its history. The area brings the fields; saving, two who edit at once,
 * deactivating and taking back are the same for all.
 */
const props = defineProps<{ area: ItemArea<Draft, View>; item: View | null }>();
const emit = defineEmits<{ close: []; made: [item: View] }>();
defineSlots<{
  default(given: {
    draft: Draft;
    faults: Record<string, string>;
    readonly: boolean;
    item: View | null;
  }): unknown;
  state?(): unknown;
  beside?(given: { item: View; changed: boolean }): unknown;
}>();
const { put, readAgain } = useCollection(props.area.api);
const session = useSession();
const notices = useNotices();
const tab = ref(0);
const users = ref<UsedBy[]>([]);

const editing = useEditing<Draft>(async (value, version) => {
  if (props.item === null) {
    const made = await props.area.api.create(value);
    put(made);
    notices.say(`${made.name} is made.`);
    emit('made', made);
    return;
  }
  put(await props.area.api.change(props.item.id, version, value));
  await notices.saved(`${value.name} is saved.`, props.item.id);
});
const { draft, faults, general, saving, changed, conflict, begin, save, keepMine, takeTheirs } = editing;

watch(
  () => props.item,
  (item) => {
    if (changed.value && item !== null && draft.value !== null) return;
    begin(item === null ? props.area.fresh() : props.area.draftOf(item), item?.version ?? 0);
  },
  { immediate: true },
);
watch(
  () => props.item?.version,
  async () => {
    if (props.item === null) return;
    users.value = await props.area.api.read(props.item.id).then(
      ({ usedBy }) => usedBy,
      () => [],
    );
  },
  { immediate: true },
);

const readonly = computed(() => !session.mayEdit || props.item?.retired === true);
const tabs = computed(() =>
  props.item === null ? [] : ['Settings', `Used by ${users.value.length}`, 'History'],
);

async function act(work: Promise<View>, said: string): Promise<void> {
  try {
    put(await work);
    notices.say(said);
  } catch (error) {
    notices.fail(error);
  }
}
const retire = ({ id, version, name }: View) =>
  act(props.area.api.retire(id, version), `${name} is deactivated.`);
const reactivate = ({ id, version, name }: View) =>
  act(props.area.api.reactivate(id, version), `${name} is back.`);
useKeys({ 'mod+s': () => !readonly.value && (changed.value || props.item === null) && void save() });
const leave = () =>
  props.item === null ? emit('close') : begin(props.area.draftOf(props.item), props.item.version);
</script>

<template>
  <Sheet
    :fresh="item === null"
    v-model:tab="tab"
    :title="item?.name ?? `New ${area.one}`"
    :second="area.second"
    :tabs="tabs"
    @close="emit('close')"
  >
    <template #state><slot name="state" /></template>
    <template v-if="tab === 0 && draft">
      <ConflictNote
        v-if="conflict"
        :conflict="conflict"
        :mine="draft"
        :words="area.words"
        :show="area.show"
        @mine="keepMine"
        @theirs="takeTheirs"
      />
      <form @submit.prevent="save">
        <section>
          <LedgerField label="Name" :for="`${area.api.kinds[0]!}-name`" :fault="faults['/name']">
            <v-text-field
              :id="`${area.api.kinds[0]!}-name`"
              v-model="draft.name"
              :readonly="readonly"
              :autofocus="item === null"
              autocomplete="off"
            />
          </LedgerField>
          <slot :draft="draft as Draft" :faults="faults" :readonly="readonly" :item="item" />
          <FormEnd
            :general="general"
            :saving="saving"
            :changed="changed"
            :make="item === null ? `Make ${area.one}` : null"
            @leave="leave"
          />
        </section>
      </form>
      <slot v-if="item" name="beside" :item="item" :changed="changed" />
      <section v-if="item && session.mayEdit">
        <v-btn v-if="!item.retired" @click="retire(item)">Deactivate</v-btn>
        <v-btn v-else @click="reactivate(item)">Reactivate</v-btn>
      </section>
    </template>
    <UsedByList v-else-if="tab === 1" :users="users" :none="area.unused" />
    <HistoryList
      v-else-if="tab === 2 && item"
      :key="item.version"
      :item-id="item.id"
      :words="area.words"
      :show="area.show"
      @taken-back="readAgain(item.id)"
    />
  </Sheet>
</template>
