<script setup lang="ts">
import { computed } from 'vue';
import type { SourceView } from '@night-bell/core/contracts/sources';
import { formatNumber } from '@night-bell/core/numbers/format';
import ChoiceLine from '../../kit/ChoiceLine.vue';
import DayField from '../../kit/DayField.vue';
import FormSentence from '../../kit/FormSentence.vue';
import ItemSheet from '../../kit/ItemSheet.vue';
import SentenceChoice from '../../kit/SentenceChoice.vue';
import SentenceField from '../../kit/SentenceField.vue';
import { dayOf } from '../../kit/time.ts';
import { useLive } from '../../shell/live.ts';
import { useSession } from '../../shell/session.ts';
import SourceTrend from './SourceTrend.vue';
import { costWords, kindWords, sourceArea } from './words.ts';

/** An advert, a poster, a page: what it costs, which numbers carry it, how it did. */
defineProps<{ item: SourceView | null }>();
const emit = defineEmits<{ close: []; made: [item: SourceView] }>();
const session = useSession();
const live = useLive();
const today = computed(() => dayOf(live.now, session.timeZone));
const area = sourceArea(() => today.value);
const choices = (words: Record<string, string>) =>
  Object.entries(words).map(([value, title]) => ({ value, title }));
</script>

<template>
  <ItemSheet :area="area" :item="item" @close="emit('close')" @made="emit('made', $event)">
    <template #default="{ draft }">
      <ChoiceLine v-model="draft.kind" field="kind" label="Kind" :items="choices(kindWords)" />
    </template>
    <template #sections="{ draft }">
      <section>
        <FormSentence :fields="['cost', 'costPer', 'fromDay']">
          Costs
          <SentenceField v-model="draft.cost" field="cost" label="Cost" words :size="8" />
          <SentenceChoice
            v-model="draft.costPer"
            field="costPer"
            label="How it is paid"
            :items="choices(costWords)"
          />
          from
          <span class="from"
            ><DayField
              v-model="draft.fromDay"
              label="From day"
              :today="today"
              toward="past"
              :readonly="!session.mayEdit"
          /></span>
        </FormSentence>
        <p class="second small">
          A monthly cost is spread over the days of each month; what is paid once counts on its day.
        </p>
      </section>
    </template>
    <template #beside="{ item: shown }">
      <section>
        <h3>Numbers that carry it</h3>
        <p v-if="shown.numbers.length === 0" class="second">
          None yet. On a number's sheet, choose this source.
        </p>
        <ul>
          <li v-for="number in shown.numbers" :key="number.id">
            <router-link :to="`/numbers/${number.id}`" class="mono">{{
              formatNumber(number.e164)
            }}</router-link>
            {{ number.label }}
          </li>
        </ul>
      </section>
    </template>
    <template #tab-trend="{ item: shown }"><SourceTrend :source-id="shown.id" /></template>
  </ItemSheet>
</template>

<style scoped>
.from {
  display: inline-block;
  width: 170px;
}
</style>
