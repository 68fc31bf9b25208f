<script setup lang="ts">
import { computed } from 'vue';
import { formatNumber } from '@night-bell/core/numbers/format';
import type { RecordView } from '../api/client.ts';
import { useSession } from '../shell/session.ts';
import { useClock } from './time.ts';

/** What the customer records know, as last read, with the link to the record's own page. */
const props = defineProps<{ record: RecordView }>();
const session = useSession();
const { moment } = useClock();
const fields = computed(() => Object.entries(props.record.fields));
const words = (key: string) => (key.charAt(0).toUpperCase() + key.slice(1)).replace(/_/g, ' ');
</script>

<template>
  <div>
    <dl>
      <template v-for="number in record.numbers" :key="number">
        <dt>Number</dt>
        <dd class="mono">{{ formatNumber(number) }}</dd>
      </template>
      <template v-if="record.owner">
        <dt>Looked after by</dt>
        <dd>
          <router-link
            v-if="record.owner.personId && session.mayRead"
            :to="`/people/${record.owner.personId}`"
            >{{ record.owner.name }}</router-link
          >
          <template v-else>{{ record.owner.name ?? record.owner.login }}</template>
        </dd>
      </template>
      <template v-for="[key, value] in fields" :key="key">
        <dt>{{ words(key) }}</dt>
        <dd>{{ value }}</dd>
      </template>
    </dl>
    <p class="foot small second">
      {{ record.connectionName }}, read {{ moment(record.readAt) }}
      <a v-if="record.link" :href="record.link" target="_blank" rel="noopener noreferrer">Open its page</a>
    </p>
  </div>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 116px 1fr;
}
dt,
dd {
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
  overflow-wrap: anywhere;
}
dt {
  color: var(--ink2);
}
.foot {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding-top: 6px;
}
</style>
