import { defineStore } from 'pinia';
import { ref } from 'vue';
import { api, ApiProblem, ask } from '../api/client.ts';

export interface Notice {
  text: string;
  fault: boolean;
  undo: (() => Promise<void>) | null;
}

const shownMs = 8_000;

/** The one line that says what was just done, with the way back. */
export const useNotices = defineStore('notices', () => {
  const notice = ref<Notice | null>(null);
  let timer: ReturnType<typeof setTimeout> | null = null;

  function say(text: string, undo: Notice['undo'] = null): void {
    show({ text, fault: false, undo });
  }

  function warn(text: string): void {
    show({ text, fault: true, undo: null });
  }

  function fail(error: unknown): void {
    warn(error instanceof ApiProblem ? error.detail : 'Something went wrong on this page. Reload it.');
  }

  /** After a change of an item: the notice can take its last change back. */
  async function saved(text: string, itemId: string): Promise<void> {
    const [last] = await ask(api.GET('/api/items/{id}/history', { params: { path: { id: itemId } } }));
    if (last === undefined || !last.canBeTakenBack) return say(text);
    say(text, async () => {
      await ask(api.POST('/api/changes/{id}/take-back', { params: { path: { id: last.id } } }));
      say('Taken back.');
    });
  }

  function show(next: Notice): void {
    if (timer !== null) clearTimeout(timer);
    notice.value = next;
    timer = setTimeout(() => (notice.value = null), next.fault ? shownMs * 2 : shownMs);
  }

  function close(): void {
    notice.value = null;
  }

  return { notice, say, warn, fail, saved, close };
});
