<script setup lang="ts">
import { computed } from 'vue';
import type { PlanView } from '@night-bell/core/contracts/plans';
import { formatNumber } from '@night-bell/core/numbers/format';
import { api, ask, ifMatch } from '../../api/client.ts';
import { readNumber } from '../../api/lists.ts';
import AddField from '../../kit/AddField.vue';
import { secondOf, useFinding } from '../../kit/finding.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSetUp } from '../../shell/set-up.ts';
import TakeOut from '../../kit/TakeOut.vue';

/** The numbers that lead to a plan: attached and let go here, also while it is a draft; they go live with it. */
const props = defineProps<{ plan: PlanView; readonly: boolean }>();
const setUp = useSetUp();
const notices = useNotices();
const held = computed(() => props.plan.numbers);
const { search, open, found } = useFinding(
  () => ['number'],
  () => '',
);
const choices = computed(() =>
  found.value
    .filter(({ id }) => !held.value.some((each) => each.id === id))
    .map((entry) => ({ value: entry.id, title: `${secondOf(entry)}, ${entry.name}` })),
);

async function lead(id: string, here: boolean): Promise<void> {
  const destination = here ? { kind: 'plan' as const, id: props.plan.id } : null;
  try {
    const { version, e164, label, sourceId, textsTo, dialTeams, mostCalls, priority } = (await readNumber(id))
      .item;
    const body = { e164, label, sourceId, textsTo, dialTeams, mostCalls, priority, destination };
    await ask(
      api.PUT('/api/numbers/{id}', {
        params: { path: { id }, header: ifMatch(version) },
        body: body as never,
      }),
    );
    await setUp.load();
    const said = here ? `${label} leads to ${props.plan.name}.` : `${label} leads nowhere now.`;
    const warns =
      here && props.plan.published === null
        ? ' Publish the plan: until then callers cannot be answered.'
        : '';
    await notices.saved(`${said}${warns}`, id);
  } catch (error) {
    notices.fail(error);
  }
}
</script>

<template>
  <div class="numbers">
    <span v-for="{ id, e164, label } in held" :key="id" class="number">
      <router-link :to="`/numbers/${id}`" class="mono plain">{{ formatNumber(e164) }}</router-link>
      <span class="second">{{ label }}</span>
      <TakeOut v-if="!readonly" :what="`Let ${label} go`" @click="lead(id, false)" />
    </span>
    <span v-if="held.length === 0" class="second">No number leads here yet.</span>
    <AddField
      v-if="!readonly"
      v-model:search="search"
      v-model:menu="open"
      no-filter
      :items="choices"
      label="Attach a number"
      class="add"
      @add="lead($event, true)"
    />
    <span class="space"></span>
    <slot></slot>
  </div>
</template>

<style scoped>
.numbers {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 18px;
  padding: 4px 20px;
  border-bottom: 1px solid var(--rule);
  flex: none;
}
.number {
  display: inline-flex;
  gap: 6px;
  align-items: baseline;
}
.space {
  flex: 1;
}
.add {
  flex: 0 0 170px;
}
</style>
