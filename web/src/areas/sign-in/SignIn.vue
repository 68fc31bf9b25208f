<script setup lang="ts">
import { computed, ref } from 'vue';
import { api, ApiProblem, ask } from '../../api/client.ts';
import LedgerField from '../../kit/LedgerField.vue';
import { useClock } from '../../kit/time.ts';
import { useNotices } from '../../shell/notices.ts';
import { useSession } from '../../shell/session.ts';
import SignInFrame from './SignInFrame.vue';

const session = useSession();
const notices = useNotices();
const { moment } = useClock();
/** A sheet of codes leads here with the login in its link. */
const login = ref(new URLSearchParams(location.search).get('login') ?? '');
const password = ref('');
const fault = ref('');
const busy = ref(false);
const company = computed(() => session.view?.installation.name ?? '');

async function signIn(): Promise<void> {
  busy.value = true;
  fault.value = '';
  try {
    await ask(api.POST('/api/session', { body: { login: login.value, password: password.value } }));
    await session.load();
    const [other] = session.view?.elsewhere ?? [];
    if (other !== undefined)
      notices.warn(
        `You are signed in elsewhere too${other.browser === '' ? '' : `: ${other.browser}`}, seen ${moment(other.seenAt)}. If that is not you, tell an administrator.`,
      );
  } catch (error) {
    fault.value = error instanceof ApiProblem ? error.detail : 'That did not work. Try again.';
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <SignInFrame title="Night Bell" :sentence="company === '' ? 'Sign in' : `Sign in to ${company}`">
    <form @submit.prevent="signIn">
      <LedgerField label="Login" for="login">
        <v-text-field id="login" v-model="login" name="username" autocomplete="username" autofocus />
      </LedgerField>
      <LedgerField
        label="Password"
        for="password"
        :fault="fault"
        hint="The first time: the one-time code you were given."
      >
        <v-text-field
          id="password"
          v-model="password"
          name="password"
          type="password"
          autocomplete="current-password"
        />
      </LedgerField>
      <v-btn type="submit" variant="flat" color="primary" :loading="busy">Sign in</v-btn>
    </form>
  </SignInFrame>
</template>

<style scoped>
.v-btn {
  margin: 10px 0 0 104px;
}
</style>
