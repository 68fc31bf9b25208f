<script setup lang="ts">
import { computed, defineAsyncComponent, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import OwnPassword from '../areas/sign-in/OwnPassword.vue';
import SignIn from '../areas/sign-in/SignIn.vue';
import { useLive } from './live.ts';
import { useSession } from './session.ts';

const Frame = defineAsyncComponent(() => import('./Frame.vue'));
const EnrolPage = defineAsyncComponent(() => import('../areas/enrol/EnrolPage.vue'));
const FirstVisit = defineAsyncComponent(() => import('../areas/sign-in/FirstVisit.vue'));
const session = useSession();
const live = useLive();
const away = ref(false);
/** Somebody with a new phone and a link needs no sign-in. */
const isEnrolling = location.pathname === '/enrol';

const page = computed(() => {
  if (isEnrolling) return 'enrol';
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

/** What is typed into a choosing field replaces what stands there, whether keys or the mouse led to it. */
let focused: EventTarget | null = null;
function selectAll({ type, target }: Event): void {
  if (!(target instanceof HTMLInputElement) || target.closest('.v-autocomplete') === null) return;
  if (type === 'focusin' || focused === target) target.select();
  focused = type === 'focusin' ? target : null;
}

onMounted(load);
for (const kind of ['focusin', 'click'] as const) {
  onMounted(() => document.addEventListener(kind, selectAll));
  onBeforeUnmount(() => document.removeEventListener(kind, selectAll));
}
watch(page, (now) => (now === 'frame' ? live.start() : live.stop()));
</script>

<template>
  <v-app>
    <p v-if="page === 'loading'" class="loading" role="status">
      {{ away ? 'Night Bell is not answering. Trying again by itself.' : 'One moment.' }}
    </p>
    <EnrolPage v-else-if="page === 'enrol'" />
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
