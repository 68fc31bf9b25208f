<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed, ref, watch } from 'vue';
import type { CalendarView } from '@night-bell/core/contracts/calendars';
import { clockText } from '@night-bell/core/hours/ranges';
import { sentenceOf } from '../../api/client.ts';
import { send } from '../../api/items.ts';
import Shape from '../../kit/Shape.vue';
import { useClock } from '../../kit/time.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';

/** A calendar at an address: read some times a day; what it says is looked at before it holds. */
const props = defineProps<{
  hoursId: string;
  readonly: boolean;
  /** The form holds something that is not saved. */ changed: boolean;
}>();
const live = useLive();
const notices = useNotices();
const cache = useQueryClient();
const { moment } = useClock();
const path = computed(() => `/api/opening-hours/${props.hoursId}/calendar`);
const key = computed(() => ['calendar', props.hoursId] as const);
const query = useQuery({
  queryKey: key,
  queryFn: () => send<CalendarView | null>('GET', path.value),
  retry: false,
});
const calendar = computed(() => query.data.value ?? null);
watch(
  () => live.changedItems,
  (changed) => changed.some(({ id }) => id === props.hoursId) && void query.refetch(),
);

const naming = ref(false);
const address = ref('');
const fault = ref('');
const busy = ref(false);
async function doing(work: () => Promise<CalendarView | null>, said?: string): Promise<void> {
  busy.value = true;
  fault.value = '';
  try {
    cache.setQueryData(key.value, await work());
    naming.value = false;
    if (said !== undefined) notices.say(said);
  } catch (error) {
    fault.value = sentenceOf(error);
  } finally {
    busy.value = false;
  }
}
const follow = () => doing(() => send('PUT', path.value, { body: { address: address.value } }));
const readNow = () => doing(() => send('POST', `${path.value}/read`, { body: {} }));
const leave = () =>
  doing(() => send('DELETE', path.value), 'It is followed no more. Days that were taken stay.');
const take = () => {
  const { changes } = calendar.value!;
  const days = changes.length === 1 ? '1 day is' : `${changes.length} days are`;
  return doing(
    () => send('POST', `${path.value}/take`, { body: { changes } }),
    `${days} taken over from the calendar.`,
  );
};
const hoursWords = (ranges: readonly (readonly number[])[]) =>
  ranges.map(([from, to]) => `${clockText(from!)} to ${clockText(to!)}`).join(', ') || 'closed';
const shown = 8;
</script>

<template>
  <div class="followed small">
    <template v-if="calendar === null">
      <button
        v-if="!readonly && !naming && query.isSuccess.value"
        type="button"
        class="link"
        @click="naming = true"
      >
        Follow a calendar by its address
      </button>
    </template>
    <template v-else>
      <p>
        Follows <span class="mono address">{{ calendar.address }}</span><template
          v-if="calendar.readAt !== null"
          >, read {{ moment(calendar.readAt) }}</template
        >.
        <template v-if="!readonly">
          <button type="button" class="link" :disabled="busy" @click="readNow">Read it now</button>
          <button type="button" class="link" :disabled="busy" @click="leave">Follow no more</button>
        </template>
      </p>
      <p v-if="calendar.fault" class="fault-text" role="alert">
        <Shape name="fault" /> {{ calendar.fault }} What it said before stays.
      </p>
      <template v-if="calendar.changes.length > 0">
        <p>
          {{ calendar.changes.length === 1 ? 'One day is' : `${calendar.changes.length} days are` }} other
          there:
        </p>
        <ul>
          <li v-for="change in calendar.changes.slice(0, shown)" :key="change.date">
            <span class="mono">{{ change.date }}</span> {{ change.name }}: {{ hoursWords(change.after) }}
            <span class="second">{{
              change.before === null ? 'new' : `was ${hoursWords(change.before)}`
            }}</span>
          </li>
          <li v-if="calendar.changes.length > shown" class="second">
            and {{ calendar.changes.length - shown }} more
          </li>
        </ul>
        <v-btn v-if="!readonly" size="small" :loading="busy" :disabled="changed" @click="take"
          >Take them over</v-btn
        >
        <span v-if="changed" class="second">Save first what you changed here.</span>
      </template>
      <p v-else class="second">It says nothing that is not here.</p>
      <p v-for="each in calendar.leftOut.slice(0, 3)" :key="each" class="second">{{ each }}</p>
    </template>
    <form v-if="naming" @submit.prevent="follow">
      <input
        v-model="address"
        type="url"
        aria-label="Address of the calendar"
        placeholder="https://example.com/holidays.ics"
      />
      <v-btn size="small" type="submit" :loading="busy">Follow it</v-btn>
      <v-btn size="small" @click="naming = false">Leave it</v-btn>
    </form>
    <p v-if="fault" class="fault-text" role="alert">{{ fault }}</p>
  </div>
</template>

<style scoped>
.followed {
  padding-top: 4px;
}
.address {
  overflow-wrap: anywhere;
}
form {
  display: flex;
  gap: 8px;
  align-items: center;
}
input {
  flex: 1;
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: var(--ink);
  height: 26px;
}
.link + .link {
  margin-left: 12px;
}
</style>
