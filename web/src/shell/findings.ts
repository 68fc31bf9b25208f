import { defineStore } from 'pinia';
import { ref, watch } from 'vue';
import { api, ask, type HomeView } from '../api/client.ts';
import { useLive } from './live.ts';
import { useSession } from './session.ts';

type Finding = HomeView['findings'][number];
/** Findings over the whole set-up, read again when the set-up changes or the server says that Home has. */
export const useFindings = defineStore('findings', () => {
  const live = useLive();
  const session = useSession();
  const all = ref<Finding[]>([]);

  async function load(): Promise<void> {
    if (!session.mayRead) return;
    const view = await ask(api.GET('/api/home')).catch(() => null);
    if (view !== null) all.value = view.findings;
  }

  watch([() => live.configurationChanges, () => live.homeChanges], load, { immediate: true });

  /** Those of one item. */
  const of = (itemId: string) => all.value.filter((finding) => finding.itemId === itemId);

  return { all, of, load };
});
