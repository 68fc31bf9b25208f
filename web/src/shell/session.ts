import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { houseLocale, locale } from '../kit/locale.ts';
import { api, ask, type SessionView, setToken } from '../api/client.ts';

/** Who is signed in here, and what of. */
export const useSession = defineStore('session', () => {
  const view = ref<SessionView | null>(null);
  const role = computed(() => view.value?.person?.role ?? null);
  const mayEdit = computed(() => role.value === 'administrator');
  const mayOperate = computed(() => role.value === 'administrator' || role.value === 'supervisor');
  const mayRead = computed(() => role.value !== null && role.value !== 'agent');
  /** The company's: days are counted by it. */
  const timeZone = computed(() => view.value?.installation.timeZone ?? 'UTC');
  /** Whose clock instants are shown by. */
  const readerZone = computed(() => view.value?.reading.timeZone ?? timeZone.value);

  function take(answer: SessionView): void {
    view.value = answer;
    locale.value = answer.reading.locale ?? answer.installation.locale ?? houseLocale;
  }

  async function load(): Promise<void> {
    const answer = await ask(api.GET('/api/session'));
    setToken(answer.token);
    take(answer);
  }

  async function signOut(): Promise<void> {
    await ask(api.DELETE('/api/session'));
    await load();
  }

  return { view, role, mayEdit, mayOperate, mayRead, timeZone, readerZone, take, load, signOut };
});
