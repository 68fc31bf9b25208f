<script setup lang="ts">
import { VueQueryPlugin } from '@tanstack/vue-query';
import { computed, defineAsyncComponent, getCurrentInstance, nextTick, onMounted, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import Shape from '../kit/Shape.vue';
import { turn } from '../kit/turns.ts';
import { areas } from './areas.ts';
import Index from './Index.vue';
import { focusPage } from './focus.ts';
import { useKeys } from './keys.ts';
import { useLive } from './live.ts';
import { useNotices } from './notices.ts';
import RingsHere from './RingsHere.vue';
import { useSession } from './session.ts';
import TestCallBar from './TestCallBar.vue';

// Whoever is not signed in reads no lists: what keeps them comes with the frame.
getCurrentInstance()!.appContext.app.use(VueQueryPlugin);
const session = useSession();
const live = useLive();
const notices = useNotices();
const router = useRouter();
const route = useRoute();
const HelpDialog = defineAsyncComponent(() => import('./HelpDialog.vue'));
const OwnSettings = defineAsyncComponent(() => import('./OwnSettings.vue'));
const settingsShown = ref(false);
const settingsAsked = ref(false);
watch(settingsShown, () => (settingsAsked.value = true));
const helpShown = ref(false);
/** It is fetched when somebody first asks for it. */
const helpAsked = ref(false);
watch(helpShown, () => (helpAsked.value = true));
/** What lies over the page gives the keys back to where they were. */
for (const shown of [helpShown, settingsShown]) {
  let before: Element | null = null;
  watch(shown, (now) => {
    if (now) before = document.activeElement;
    else if (before instanceof HTMLElement && before !== document.body) before.focus({ preventScroll: true });
    else void nextTick(focusPage);
  });
}
/** The page asks for what it shows; while that is under way the index comes, then the test call, each in its turn. */
const pageShown = ref(false);
const indexShown = ref(false);
const barShown = ref(false);
const rings = computed(
  () =>
    live.agents.get(session.view?.person?.id ?? '')?.state === 'ringing' && !route.path.startsWith('/desk'),
);
watch(pageShown, async () => {
  await turn();
  indexShown.value = true;
  await turn();
  barShown.value = true;
});
let jumping = false;

onMounted(() => {
  // The first page was chosen before anybody was signed in; an agent's is their desk.
  const isTheirs = session.mayRead || /^\/(desk|calls)(\/|$)/.test(route.path);
  const settled = isTheirs ? Promise.resolve() : router.replace('/desk');
  void settled.then(() => (pageShown.value = true));
});

/** One-digit folios that begin a two-digit one wait a moment for the second digit. */
const waitMs = 400;
let typed = '';
let waiting: ReturnType<typeof setTimeout> | null = null;

function jump(digit: string): void {
  if (!jumping) return;
  typed += digit;
  if (waiting !== null) clearTimeout(waiting);
  const longer = areas.some(
    (area) => String(area.shortcut).startsWith(typed) && String(area.shortcut) !== typed,
  );
  const go = () => {
    const area = areas.find((each) => String(each.shortcut) === typed);
    if (area !== undefined && (session.mayRead || area.agents)) void router.push(area.path);
    jumping = false;
    typed = '';
  };
  if (longer) waiting = setTimeout(go, waitMs);
  else go();
}

useKeys({
  '?': () => (helpShown.value = true),
  '.': () => {
    jumping = true;
    typed = '';
    setTimeout(() => (jumping = false), 1_500);
  },
  ...Object.fromEntries('0123456789'.split('').map((digit) => [digit, () => jump(digit)])),
});

/** Somebody who was looking elsewhere is told, too. */
const worthSayingMs = 1_500;
watch(
  () => live.away?.since ?? null,
  (since, before) => {
    const ms = before == null ? 0 : Date.now() - before;
    if (since === null && ms > worthSayingMs)
      notices.say(`Night Bell was away for ${Math.round(ms / 1_000)} s. What you see is read anew.`);
  },
);

async function undo(): Promise<void> {
  try {
    await notices.notice?.undo?.();
  } catch (error) {
    notices.fail(error);
  }
}
</script>

<template>
  <div class="frame">
    <a class="skip" href="#page" @click.prevent="focusPage">To the page</a>
    <Index v-if="indexShown" @keys="helpShown = true" @settings="settingsShown = true" />
    <div class="page">
      <p v-if="!live.connected" class="away" role="alert">
        <Shape name="fault" /> {{ live.away?.why ?? 'Night Bell is not answering.' }} What you see may be old;
        nothing you typed is lost. It comes back by itself.
      </p>
      <RingsHere v-if="rings" />
      <main id="page">
        <router-view v-if="pageShown" />
      </main>
      <p class="said" role="status" aria-live="polite">{{ notices.notice?.text ?? '' }}</p>
      <div v-if="notices.notice" class="notice" :class="{ faulty: notices.notice.fault }">
        <Shape :name="notices.notice.fault ? 'fault' : 'done'" />
        <span>{{ notices.notice.text }}</span>
        <button v-if="notices.notice.undo" class="link" type="button" @click="undo">Take back</button>
        <button class="close" type="button" aria-label="Close this line" @click="notices.close">×</button>
      </div>
    </div>
    <div v-if="session.mayRead" class="test-bar"><TestCallBar v-if="barShown" /></div>
    <HelpDialog v-if="helpAsked" v-model="helpShown" />
    <OwnSettings v-if="settingsAsked" v-model="settingsShown" />
  </div>
</template>

<style scoped>
.frame {
  display: grid;
  grid-template: 1fr auto / 176px 1fr;
  height: 100vh;
  overflow: hidden;
}
.page {
  grid-area: 1 / 2;
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
  position: relative;
}
main {
  flex: 1;
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.test-bar {
  grid-column: 1 / -1;
  min-height: 44px;
  background: var(--bar);
}
.away {
  background: var(--wash);
  color: var(--oxide);
  padding: 5px 20px;
  border-bottom: 1px solid var(--rule2);
}
.notice {
  position: absolute;
  left: 20px;
  bottom: 12px;
  display: flex;
  align-items: center;
  gap: 10px;
  background: var(--sheet);
  border: 1px solid var(--rule2);
  padding: 5px 6px 5px 12px;
  max-width: 70%;
  z-index: 5;
}
.notice.faulty {
  border-color: var(--oxide);
}
.close {
  border: 0;
  background: none;
  color: var(--ink2);
  font-size: 16px;
  cursor: pointer;
  width: 24px;
}
.said {
  position: absolute;
  clip-path: inset(50%);
  height: 1px;
  overflow: hidden;
}
.skip {
  position: absolute;
  left: 8px;
  top: -60px;
  z-index: 10;
  padding: 6px 12px;
  background: var(--sheet);
  border: 1px solid var(--rule2);
}
.skip:focus {
  top: 8px;
}
@media (max-width: 1100px) {
  .frame {
    grid-template-columns: 44px 1fr;
  }
}
</style>
