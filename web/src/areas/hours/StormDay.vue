<script setup lang="ts">
import { computed, ref } from 'vue';
import type { HoursView } from '@night-bell/core/contracts/opening-hours';
import { clockText, minuteOf } from '@night-bell/core/hours/ranges';
import { ApiProblem } from '../../api/client.ts';
import { send } from '../../api/items.ts';
import ZoneNote from '../../kit/ZoneNote.vue';
import DayField from '../../kit/DayField.vue';
import { dayOf, instantOf } from '../../kit/time.ts';
import Shape from '../../kit/Shape.vue';
import { useCollection } from '../../shell/collection.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import { hoursApi } from './words.ts';
import { whenIn } from './zone-time.ts';

/** Closes chosen sets in one press, until an instant; it lies over them and ends by itself. */
const { items, put } = useCollection(hoursApi);
const session = useSession();
const live = useLive();
const notices = useNotices();
const ids = ref<string[]>([]);
const time = ref('');
const day = ref(dayOf(live.now, session.timeZone));
const today = computed(() => dayOf(live.now, session.timeZone));
const fault = ref('');
const working = ref(false);

const choices = computed(() =>
  (items.value ?? [])
    .filter((set) => !set.retired && set.storm === null)
    .map(({ id, name }) => ({ value: id, title: name })),
);
const closed = computed(() => (items.value ?? []).filter((set) => set.storm !== null));
const button = computed(() =>
  ids.value.length === 0
    ? 'Close sets'
    : ids.value.length === 1
      ? 'Close 1 set'
      : `Close ${ids.value.length} sets`,
);

async function call(which: string[], end: number | null, said: string): Promise<void> {
  fault.value = '';
  working.value = true;
  try {
    const sets = await send<HoursView[]>('POST', '/api/storm', { body: { ids: which, until: end } });
    sets.forEach(put);
    notices.say(said, end === null ? null : () => call(which, null, 'Open again.'));
    ids.value = [];
  } catch (error) {
    fault.value =
      error instanceof ApiProblem ? (error.faults['/until'] ?? error.detail) : 'That did not work.';
  } finally {
    working.value = false;
  }
}

function close(): void {
  const minute = minuteOf(time.value);
  if (minute === null || minute === 1_440) {
    fault.value = 'Say until when, like 18:00. It ends by itself then.';
    return;
  }
  const names = choices.value.filter(({ value }) => ids.value.includes(value)).map(({ title }) => title);
  void call(
    ids.value,
    instantOf(`${day.value}T${clockText(minute)}`, session.timeZone),
    `${names.join(', ')} closed by storm.`,
  );
}
</script>

<template>
  <section v-if="session.mayOperate || closed.length > 0" class="storm">
    <h2>Storm day</h2>
    <p class="second small">Closes whole sets at once, whatever they say, until an hour.</p>
    <template v-if="session.mayOperate">
      <div class="row">
        <label for="storm-sets">Close</label>
        <v-select id="storm-sets" v-model="ids" :items="choices" multiple placeholder="sets" />
      </div>
      <div class="row">
        <label for="storm-until">until</label>
        <input
          id="storm-until"
          v-model="time"
          class="mono"
          placeholder="18:00"
          aria-label="Until, the time"
        />
        <DayField v-model="day" label="Until, the day" :today="today" />
        <ZoneNote />
      </div>
      <p v-if="fault" class="fault-text small" role="alert"><Shape name="fault" /> {{ fault }}</p>
      <v-btn :disabled="ids.length === 0" :loading="working" @click="close">{{ button }}</v-btn>
    </template>
    <p v-for="set in closed" :key="set.id" class="closed small">
      <Shape name="storm" /> {{ set.name }} since {{ whenIn(set.zone, set.storm!.since, live.now) }}, until
      {{ whenIn(set.zone, set.storm!.until, live.now)
      }}{{ set.storm!.by === null ? '' : `, by ${set.storm!.by}` }}.
      <button
        v-if="session.mayOperate"
        type="button"
        class="link"
        @click="call([set.id], null, `${set.name} is open again.`)"
      >
        Open now
      </button>
    </p>
  </section>
</template>

<style scoped>
.storm {
  padding: 14px 20px;
}
.row {
  display: flex;
  gap: 8px;
  align-items: baseline;
  margin: 6px 0;
}
.row label {
  width: 36px;
  flex: none;
}
.row > .day {
  flex: 1;
  min-width: 0;
}
.row > input {
  flex: 0 0 64px;
  min-width: 0;
  width: 64px;
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: var(--ink);
  height: 26px;
}
.closed {
  margin-top: 10px;
}
</style>
