<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import type { Locale, OwnReading } from '@night-bell/core/contracts/reading';
import { send } from '../api/items.ts';
import type { SessionView } from '../api/client.ts';
import LedgerField from '../kit/LedgerField.vue';
import { useClock } from '../kit/time.ts';
import { figure } from '../kit/locale.ts';
import { useNotices } from './notices.ts';
import { useSession } from './session.ts';

/** How dates, times and numbers are written for whoever is signed in; administrators say it for the company, too. */
const shown = defineModel<boolean>({ required: true });
const session = useSession();
const notices = useNotices();
const { date, clock } = useClock();
const now = Date.now();

const ways: Record<Locale, string> = {
  'en-US': 'United States',
  'en-CA': 'Canada, English',
  'en-GB': 'United Kingdom',
  'fr-CA': 'Canada, French',
  'fr-FR': 'France',
  'es-MX': 'Mexico',
  'es-ES': 'Spain',
  'de-DE': 'Germany',
  'nl-NL': 'Netherlands',
  'sv-SE': 'Sweden',
};
const named = Object.entries(ways).map(([value, title]) => ({ value: value as Locale | null, title }));
const own = computed(() => [{ value: null, title: 'as the company does' }, ...named]);
const house = [{ value: null, title: 'Tue 24 Nov, 14:20' }, ...named];
const zones = computed(() => [
  { value: null, title: `the company’s, ${session.timeZone}` },
  ...Intl.supportedValuesOf('timeZone').map((zone) => ({ value: zone, title: zone })),
]);

const locale = ref<Locale | null>(null);
const timeZone = ref<string | null>(null);
watch(
  () => session.view?.reading,
  (reading) => {
    locale.value = (reading?.locale ?? null) as Locale | null;
    timeZone.value = reading?.timeZone ?? null;
  },
  { immediate: true },
);

async function put(path: string, body: object): Promise<void> {
  try {
    session.take(await send<SessionView>('PUT', path, { body }));
  } catch (error) {
    notices.fail(error);
  }
}
const keep = (reading: OwnReading) => put('/api/session/reading', reading);
</script>

<template>
  <v-dialog v-model="shown" max-width="460" aria-label="Your settings">
    <div class="settings">
      <h2>Your settings</h2>
      <p class="second">{{ session.view?.person?.name }}</p>
      <LedgerField
        label="Written as in"
        for="own-locale"
        :hint="`Now: ${date(now)}, ${clock(now)}, ${figure(1250.5)}`"
      >
        <v-select
          id="own-locale"
          v-model="locale"
          :items="own"
          @update:model-value="keep({ locale, timeZone })"
        />
      </LedgerField>
      <LedgerField
        label="Clock of"
        for="own-zone"
        hint="Days of lists and reports stay those of the company; where that is another clock, it is said."
      >
        <v-autocomplete
          id="own-zone"
          v-model="timeZone"
          :items="zones"
          auto-select-first
          @update:model-value="keep({ locale, timeZone })"
        />
      </LedgerField>
      <template v-if="session.mayEdit">
        <h3>For everybody who chose nothing</h3>
        <LedgerField label="Written as in" for="company-locale">
          <v-select
            id="company-locale"
            :model-value="session.view?.installation.locale ?? null"
            :items="house"
            @update:model-value="put('/api/installation/reading', { locale: $event })"
          />
        </LedgerField>
      </template>
      <div class="buttons"><v-btn @click="shown = false">Close</v-btn></div>
    </div>
  </v-dialog>
</template>

<style scoped>
.settings {
  background: var(--sheet);
  border: 1px solid var(--rule2);
  padding: 16px 20px;
}
h2 + p {
  margin-bottom: 12px;
}
h3 {
  margin: 12px 0 8px;
}
.buttons {
  margin-top: 12px;
}
</style>
