<script setup lang="ts">
import { computed } from 'vue';
import type { PlanView } from '@night-bell/core/contracts/plans';
import { send } from '../../api/items.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSetUp } from '../../shell/set-up.ts';

/** Who may work at a plan beside administrators. */
const props = defineProps<{ plan: PlanView }>();
const emit = defineEmits<{ set: [plan: PlanView] }>();
const setUp = useSetUp();
const notices = useNotices();
const teams = computed(() => [
  { value: null, title: 'administrators only' },
  ...(setUp.teams ?? []).map(({ id, name }) => ({ value: id, title: `and who supervises ${name}` })),
]);
const word = computed(() => {
  const team = setUp.teams?.find(({ id }) => id === props.plan.rights.teamId);
  if (team === undefined) return 'Administrators work at it';
  return props.plan.rights.publishes
    ? `Supervisors of ${team.name} publish it too`
    : `Supervisors of ${team.name} edit it too`;
});

async function set(rights: Partial<PlanView['rights']>): Promise<void> {
  try {
    const body = { ...props.plan.rights, ...rights };
    emit('set', await send<PlanView>('POST', `/api/plans/${props.plan.id}/rights`, { body }));
  } catch (error) {
    notices.fail(error);
  }
}
</script>

<template>
  <v-menu :close-on-content-click="false">
    <template #activator="{ props: menu }"
      ><button v-bind="menu" type="button" class="link">{{ word }}</button></template
    >
    <div class="rights">
      <label class="second small" for="plan-team">Who changes this plan</label>
      <v-select
        id="plan-team"
        :model-value="plan.rights.teamId"
        :items="teams"
        @update:model-value="set({ teamId: $event })"
      />
      <v-checkbox
        :model-value="plan.rights.publishes"
        :disabled="plan.rights.teamId === null"
        label="They may publish it too"
        @update:model-value="set({ publishes: $event === true })"
      />
      <p class="second small">
        Who supervises a team is set with the person. A supervisor without teams looks after all.
      </p>
    </div>
  </v-menu>
</template>

<style scoped>
.rights {
  background: var(--sheet);
  border: 1px solid var(--rule2);
  padding: 12px 16px;
  display: flex;
  flex-direction: column;
  gap: 6px;
  width: 320px;
}
</style>
