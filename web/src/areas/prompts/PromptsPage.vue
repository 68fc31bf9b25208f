<script setup lang="ts">
import { locale } from '../../kit/locale.ts';
import { computed } from 'vue';
import type { PromptView } from '@night-bell/core/contracts/prompts';
import ItemPage from '../../kit/ItemPage.vue';
import StatePennant from '../../kit/StatePennant.vue';
import { useCollection } from '../../shell/collection.ts';
import PromptSheet from './PromptSheet.vue';
import SpeakMany from './SpeakMany.vue';
import { promptApi, promptArea, promptKindWords, promptState, translationsOf } from './words.ts';

/** What callers hear, by name: plans name a prompt, not its words. */
const props = defineProps<{ id?: string }>();

const { items } = useCollection(promptApi);

/** Beside a sheet there is room for what tells prompts apart. */
const columns = computed(() => {
  const hidden = props.id !== undefined && props.id !== '';
  return [
    { key: 'name', title: 'Name', width: '190px', sort: (row: PromptView) => row.name },
    {
      key: 'kind',
      title: 'Kind',
      width: '136px',
      hidden,
      sort: (row: PromptView) => promptKindWords[row.kind],
    },
    { key: 'language', title: '', width: '76px', mono: true, hidden },
    { key: 'words', title: 'Words' },
    {
      key: 'seconds',
      title: 'Length',
      width: '64px',
      right: true,
      mono: true,
      sort: (row: PromptView) => row.seconds,
    },
    {
      key: 'uses',
      title: 'Uses',
      width: '56px',
      right: true,
      mono: true,
      hidden,
      sort: (row: PromptView) => row.uses,
    },
    { key: 'state', title: '', width: '104px' },
  ];
});

function sentence(inUse: PromptView[]): string {
  const waiting = inUse.filter((each) => promptState(each) !== 'published').length;
  const count = inUse.length === 1 ? '1 prompt' : `${inUse.length.toLocaleString(locale.value)} prompts`;
  return waiting === 0 ? `${count}, heard as they are written` : `${count}, ${waiting} not heard as written`;
}
/** Its own first: 'en fr'. */
const languagesOf = ({ id, language }: PromptView) =>
  [language, ...translationsOf(items.value ?? [], id).map((each) => each.language)].join(' ');
const length = (seconds: number) => `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
</script>

<template>
  <ItemPage
    :id="id"
    :area="promptArea"
    :columns="columns"
    :sentence="sentence"
    empty="No prompts yet. Write what callers hear once, and play it from any plan."
  >
    <template #under><SpeakMany /></template>
    <template #cell-kind="{ row }">{{ promptKindWords[row.kind] }}</template>
    <template #cell-language="{ row }">{{ languagesOf(row) }}</template>
    <template #cell-words="{ row }"
      ><span class="second">{{ row.words }}</span></template
    >
    <template #cell-seconds="{ row }">{{ row.publishedWords === null ? '' : length(row.seconds) }}</template>
    <template #cell-uses="{ row }">{{ row.uses || '' }}</template>
    <template #cell-state="{ row }"><StatePennant :state="promptState(row)" /></template>
    <template #sheet="{ item, close, choose }">
      <PromptSheet :key="item?.id ?? 'new'" :item="item" @close="close()" @made="choose" />
    </template>
  </ItemPage>
</template>
