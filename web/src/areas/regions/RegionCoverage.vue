<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed } from 'vue';
import type { RegionCoverage, RegionView } from '@night-bell/core/contracts/regions';
import { prefixWords } from '@night-bell/core/plan/regions';
import { send } from '../../api/items.ts';
import { callerWords, figure } from './words.ts';

/** How a table fits the callers of the last month: whom each row caught, whom none did, what lies within what. */
const props = defineProps<{ table: RegionView }>();
const query = useQuery({
  queryKey: computed(() => ['region-coverage', props.table.id, props.table.rows, props.table.version]),
  queryFn: () => send<RegionCoverage>('GET', `/api/region-tables/${props.table.id}/coverage`),
  staleTime: 10_000,
  retry: false,
});
const coverage = computed(() => query.data.value ?? null);
const uncovered = computed(() => {
  const { calls = 0, covered = 0, withheld = 0 } = coverage.value ?? {};
  return calls - covered - withheld;
});
</script>

<template>
  <section aria-label="Coverage">
    <h3>Coverage</h3>
    <p v-if="query.isError.value" class="fault-text" role="alert">The callers could not be counted.</p>
    <p v-else-if="coverage === null" class="second">Counting the callers of the last month.</p>
    <template v-else>
      <p>
        Some row fits {{ callerWords(coverage.covered, coverage.calls, coverage.days) }}; none fits
        {{ figure(uncovered) }}, and {{ figure(coverage.withheld) }} withheld their number.
      </p>
      <div class="beside">
        <table v-if="coverage.rows.length > 0">
          <caption class="second small">
            Caught most
          </caption>
          <tbody>
            <tr v-for="row in coverage.rows.slice(0, 8)" :key="row.prefix">
              <td class="mono">{{ prefixWords(row.prefix) }}</td>
              <td class="mono right">{{ figure(row.calls) }}</td>
            </tr>
          </tbody>
        </table>
        <table v-if="coverage.missing.length > 0">
          <caption class="second small">
            No row fits
          </caption>
          <tbody>
            <tr v-for="row in coverage.missing.slice(0, 8)" :key="row.prefix">
              <td class="mono" :title="row.place ?? ''">{{ prefixWords(row.prefix) }}</td>
              <td class="mono right">{{ figure(row.calls) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p v-if="coverage.overlapping > 0" class="small second">
        {{ coverage.overlapping === 1 ? 'One row lies' : `${figure(coverage.overlapping)} rows lie` }} within
        another that leads elsewhere; the longer wins:
        <template v-for="(each, index) in coverage.overlaps.slice(0, 3)" :key="each.prefix"
          >{{ index > 0 ? '; ' : '' }}<span class="mono">{{ prefixWords(each.prefix) }}</span> to
          {{ each.toName }}, within <span class="mono">{{ prefixWords(each.within) }}</span> to
          {{ each.withinName }}</template
        >.
      </p>
    </template>
  </section>
</template>

<style scoped>
h3 {
  margin: 10px 0 4px;
}
.beside {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 24px;
}
table {
  border-collapse: collapse;
  align-self: start;
}
caption {
  text-align: left;
}
td {
  border-bottom: 1px solid var(--rule);
  padding: 2px 0;
}
.right {
  text-align: right;
}
</style>
