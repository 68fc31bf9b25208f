<script setup lang="ts">
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import type { PlanView } from '@night-bell/core/contracts/plans';
import { formatNumber } from '@night-bell/core/numbers/format';
import { emptyDocument } from '@night-bell/core/plan/document';
import { planTemplates } from '@night-bell/core/plan/templates';
import LedgerField from '../../kit/LedgerField.vue';
import ItemPage from '../../kit/ItemPage.vue';
import ItemSheet from '../../kit/ItemSheet.vue';
import StatePennant from '../../kit/StatePennant.vue';
import { useCollection } from '../../shell/collection.ts';
import PlanEditor from './PlanEditor.vue';
import { planApi, planArea, planState } from './words.ts';

/** Answering plans: the list of them, or the steps of one. */
const props = defineProps<{ id?: string }>();
const router = useRouter();
const { byId, items } = useCollection(planApi);
const plan = computed(() => byId.value.get(props.id ?? '') ?? null);

const steps = (row: PlanView) => Object.keys(row.document.steps).length;
const columns = [
  { key: 'name', title: 'Plan', sort: (row: PlanView) => row.name },
  { key: 'state', title: '', width: '110px', sort: planState },
  { key: 'steps', title: 'Steps', width: '64px', right: true, mono: true, sort: steps },
  { key: 'numbers', title: 'Numbers' },
  { key: 'version', title: 'Version', width: '72px', right: true, mono: true },
];
function sentence(inUse: PlanView[]): string {
  const waiting = inUse.filter((each) => planState(each) !== 'published').length;
  const count = inUse.length === 1 ? '1 plan' : `${inUse.length} plans`;
  return waiting === 0
    ? `${count}, all as published`
    : `${count}, ${waiting} with a draft callers do not meet`;
}
const begin = ref('');
const beginnings = [
  { value: '', title: 'No steps yet' },
  ...planTemplates.map(({ key, name }) => ({ value: key, title: name })),
];
const template = (key: string) => planTemplates.find((each) => each.key === key);
const about = (key: string) => template(key)?.about ?? 'Steps are added one by one';
const documentOf = (key: string) => template(key)?.document ?? emptyDocument;
const open = (row: { id: string }) => void router.push(`/answering/${row.id}`);
</script>

<template>
  <PlanEditor v-if="plan" :key="plan.id" :plan="plan" />
  <ItemPage
    v-else
    :area="planArea"
    :columns="columns"
    :sentence="sentence"
    :empty="
      id && items !== null
        ? 'That plan does not exist. It may have been made elsewhere.'
        : 'No plan yet. A number leads straight to one place; a plan greets callers, asks the hours, offers keys.'
    "
    :opens="open"
  >
    <template #actions>
      <router-link to="/regions" class="tables">Region tables</router-link>
      <router-link to="/bots" class="tables">Bots</router-link>
    </template>
    <template #cell-state="{ row }"><StatePennant :state="planState(row)" /></template>
    <template #cell-steps="{ row }">{{ steps(row) }}</template>
    <template #cell-numbers="{ row }"
      ><span class="second">{{
        row.numbers.map(({ e164 }) => formatNumber(e164)).join(', ')
      }}</span></template
    >
    <template #cell-version="{ row }">{{ row.published?.version ?? '' }}</template>
    <template #sheet="{ item, close }">
      <ItemSheet :key="item?.id ?? 'new'" :area="planArea" :item="item" @close="close()" @made="open">
        <template #default="{ draft }">
          <LedgerField label="Begin with" :hint="about(begin)">
            <v-select
              v-model="begin"
              :items="beginnings"
              aria-label="Begin with"
              @update:model-value="draft.document = documentOf(begin)"
            />
          </LedgerField>
        </template>
      </ItemSheet>
    </template>
  </ItemPage>
</template>

<style scoped>
.tables {
  white-space: nowrap;
}
</style>
