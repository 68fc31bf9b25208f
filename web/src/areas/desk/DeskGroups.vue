<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed, watch } from 'vue';
import type { OwnGroup } from '@night-bell/core/contracts/ring-groups';
import { ownGroupsPath as path } from '@night-bell/core/model/api-paths';
import { send } from '../../api/items.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';

/** The ring groups one is in, and whether one takes part. Nothing is shown to who is in none. */
const live = useLive();
const notices = useNotices();
const query = useQuery({
  queryKey: ['ownGroups'],
  queryFn: () => send<OwnGroup[]>('GET', path),
  retry: false,
});
const groups = computed(() => query.data.value ?? []);
watch(
  () => live.changedItems,
  (changed) => {
    if (changed.some(({ kind }) => kind === 'ringGroup')) void query.refetch();
  },
);

async function change({ id, name, takesPart }: OwnGroup): Promise<void> {
  try {
    await send('PUT', `${path}/${id}`, { body: { takesPart: !takesPart } });
    notices.say(takesPart ? `You sit out of ${name}.` : `You take part in ${name} again.`);
  } catch (error) {
    notices.fail(error);
  }
  await query.refetch();
}
</script>

<template>
  <section v-if="groups.length > 0">
    <h2>Ring groups</h2>
    <v-checkbox
      v-for="group in groups"
      :key="group.id"
      :model-value="group.takesPart"
      :label="`${group.name}${group.takesPart ? '' : ', sitting out'}`"
      @update:model-value="change(group)"
    />
  </section>
</template>
