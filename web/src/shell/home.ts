import { defineStore } from 'pinia';
import { computed, ref, shallowRef, watch } from 'vue';
import { api, ApiProblem, ask, type HomeView } from '../api/client.ts';
import { useLive } from './live.ts';
import { useSession } from './session.ts';

/** How much of an area is open. */
export interface OpenFindings {
  count: number;
  fault: boolean;
}

/** What the trail knows of the whole set-up, read again when the set-up changes or the server says that it has. */
export const useHome = defineStore('home', () => {
  const live = useLive();
  const session = useSession();
  const view = shallowRef<HomeView | null>(null);
  /** Why it could not be read. */
  const problem = ref('');
  const readAt = ref(0);

  async function load(): Promise<void> {
    if (!session.mayRead) {
      view.value = null;
      return;
    }
    try {
      view.value = await ask(api.GET('/api/home'));
      readAt.value = live.now;
      problem.value = '';
    } catch (error) {
      problem.value = error instanceof ApiProblem ? error.detail : 'The trail cannot be read.';
    }
  }

  watch([() => live.configurationChanges, () => live.homeChanges, () => session.role], load, {
    immediate: true,
  });

  const open = computed(() => {
    const byArea = new Map<string, OpenFindings>();
    for (const { area, severity } of view.value?.findings ?? []) {
      const { count, fault } = byArea.get(area) ?? { count: 0, fault: false };
      byArea.set(area, { count: count + 1, fault: fault || severity === 'fault' });
    }
    return byArea;
  });

  return { view, problem, readAt, open, load };
});
