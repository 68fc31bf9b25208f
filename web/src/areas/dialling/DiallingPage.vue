<script setup lang="ts">
import { locale } from '../../kit/locale.ts';
import { ref, watch } from 'vue';
import type { RuleView } from '@night-bell/core/contracts/dialling-rules';
import { formatNumber } from '@night-bell/core/numbers/format';
import { api, ask, type RuleWarnings } from '../../api/client.ts';
import { rulesApi } from '../../api/lists.ts';
import ItemPage from '../../kit/ItemPage.vue';
import type { Column } from '../../kit/ledger.ts';
import RuleSheet from './RuleSheet.vue';
import Shape from '../../kit/Shape.vue';
import { useCollection } from '../../shell/collection.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import RuleTester from './RuleTester.vue';
import { changeWords, ruleArea, useWords, warningWords } from './words.ts';

const props = defineProps<{ id?: string }>();
const setUp = useSetUp();
const session = useSession();
const notices = useNotices();
const rules = useCollection(rulesApi);
const doubts = ref<RuleWarnings>({ warnings: [], countries: [] });

watch(
  rules.items,
  async (items) => {
    if (items === null) return;
    doubts.value = await ask(api.GET('/api/dialling-rule-warnings')).catch(() => doubts.value);
  },
  { immediate: true },
);
const of = (id: string | undefined) => doubts.value.warnings.filter((warning) => warning.ruleId === id);

function sentence(inUse: RuleView[]): string {
  if (inUse.length === 0) return 'No rule: what is dialled goes out as it stands';
  const doubtful = new Set(doubts.value.warnings.map((warning) => warning.ruleId)).size;
  const count = inUse.length === 1 ? '1 rule' : `${inUse.length.toLocaleString(locale.value)} rules`;
  return `${count}, the most specific wins${doubtful > 0 ? `; ${doubtful} doubtful` : ''}`;
}

const columns: Column<RuleView>[] = [
  { key: 'pattern', title: 'Pattern', mono: true, sort: (row) => row.pattern },
  { key: 'name', title: 'Name', sort: (row) => row.name },
  { key: 'sent', title: 'Sent', roomy: true },
  { key: 'trunks', title: 'Over' },
  { key: 'use', title: 'For', width: '104px', roomy: true, sort: (row) => row.use },
  { key: 'doubt', title: '' },
];

async function move(by: -1 | 1): Promise<void> {
  const ids = (rules.items.value ?? []).map((rule) => rule.id);
  const from = ids.indexOf(props.id ?? '');
  const to = from + by;
  if (from < 0 || to < 0 || to >= ids.length) return;
  ids.splice(to, 0, ...ids.splice(from, 1));
  await ask(api.PUT('/api/dialling-rule-order', { body: { ids } })).catch(notices.fail);
  await rules.load();
}
</script>

<template>
  <ItemPage
    :id="id"
    :area="ruleArea(setUp.nameOf)"
    :columns="columns"
    :sentence="sentence"
    empty="No rule yet. What is dialled goes out as it stands, over any trunk. A rule turns it into what the provider takes."
  >
    <template #actions="{ sort }">
      <router-link to="/codes" class="codes">Service codes</router-link>
      <template v-if="session.mayEdit && id && sort === ''">
        <v-btn aria-label="Move this rule up" @click="move(-1)">Up</v-btn>
        <v-btn aria-label="Move this rule down" @click="move(1)">Down</v-btn>
      </template>
    </template>
    <template #above="{ choose }">
      <div v-if="session.mayOperate" class="try">
        <RuleTester @rule="choose({ id: $event })" />
        <p v-for="each in doubts.countries" :key="each.country" class="fault-text small">
          <Shape name="fault" /> No rule fits {{ each.contacts.toLocaleString(locale) }} contacts in
          {{ each.country }}, {{ formatNumber(each.example) }} for one: a campaign dials them as they stand.
        </p>
      </div>
    </template>
    <template #cell-sent="{ row }"
      ><span class="second">{{ changeWords(row) }}</span></template
    >
    <template #cell-trunks="{ row }">{{
      row.trunkIds.map(setUp.nameOf).join(', else ') || 'any trunk'
    }}</template>
    <template #cell-use="{ row }">{{
      row.teamIds.length > 0 ? row.teamIds.map(setUp.nameOf).join(', ') : useWords[row.use]
    }}</template>
    <template #cell-doubt="{ row }">
      <span v-if="of(row.id)[0]" class="fault-text" :title="warningWords(of(row.id)[0]!, setUp.nameOf)"
        ><Shape name="fault" /> {{ warningWords(of(row.id)[0]!, setUp.nameOf) }}</span
      >
    </template>
    <template #sheet="{ item, close, choose }">
      <RuleSheet
        :key="item?.id ?? 'new'"
        :item="item"
        :warnings="of(item?.id)"
        @close="close()"
        @made="choose"
      />
    </template>
  </ItemPage>
</template>

<style scoped>
.codes {
  white-space: nowrap;
}
.try {
  padding: 8px 20px;
  border-bottom: 1px solid var(--rule);
}
</style>
