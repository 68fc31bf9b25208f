<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { formatNumber } from '@night-bell/core/numbers/format';
import { api, ask, type Rule, type RuleWarnings } from '../../api/client.ts';
import EmptyLine from '../../kit/EmptyLine.vue';
import KeyCap from '../../kit/KeyCap.vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import PageHead from '../../kit/PageHead.vue';
import SaveList from '../../kit/SaveList.vue';
import Shape from '../../kit/Shape.vue';
import { useAddress } from '../../shell/address.ts';
import { useItemList } from '../../shell/item-list.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { useSetUp } from '../../shell/set-up.ts';
import RuleSheet from './RuleSheet.vue';
import RuleTester from './RuleTester.vue';
import { changeWords, useWords, warningWords } from './words.ts';

const props = defineProps<{ id?: string }>();
const setUp = useSetUp();
const session = useSession();
const notices = useNotices();
const { making, choose, add, close } = useItemList('/dialling');
const address = useAddress();
const withRetired = address.flag('deactivated');
const sort = address.part('sort');
const doubts = ref<RuleWarnings>({ warnings: [], countries: [] });

watch(
  () => setUp.rules,
  async () => {
    doubts.value = await ask(api.GET('/api/dialling-rule-warnings')).catch(() => doubts.value);
  },
  { immediate: true },
);
const of = (id: string) => doubts.value.warnings.filter((warning) => warning.ruleId === id);

const rows = computed(() => (setUp.rules ?? []).filter((rule) => !rule.retired || withRetired.value));
const sentence = computed(() => {
  if (setUp.rules === null) return 'Reading the list.';
  const count = rows.value.filter((rule) => !rule.retired).length;
  if (count === 0) return 'No rule: what is dialled goes out as it stands';
  const doubtful = new Set(doubts.value.warnings.map((warning) => warning.ruleId)).size;
  const rules = count === 1 ? '1 rule' : `${count.toLocaleString('en')} rules`;
  return `${rules}, the most specific wins${doubtful > 0 ? `; ${doubtful} doubtful` : ''}`;
});

const columns = [
  { key: 'pattern', title: 'Pattern', mono: true, sort: (row: Rule) => row.pattern },
  { key: 'name', title: 'Name', sort: (row: Rule) => row.name },
  { key: 'sent', title: 'Sent' },
  { key: 'trunks', title: 'Over' },
  { key: 'use', title: 'For', width: '104px', sort: (row: Rule) => row.use },
  { key: 'doubt', title: '' },
];

async function move(by: -1 | 1): Promise<void> {
  const ids = (setUp.rules ?? []).map((rule) => rule.id);
  const from = ids.indexOf(props.id ?? '');
  const to = from + by;
  if (from < 0 || to < 0 || to >= ids.length) return;
  ids.splice(to, 0, ...ids.splice(from, 1));
  await ask(api.PUT('/api/dialling-rule-order', { body: { ids } })).catch(notices.fail);
  await setUp.load();
}
</script>

<template>
  <PageHead title="Dialling" :sentence="sentence">
    <SaveList v-if="rows.length > 0" list="rules" :asked="{ withRetired: withRetired ? 'true' : null }" />
    <router-link to="/codes" class="codes">Service codes</router-link>
    <v-checkbox v-model="withRetired" label="with deactivated" />
    <template v-if="session.mayEdit && props.id && sort === ''">
      <v-btn aria-label="Move this rule up" @click="move(-1)">Up</v-btn>
      <v-btn aria-label="Move this rule down" @click="move(1)">Down</v-btn>
    </template>
    <v-btn v-if="session.mayEdit" variant="flat" color="primary" @click="add"
      >New rule<KeyCap>N</KeyCap></v-btn
    >
  </PageHead>
  <div class="split">
    <div class="list">
      <div v-if="session.mayOperate && !making && !props.id" class="try">
        <RuleTester @rule="choose({ id: $event })" />
        <p v-for="each in doubts.countries" :key="each.country" class="fault-text small">
          <Shape name="fault" /> No rule fits {{ each.contacts.toLocaleString('en') }} contacts in
          {{ each.country }}, {{ formatNumber(each.example) }} for one: a campaign dials them as they stand.
        </p>
      </div>
      <LedgerTable
        v-model:sort="sort"
        caption="Dialling rules"
        :columns="columns"
        :rows="rows"
        :chosen="props.id"
        @choose="choose"
      >
        <template #name="{ row }"
          >{{ row.name }} <span v-if="row.retired" class="second">deactivated</span></template
        >
        <template #sent="{ row }"
          ><span class="second">{{ changeWords(row) }}</span></template
        >
        <template #trunks="{ row }">{{
          row.trunkIds.map(setUp.nameOf).join(', else ') || 'any trunk'
        }}</template>
        <template #use="{ row }">{{
          row.teamIds.length > 0 ? row.teamIds.map(setUp.nameOf).join(', ') : useWords[row.use]
        }}</template>
        <template #doubt="{ row }">
          <span v-if="of(row.id)[0]" class="fault-text" :title="warningWords(of(row.id)[0]!, setUp.nameOf)"
            ><Shape name="fault" /> {{ warningWords(of(row.id)[0]!, setUp.nameOf) }}</span
          >
        </template>
        <template #empty>
          <EmptyLine
            v-if="setUp.rules !== null"
            text="No rule yet. What is dialled goes out as it stands, over any trunk. A rule turns it into what the provider takes."
          >
            <v-btn v-if="session.mayEdit" @click="add">New rule</v-btn>
          </EmptyLine>
        </template>
      </LedgerTable>
    </div>
    <RuleSheet v-if="making" key="new" :rule="null" :warnings="[]" @close="close" @made="choose" />
    <RuleSheet
      v-else-if="props.id && setUp.ruleById.get(props.id)"
      :key="props.id"
      :rule="setUp.ruleById.get(props.id)!"
      :warnings="of(props.id)"
      @close="close"
      @made="choose"
    />
  </div>
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
