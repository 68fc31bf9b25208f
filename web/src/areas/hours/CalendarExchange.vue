<script setup lang="ts">
import { ref } from 'vue';
import type { HoursDraft } from '@night-bell/core/contracts/opening-hours';
import Shape from '../../kit/Shape.vue';
import { readBeside } from './calendar-reading.ts';

/** Unusual days in and out as iCalendar: what is brought is looked at before it is saved. */
const props = defineProps<{
  name: string;
  zone: string;
  days: HoursDraft['days'];
  today: string;
  readonly: boolean;
}>();
const emit = defineEmits<{ change: [days: HoursDraft['days']] }>();
const file = ref<HTMLInputElement | null>(null);
const said = ref('');
const faults = ref<string[]>([]);
const shown = 5;

async function bring(brought: File | undefined): Promise<void> {
  if (brought === undefined) return;
  // Read where it is chosen: the server only hears of days that are saved.
  const { merged, mostCalendarBytes } = await import('@night-bell/core/hours/calendar');
  const text = brought.size > mostCalendarBytes ? ' '.repeat(mostCalendarBytes + 1) : await brought.text();
  faults.value = [];
  said.value = `Reading ${brought.name}.`;
  const read = await readBeside(text, props.zone, props.today).catch(() => null);
  if (read === null) {
    said.value = '';
    faults.value = [`${brought.name} could not be read. Try again.`];
    return;
  }
  const { days, added, changed, same } = merged(props.days, read.days);
  faults.value = read.faults;
  said.value = `${brought.name}: ${added} added, ${changed} changed, ${same} were there already.${added + changed > 0 ? ' Save to keep them.' : ''}`;
  if (added + changed > 0) emit('change', days);
  if (file.value !== null) file.value.value = '';
}

async function save(): Promise<void> {
  const { writeCalendar } = await import('@night-bell/core/hours/calendar');
  const text = writeCalendar(props.name, props.zone, props.days);
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type: 'text/calendar' }));
  link.download = `${props.name || 'hours'}.ics`;
  link.click();
  URL.revokeObjectURL(link.href);
}
</script>

<template>
  <div class="exchange small">
    <button v-if="!readonly" type="button" class="link" @click="file?.click()">Bring a calendar</button>
    <input
      ref="file"
      type="file"
      accept=".ics,text/calendar"
      class="hidden"
      aria-label="A calendar file"
      @change="bring(($event.target as HTMLInputElement).files?.[0])"
    />
    <button v-if="days.length > 0" type="button" class="link" @click="save">Save as calendar</button>
    <span v-if="said" role="status">{{ said }}</span>
    <p v-for="fault in faults.slice(0, shown)" :key="fault" class="fault-text">
      <Shape name="fault" /> {{ fault }}
    </p>
    <p v-if="faults.length > shown" class="second">
      and {{ faults.length - shown }} more that cannot be taken.
    </p>
  </div>
</template>

<style scoped>
.exchange {
  padding-top: 4px;
}
.exchange > * + * {
  margin-left: 12px;
}
.exchange > p {
  margin-left: 0;
}
.hidden {
  display: none;
}
</style>
