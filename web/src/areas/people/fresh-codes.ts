import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';
import type { NewPerson } from '../../api/client.ts';

/** What is handed to somebody who was just made, or let in again. */
export type FreshCode = Pick<
  NewPerson,
  'id' | 'name' | 'login' | 'extension' | 'signInCode' | 'phone' | 'sentTo'
>;

/** Codes that are shown once: kept, wherever one goes meanwhile, until somebody has them and hides them. */
export const useFreshCodes = defineStore('fresh-codes', () => {
  const people = shallowRef<readonly FreshCode[]>([]);
  const byId = computed(() => new Map(people.value.map((person) => [person.id, person])));

  /** Another code of somebody takes the place of theirs before; what it does not tell of their phone stays. */
  function keep(fresh: readonly FreshCode[]): void {
    const ids = new Set(fresh.map(({ id }) => id));
    const merged = fresh.map((each) => ({
      ...each,
      phone: each.phone ?? byId.value.get(each.id)?.phone ?? null,
    }));
    people.value = [...people.value.filter(({ id }) => !ids.has(id)), ...merged];
  }
  function hide(id: string): void {
    people.value = people.value.filter((each) => each.id !== id);
  }
  const hideAll = () => (people.value = []);

  return { people, byId, keep, hide, hideAll };
});
