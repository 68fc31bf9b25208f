<script setup lang="ts">
import type { RegionView } from '@night-bell/core/contracts/regions';
import ItemPage from '../../kit/ItemPage.vue';
import ItemSheet from '../../kit/ItemSheet.vue';
import RegionCoverage from './RegionCoverage.vue';
import RegionRows from './RegionRows.vue';
import { figure, regionArea } from './words.ts';

/** Tables of regions, shared by plans. */
defineProps<{ id?: string }>();
const columns = [
  { key: 'name', title: 'Table', sort: (row: RegionView) => row.name },
  {
    key: 'rows',
    title: 'Rows',
    width: '96px',
    right: true,
    mono: true,
    sort: (row: RegionView) => row.rows,
  },
  {
    key: 'uses',
    title: 'Plans',
    width: '80px',
    right: true,
    mono: true,
    sort: (row: RegionView) => row.uses,
  },
];
const sentence = (inUse: RegionView[]) => {
  const idle = inUse.filter(({ uses }) => uses === 0).length;
  const count = inUse.length === 1 ? '1 table' : `${figure(inUse.length)} tables`;
  return idle === 0 ? `${count}, asked by plans` : `${count}, ${figure(idle)} that no plan asks`;
};
</script>

<template>
  <ItemPage
    :id="id"
    :area="regionArea"
    :columns="columns"
    :sentence="sentence"
    empty="No table yet. One sends callers to the terminal, team or number nearest to them, by how their number begins."
  >
    <template #cell-rows="{ row }">{{ figure(row.rows) }}</template>
    <template #cell-uses="{ row }">{{ row.uses || '' }}</template>
    <template #sheet="{ item, close, choose }">
      <ItemSheet :key="item?.id ?? 'new'" :area="regionArea" :item="item" @close="close()" @made="choose">
        <template #beside="{ item: shown }">
          <RegionRows :key="shown.id" :table="shown" />
          <RegionCoverage :key="`${shown.id} coverage`" :table="shown" />
        </template>
      </ItemSheet>
    </template>
  </ItemPage>
</template>
