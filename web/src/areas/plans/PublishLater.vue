<script setup lang="ts">
import { computed, ref } from 'vue';
import type { PlanView } from '@night-bell/core/contracts/plans';
import { clockText, minuteOf } from '@night-bell/core/hours/ranges';
import { sentenceOf } from '../../api/client.ts';
import { send } from '../../api/items.ts';
import ZoneNote from '../../kit/ZoneNote.vue';
import DayField from '../../kit/DayField.vue';
import { dayOf, instantOf, useClock } from '../../kit/time.ts';
import { useLive } from '../../shell/live.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';

/** When the draft is published by itself, and when what callers meet now comes back. */
const props = defineProps<{ plan: PlanView; stopped: boolean; save: () => Promise<boolean> }>();
const emit = defineEmits<{ set: [plan: PlanView] }>();
const session = useSession();
const live = useLive();
const notices = useNotices();
const { moment } = useClock();
const open = ref(false);
const today = computed(() => dayOf(live.now, session.timeZone));
const day = ref(today.value);
const time = ref('06:00');
const back = ref(false);
const backDay = ref(today.value);
const backTime = ref('18:00');
const fault = ref('');

const at = (date: string, clock: string): number | null => {
  const minute = minuteOf(clock);
  return minute === null || date === '' ? null : instantOf(`${date}T${clockText(minute)}`, session.timeZone);
};
async function ask(work: Promise<PlanView>, said: string): Promise<void> {
  fault.value = '';
  try {
    emit('set', await work);
    notices.say(said);
    open.value = false;
  } catch (error) {
    fault.value = sentenceOf(error);
  }
}
async function set(): Promise<void> {
  const publishAt = at(day.value, time.value);
  const backAt = back.value ? at(backDay.value, backTime.value) : null;
  if (publishAt === null || (back.value && backAt === null)) {
    fault.value = 'Type a time like 06:00.';
    return;
  }
  // What is published later is what is saved now.
  if (!(await props.save())) return;
  const url = `/api/plans/${props.plan.id}/schedule`;
  await ask(
    send<PlanView>('POST', url, { body: { publishAt, backAt } }),
    `Published by itself ${moment(publishAt)}.`,
  );
}
const leave = () =>
  ask(
    send<PlanView>('POST', `/api/plans/${props.plan.id}/unschedule`, { body: {} }),
    'Nothing happens by itself.',
  );
</script>

<template>
  <div v-if="plan.scheduled" class="line">
    <span :class="{ 'fault-text': plan.scheduled.fault !== null }">
      <template v-if="plan.scheduled.fault">Not published: {{ plan.scheduled.fault }}</template>
      <template v-else-if="plan.scheduled.done">Goes back {{ moment(plan.scheduled.backAt!) }}.</template>
      <template v-else
        >Published {{ moment(plan.scheduled.publishAt)
        }}{{ plan.scheduled.backAt === null ? '' : `, back ${moment(plan.scheduled.backAt)}` }}, as it was
        when this was set.</template
      >
    </span>
    <button type="button" class="link" @click="leave">Leave it as it is</button>
  </div>
  <v-menu v-else v-model="open" :close-on-content-click="false">
    <template #activator="{ props: menu }"
      ><v-btn v-bind="menu" :disabled="stopped" title="Publish at a time, and go back">Later</v-btn></template
    >
    <form class="later" @submit.prevent="set">
      <p class="second small">
        What is saved now is published then, whatever is changed meanwhile. <ZoneNote />
      </p>
      <div class="at">
        <DayField v-model="day" label="Day it is published" :today="today" />
        <input v-model="time" class="mono" aria-label="Time it is published" />
      </div>
      <v-checkbox
        v-model="back"
        label="and go back to what callers meet now"
        :disabled="plan.published === null"
      />
      <div v-if="back" class="at">
        <DayField v-model="backDay" label="Day it goes back" :today="today" />
        <input v-model="backTime" class="mono" aria-label="Time it goes back" />
      </div>
      <p v-if="fault" class="fault-text small" role="alert">{{ fault }}</p>
      <v-btn type="submit" variant="flat" color="primary">Set it</v-btn>
    </form>
  </v-menu>
</template>

<style scoped>
.line {
  display: flex;
  gap: 10px;
  align-items: baseline;
}
.later {
  background: var(--sheet);
  border: 1px solid var(--rule2);
  padding: 12px 16px;
  display: flex;
  flex-direction: column;
  gap: 8px;
  width: 300px;
}
.at {
  display: flex;
  gap: 10px;
}
.at input {
  width: 64px;
  border: 0;
  border-bottom: 1px solid var(--rule2);
  background: none;
  color: inherit;
}
</style>
