<script setup lang="ts">
import { ref } from 'vue';
import { loginFrom } from '@night-bell/core/model/login';
import { api, ApiProblem, ask } from '../../api/client.ts';
import LedgerField from '../../kit/LedgerField.vue';
import { useSession } from '../../shell/session.ts';
import SignInFrame from './SignInFrame.vue';

const session = useSession();
const form = ref({
  code: '',
  company: '',
  timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  name: '',
  login: '',
  password: '',
});
const zones = Intl.supportedValuesOf('timeZone');
const faults = ref<Record<string, string>>({});
const general = ref('');

async function save(): Promise<void> {
  faults.value = {};
  general.value = '';
  try {
    await ask(api.POST('/api/installation', { body: form.value }));
    await session.load();
  } catch (error) {
    if (!(error instanceof ApiProblem)) throw error;
    faults.value = error.faults;
    if (Object.keys(error.faults).length === 0) general.value = error.detail;
  }
}

function proposeLogin(): void {
  if (form.value.login !== '' || form.value.name.trim() === '') return;
  form.value.login = loginFrom(form.value.name);
}
</script>

<template>
  <SignInFrame
    title="The first administrator"
    sentence="This installation is empty. The terminal that started Night Bell shows a code: it proves that it is yours."
  >
    <form @submit.prevent="save">
      <LedgerField label="Code" for="code" :fault="faults['/code'] ?? general">
        <v-text-field id="code" v-model="form.code" class="mono" autofocus autocomplete="off" />
      </LedgerField>
      <LedgerField label="Company" for="company" :fault="faults['/company']">
        <v-text-field id="company" v-model="form.company" autocomplete="organization" />
      </LedgerField>
      <LedgerField label="Time zone" for="zone" :fault="faults['/timeZone']">
        <v-autocomplete id="zone" v-model="form.timeZone" :items="zones" />
      </LedgerField>
      <LedgerField label="Your name" for="name" :fault="faults['/name']">
        <v-text-field id="name" v-model="form.name" autocomplete="name" @blur="proposeLogin" />
      </LedgerField>
      <LedgerField label="Login" for="login" :fault="faults['/login']">
        <v-text-field id="login" v-model="form.login" autocomplete="username" />
      </LedgerField>
      <LedgerField
        label="Password"
        for="password"
        :fault="faults['/password']"
        hint="12 characters or more. A few words in a row do well."
      >
        <v-text-field id="password" v-model="form.password" type="password" autocomplete="new-password" />
      </LedgerField>
      <v-btn type="submit" variant="flat" color="primary">Make the first administrator</v-btn>
    </form>
  </SignInFrame>
</template>

<style scoped>
.v-btn {
  margin: 10px 0 0 104px;
}
</style>
