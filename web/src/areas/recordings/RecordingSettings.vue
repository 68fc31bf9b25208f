<script setup lang="ts">
import { onMounted, ref } from 'vue';
import type { RecordingSettingsView } from '@night-bell/core/contracts/recordings';
import { ApiProblem } from '../../api/client.ts';
import { send } from '../../api/items.ts';
import LedgerField from '../../kit/LedgerField.vue';
import { locale } from '../../kit/locale.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';

/** For the whole company: how long recordings are kept, and whether agents hear their own. */
const session = useSession();
const notices = useNotices();
const view = ref<RecordingSettingsView | null>(null);
const days = ref('');
const own = ref(true);
const fault = ref('');
const path = '/api/recording-settings';

function take(came: RecordingSettingsView): void {
  view.value = came;
  days.value = String(came.settings.keepDays);
  own.value = came.settings.agentsHearOwn;
}
onMounted(async () => {
  await send<RecordingSettingsView>('GET', path).then(take, notices.fail);
});
const changed = () =>
  view.value !== null &&
  (days.value !== String(view.value.settings.keepDays) || own.value !== view.value.settings.agentsHearOwn);

async function save(): Promise<void> {
  fault.value = '';
  try {
    const body = { keepDays: Number(days.value), agentsHearOwn: own.value };
    take(await send<RecordingSettingsView>('PUT', path, { body }));
    notices.say('How recordings are kept is saved.');
  } catch (error) {
    fault.value = error instanceof ApiProblem ? (error.faults['/keepDays'] ?? error.detail) : String(error);
  }
}
</script>

<template>
  <section v-if="view">
    <p v-if="!view.held.isKept" class="fault-text small">
      This server keeps no recordings: whoever runs it names a folder for them (docs/operating.md).
    </p>
    <LedgerField
      label="Kept for"
      for="recording-days"
      :fault="fault"
      hint="Days. Older recordings are deleted, file and all; that a talk was recorded stays in the story."
    >
      <v-text-field
        id="recording-days"
        v-model="days"
        class="mono"
        inputmode="numeric"
        :readonly="!session.mayEdit"
      />
    </LedgerField>
    <v-checkbox v-model="own" label="Agents hear their own talks" :readonly="!session.mayEdit" />
    <p class="second small">
      Administrators and auditors hear all talks, supervisors those of people they look after. Whoever hears
      somebody else’s talk stands in that person’s history.
    </p>
    <LedgerField label="Kept now">
      <span class="mono">{{ view.held.count.toLocaleString(locale) }}</span> talks,
      <span class="mono">{{ view.held.megabytes.toLocaleString(locale) }}</span> MB
    </LedgerField>
    <div v-if="session.mayEdit && changed()" class="buttons">
      <v-btn variant="flat" color="primary" @click="save">Save</v-btn>
      <v-btn @click="take(view)">Leave as it was</v-btn>
    </div>
  </section>
</template>
