<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, watch } from 'vue';
import type { GroupMember, RingGroupView } from '@night-bell/core/contracts/ring-groups';
import { groupMembersPath } from '@night-bell/core/model/api-paths';
import { mostTogether } from '@night-bell/core/model/ring';
import { send } from '../../api/items.ts';
import { figure } from '../../kit/locale.ts';
import Shape from '../../kit/Shape.vue';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';

/** The people of a group as it is saved, and who of them takes part now: changed here, at their desk or by a code. */
const props = defineProps<{ group: RingGroupView }>();
const session = useSession();
const live = useLive();
const notices = useNotices();
const cache = useQueryClient();
const path = computed(() => groupMembersPath.replace(':id', props.group.id));
const key = computed(() => ['groupMembers', props.group.id] as const);
const query = useQuery({
  queryKey: key,
  queryFn: () => send<GroupMember[]>('GET', path.value),
  gcTime: 0,
  retry: false,
  shallow: true,
});
const members = computed(() => query.data.value ?? null);
const sitOut = computed(() => members.value?.filter(({ takesPart }) => !takesPart).length ?? 0);
const readAgain = () => cache.invalidateQueries({ queryKey: key.value });
watch(
  () => live.changedItems,
  (changed) => {
    if (changed.some(({ id }) => id === props.group.id)) void readAgain();
  },
);

async function change({ personId, name, takesPart }: GroupMember): Promise<void> {
  try {
    await send('PUT', `${path.value}/${personId}`, { body: { takesPart: !takesPart } });
    notices.say(`${name} ${takesPart ? 'sits out of' : 'takes part in'} ${props.group.name}.`);
    await readAgain();
  } catch (error) {
    notices.fail(error);
  }
}
</script>

<template>
  <section>
    <h3>
      Takes part now
      <span v-if="sitOut > 0" class="second">{{ sitOut === 1 ? '1 sits out' : `${sitOut} sit out` }}</span>
    </h3>
    <p v-if="query.isError.value" class="second">
      The exchange could not be asked.
      <button type="button" class="link" @click="readAgain()">Ask again</button>
    </p>
    <p v-else-if="members !== null && members.length === 0" class="second">
      Nobody of the house. Numbers outside always take part.
    </p>
    <ul v-else>
      <li v-for="member in members ?? []" :key="member.personId" :class="{ out: !member.takesPart }">
        <Shape :name="live.agents.get(member.personId)?.state ?? 'signedOut'" />
        <router-link :to="`/people/${member.personId}`" class="name">{{ member.name }}</router-link>
        <span class="second small">{{
          !member.takesPart ? 'sits out' : member.canRing ? '' : 'cannot be rung now'
        }}</span>
        <button v-if="session.mayOperate" type="button" class="link" @click="change(member)">
          {{ member.takesPart ? 'Let sit out' : 'Bring back' }}
        </button>
      </li>
    </ul>
    <p v-if="members !== null && group.peopleCount > members.length" class="second small">
      And {{ figure(group.peopleCount - members.length) }} more who take part. At most
      {{ mostTogether }} phones ring together, the first by name.
    </p>
  </section>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 16px minmax(0, 1fr) auto auto;
  gap: 8px;
  align-items: center;
  min-height: 28px;
  border-bottom: 1px solid var(--rule);
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  line-height: 24px;
}
.out .name {
  color: var(--ink2);
}
h3 .second {
  font-weight: 400;
  margin-left: 6px;
}
</style>
