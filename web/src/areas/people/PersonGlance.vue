<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { formatNumber } from '@night-bell/core/numbers/format';
import { api, ask, type CallRow, type Person, type UsedBy } from '../../api/client.ts';
import { useClock } from '../../kit/time.ts';
import { resultOf } from '@night-bell/core/story/words';
import { useDirectory } from '../../shell/directory.ts';
import { noAnswerWords } from './words.ts';

/** Who this is at a glance: how they are reached, what for, what follows when they do not lift, and their last call. */
const props = defineProps<{ person: Person; users: readonly UsedBy[] }>();
const directory = useDirectory();
const { moment } = useClock();
const last = ref<CallRow | null>(null);

watch(
  () => props.person.id,
  async (person) => {
    last.value = null;
    const query = { personId: person, limit: 1 };
    const answer = await ask(api.GET('/api/calls', { params: { query } })).catch(() => null);
    if (props.person.id === person) last.value = answer?.calls[0] ?? null;
  },
  { immediate: true },
);

const direct = computed(() => props.users.filter(({ kind, how }) => kind === 'number' && how === 'leads to'));

/** What a call straight to them does, step by step, until it rests. */
const chain = computed(() => [
  `rings ${props.person.ringSeconds} s`,
  ...noAnswerWords(props.person.noAnswer, directory.nameOf),
]);
</script>

<template>
  <section>
    <dl>
      <dt>Direct number</dt>
      <dd>
        <template v-for="{ id } in direct" :key="id">
          <router-link class="plain mono" :to="`/numbers/${id}`">{{
            formatNumber(directory.entry(id)?.second ?? '')
          }}</router-link>{{ ' ' }}
        </template>
        <span v-if="direct.length === 0" class="second">none</span>
      </dd>
      <template v-if="person.mail">
        <dt>Mail</dt>
        <dd>
          <a class="plain" :href="`mailto:${person.mail}`">{{ person.mail }}</a>
        </dd>
      </template>
      <dt>Called directly</dt>
      <dd>{{ chain.join(', then ') }}</dd>
      <dt>Rings for</dt>
      <dd>
        <template v-for="(queue, index) in person.queues" :key="queue.id"
          ><router-link class="plain" :to="`/queues/${queue.id}`">{{ queue.name }}</router-link
          >{{ index < person.queues.length - 1 ? ', ' : '' }}</template
        >
        <span v-if="person.queues.length === 0" class="second">no queue</span>
      </dd>
      <dt>Last call</dt>
      <dd>
        <router-link v-if="last" class="plain" :to="`/calls/${last.id}`"
          >{{ moment(Date.parse(last.arrivedAt)) }},
          {{ last.callerName ?? formatNumber(last.direction === 'outbound' ? last.dialled : last.caller) }},
          {{ resultOf(last.result as never, last.direction as never).toLowerCase() }}</router-link
        >
        <span v-else class="second">none yet</span>
      </dd>
    </dl>
  </section>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 96px 1fr;
  gap: 3px 8px;
}
dt {
  color: var(--ink2);
}
</style>
