<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref } from 'vue';
import { deviceModel } from '@night-bell/core/phones/catalogue';
import type { EmergencyAddress } from '@night-bell/core/model/emergency-address';
import { api, ApiProblem, ask, type EnrolmentView } from '../../api/client.ts';
import AddressField from '../../kit/AddressField.vue';
import LedgerField from '../../kit/LedgerField.vue';
import Shape from '../../kit/Shape.vue';
import SignInFrame from '../sign-in/SignInFrame.vue';

/**
 * The guide of somebody who holds a new phone and a link: asks only for what is missing, keeps each answer at once so
 * that it can be left and gone on with, and ends when the phone is registered.
 */
const code = ref(decodeURIComponent(location.hash.slice(1)));
const view = ref<EnrolmentView | null>(null);
const fault = ref('');
const faults = ref<Record<string, string>>({});
const busy = ref(false);
const zone = ref(Intl.DateTimeFormat().resolvedOptions().timeZone);
const address = ref<EmergencyAddress | null>(null);
const zones = Intl.supportedValuesOf('timeZone');
let timer: ReturnType<typeof setTimeout> | null = null;
const lookAgainMs = 2_000;

const step = computed(() => {
  if (view.value === null) return 'code';
  if (view.value.registered) return 'done';
  if (view.value.fetched) return 'waiting';
  return view.value.missing[0] ?? 'fetch';
});

const title = computed(() =>
  view.value === null
    ? 'Set up a phone'
    : `${view.value.name}'s ${(deviceModel(view.value.model)?.name ?? 'phone').toLowerCase()}`,
);
const sentence = computed(() =>
  view.value === null
    ? 'With the code your administrator gave you'
    : `Account ${view.value.account}. You can leave this page and come back by the same link.`,
);

async function working(work: () => Promise<unknown>): Promise<void> {
  busy.value = true;
  fault.value = '';
  faults.value = {};
  try {
    await work();
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error;
    faults.value = error.faults;
    fault.value = Object.keys(error.faults).length === 0 ? error.detail : '';
  } finally {
    busy.value = false;
  }
}

async function look(): Promise<void> {
  if (code.value.trim() === '') return;
  view.value = await ask(api.POST('/api/enrolments/look', { body: { code: code.value } }));
  if (timer !== null) clearTimeout(timer);
  if (!view.value.registered) timer = setTimeout(() => void look().catch(() => undefined), lookAgainMs);
}
onMounted(() => code.value !== '' && working(look));
onBeforeUnmount(() => timer !== null && clearTimeout(timer));

const answer = (answers: object) =>
  working(async () => {
    await ask(api.PUT('/api/enrolments/answers', { body: { code: code.value, ...answers } }));
    await look();
  });
</script>

<template>
  <SignInFrame :title="title" :sentence="sentence">
    <template v-if="step === 'code'">
      <form @submit.prevent="working(look)">
        <LedgerField label="Code" for="enrol-code" hint="Four groups of five, from your administrator.">
          <v-text-field id="enrol-code" v-model="code" class="mono" autofocus autocomplete="off" />
        </LedgerField>
        <p v-if="fault" class="fault-text" role="alert">{{ fault }}</p>
        <v-btn type="submit" variant="flat" color="primary" :loading="busy">Go on</v-btn>
      </form>
    </template>
    <template v-else-if="view">
      <form v-if="step === 'timeZone'" @submit.prevent="answer({ timeZone: zone })">
        <h3>Where are you?</h3>
        <LedgerField
          label="Time zone"
          for="enrol-zone"
          :fault="faults['/timeZone']"
          hint="As this browser has it."
        >
          <v-autocomplete id="enrol-zone" v-model="zone" :items="zones" auto-select-first />
        </LedgerField>
        <v-btn type="submit" variant="flat" color="primary" :loading="busy">That is right</v-btn>
      </form>
      <form v-else-if="step === 'emergencyAddress'" @submit.prevent="answer({ emergencyAddress: address })">
        <h3>Where should help be sent, if you call an emergency number from this phone?</h3>
        <AddressField
          id="enrol"
          v-model="address"
          :readonly="false"
          :faults="faults"
          path="/emergencyAddress"
        />
        <v-btn type="submit" variant="flat" color="primary" :loading="busy" :disabled="address === null"
          >Keep this address</v-btn
        >
      </form>
      <template v-else-if="step === 'fetch'">
        <h3>Nothing is missing</h3>
        <p>
          Type this code into the phone, or let its camera read the picture you were given. The phone fetches
          everything else itself.
        </p>
        <p class="code mono">{{ code }}</p>
      </template>
      <template v-else-if="step === 'waiting'">
        <h3><Shape name="unregistered" /> Fetched. Waiting for the phone to register.</h3>
        <p class="second">This takes a few seconds. If it takes longer, your administrator sees why.</p>
      </template>
      <template v-else>
        <h3><Shape name="registered" /> The phone is registered</h3>
        <p>Lift it and call a colleague. You can close this page.</p>
      </template>
      <p v-if="fault" class="fault-text" role="alert">{{ fault }}</p>
    </template>
  </SignInFrame>
</template>

<style scoped>
form,
h3 {
  margin-top: 14px;
}
h3 {
  margin-bottom: 8px;
}
.code {
  font-size: 18px;
  line-height: 28px;
  margin-top: 10px;
  user-select: all;
}
</style>
