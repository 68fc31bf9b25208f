import { ref } from 'vue';
import { ApiProblem } from '../api/client.ts';

/** What became of doing the same to several things. */
export interface Done<Item> {
  done: Item[];
  /** Those it could not be done to, with the reason. */
  refused: { item: Item; why: string }[];
}

/** The same done to one thing after the other: how far it is can be seen, and it can be stopped between two. */
export function useBulk<Item>() {
  const soFar = ref<{ done: number; all: number } | null>(null);
  let stopping = false;

  async function run(items: readonly Item[], work: (item: Item) => Promise<Item>): Promise<Done<Item>> {
    const result: Done<Item> = { done: [], refused: [] };
    stopping = false;
    soFar.value = { done: 0, all: items.length };
    try {
      for (const item of items) {
        if (stopping) break;
        try {
          result.done.push(await work(item));
        } catch (error) {
          // Without a server none of the others would fare better.
          if (!(error instanceof ApiProblem) || error.code === 'away') throw error;
          result.refused.push({ item, why: error.detail });
        }
        soFar.value = { done: soFar.value.done + 1, all: items.length };
      }
      return result;
    } finally {
      soFar.value = null;
    }
  }

  return { soFar, run, stop: () => void (stopping = true) };
}
