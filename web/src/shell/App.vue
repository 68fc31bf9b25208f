<script setup lang="ts">
import { computed, defineAsyncComponent, onMounted, ref, watch } from 'vue';
import OwnPassword from '../areas/sign-in/OwnPassword.vue';
import SignIn from '../areas/sign-in/SignIn.vue';
import { useLive } from './live.ts';
import { useSession } from './session.ts';

const Frame = defineAsyncComponent(() => import('./Frame.vue'));
const FirstVisit = defineAsyncComponent(() => import('../areas/sign-in/FirstVisit.vue'));
const session = useSession();
const live = useLive();
const away = ref(false);

const page = computed(() => {
  const view = session.view;
  if (view === null) return 'loading';
  if (view.person !== null) return view.mustSetPassword ? 'password' : 'frame';
  return view.installation.needsFirstAdministrator ? 'first' : 'sign-in';
});

async function load(): Promise<void> {
  try {
    await session.load();
    away.value = false;
  } catch {
    away.value = true;
    setTimeout(load, 1_500);
  }
}

onMounted(load);
watch(page, (now) => (now === 'frame' ? live.start() : live.stop()));
</script>

<template>
  <v-app>
    <p v-if="page === 'loading'" class="loading" role="status">
      {{ away ? 'Night Bell is not answering. Trying again by itself.' : 'One moment.' }}
    </p>
    <Frame v-else-if="page === 'frame'" />
    <OwnPassword v-else-if="page === 'password'" />
    <FirstVisit v-else-if="page === 'first'" />
    <SignIn v-else />
  </v-app>
</template>

<style scoped>
.loading {
  padding: 40px;
}
</style>
