<script setup lang="ts">
import { ref } from 'vue';
import { api, ApiProblem, ask } from '../../api/client.ts';
import LedgerField from '../../kit/LedgerField.vue';
import { useSession } from '../../shell/session.ts';
import SignInFrame from './SignInFrame.vue';

const session = useSession();
const password = ref('');
const again = ref('');
const fault = ref('');
const faultAgain = ref('');

async function save(): Promise<void> {
  fault.value = '';
  faultAgain.value = password.value === again.value ? '' : 'The two are not alike.';
  if (faultAgain.value !== '') return;
  try {
    await ask(api.PUT('/api/session/password', { body: { password: password.value } }));
    await session.load();
  } catch (error) {
    fault.value = error instanceof ApiProblem ? error.detail : 'That did not work. Try again.';
  }
}
</script>

<template>
  <SignInFrame
    title="A password of your own"
    sentence="The one-time code has done its work. Nobody else will know this one."
  >
    <form @submit.prevent="save">
      <LedgerField
        label="Password"
        for="password"
        :fault="fault"
        hint="12 characters or more. A few words in a row do well."
      >
        <v-text-field
          id="password"
          v-model="password"
          type="password"
          autocomplete="new-password"
          autofocus
        />
      </LedgerField>
      <LedgerField label="Once more" for="again" :fault="faultAgain">
        <v-text-field id="again" v-model="again" type="password" autocomplete="new-password" />
      </LedgerField>
      <v-btn type="submit" variant="flat" color="primary">Save and go on</v-btn>
    </form>
  </SignInFrame>
</template>

<style scoped>
.v-btn {
  margin: 10px 0 0 104px;
}
</style>
