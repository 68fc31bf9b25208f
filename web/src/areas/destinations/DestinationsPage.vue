<script setup lang="ts">
import { computed, ref } from 'vue';
import EmptyLine from '../../kit/EmptyLine.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import { useListLook } from '../../kit/list-view.ts';
import PageHead from '../../kit/PageHead.vue';
import SaveList from '../../kit/SaveList.vue';
import ViewMenu from '../../kit/ViewMenu.vue';
import { useAddress } from '../../shell/address.ts';
import { useItemList } from '../../shell/item-list.ts';
import { useSession } from '../../shell/session.ts';
import { type Place, useSetUp } from '../../shell/set-up.ts';
import FaxBoxSheet from './FaxBoxSheet.vue';
import OutsideSheet from './OutsideSheet.vue';
import RoomSheet from './RoomSheet.vue';
import { aboutPlace, placeWords } from './words.ts';

/** Outside numbers, conference rooms and fax boxes: what calls can be sent to beside people, queues and mailboxes. */
const props = defineProps<{ id?: string }>();
const setUp = useSetUp();
const session = useSession();
const { making, choose, add, close } = useItemList('/destinations');
const address = useAddress();
const withRetired = address.flag('deactivated');
const sort = address.part('sort');
const only = address.choice('kind');
const sheets = { outside: OutsideSheet, room: RoomSheet, fax: FaxBoxSheet };
const kind = ref<Place['kind']>('outside');

const rows = computed(() =>
  setUp.places.filter(
    (place) => (!place.retired || withRetired.value) && (only.value === null || place.kind === only.value),
  ),
);
const chosen = computed(() => setUp.places.find((place) => place.id === props.id));
const kinds = Object.entries(placeWords).map(([value, title]) => ({ value: value as Place['kind'], title }));
const sentence = computed(() => {
  const count = (of: Place['kind']) =>
    setUp.places.filter((place) => place.kind === of && !place.retired).length;
  const words = (n: number, one: string, many: string) => (n === 1 ? `1 ${one}` : `${n} ${many}`);
  return [
    words(count('outside'), 'outside number', 'outside numbers'),
    words(count('room'), 'conference room', 'conference rooms'),
    words(count('fax'), 'fax box', 'fax boxes'),
  ].join(', ');
});
const columns = [
  { key: 'extension', title: 'Ext', width: '72px', mono: true, sort: (row: Place) => row.extension ?? '' },
  { key: 'name', title: 'Name', sort: (row: Place) => row.name },
  { key: 'kind', title: 'Kind', width: '150px', sort: (row: Place) => placeWords[row.kind] },
  { key: 'about', title: '' },
];
const look = useListLook('destinations', () => columns);

function begin(of: Place['kind']): void {
  kind.value = of;
  add();
}
</script>

<template>
  <PageHead title="Destinations" :sentence="sentence"
    ><ViewMenu :look="look" />
    <SaveList v-if="rows.length > 0" list="destinations" :shown="rows.map(({ id }) => id)" />
    <v-select
      v-model="only"
      aria-label="Kind"
      :items="[{ value: null, title: 'of every kind' }, ...kinds]"
      class="kinds"
    />
    <v-checkbox v-model="withRetired" label="with deactivated" />
    <router-link to="/voicemail" class="boxes">Voicemail boxes</router-link>
    <v-menu v-if="session.mayEdit">
      <template #activator="{ props: menu }">
        <v-btn v-bind="menu" variant="flat" color="primary">New destination</v-btn>
      </template>
      <v-list>
        <v-list-item v-for="each in kinds" :key="each.value" :title="each.title" @click="begin(each.value)" />
      </v-list>
    </v-menu>
  </PageHead>
  <div class="split">
    <LedgerTable
      v-model:sort="sort"
      caption="Destinations"
      :columns="look.shown.value"
      :rows="rows"
      :chosen="props.id"
      @choose="choose"
    >
      <template #name="{ row }"
        >{{ row.name }} <span v-if="row.retired" class="second">deactivated</span></template
      >
      <template #kind="{ row }">{{ placeWords[row.kind] }}</template>
      <template #about="{ row }"
        ><span class="second">{{ aboutPlace(row, setUp.nameOf) }}</span></template
      >
      <template #empty>
        <EmptyLine
          text="None yet. Beside people, queues and mailboxes, calls can be sent to a number outside, into a conference room or a fax box."
        >
          <v-btn v-if="session.mayEdit" @click="begin('outside')">New outside number</v-btn>
        </EmptyLine>
      </template>
    </LedgerTable>
    <component :is="sheets[kind]" v-if="making" :key="kind" :item="null" @close="close" @made="choose" />
    <component
      :is="sheets[chosen.kind]"
      v-else-if="chosen"
      :key="chosen.id"
      :item="chosen as never"
      @close="close"
      @made="choose"
    />
  </div>
</template>

<style scoped>
.boxes {
  white-space: nowrap;
}
.kinds {
  flex: 0 0 150px;
}
</style>
