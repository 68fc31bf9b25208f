import { defineStore } from 'pinia';
import { computed, shallowRef, watch } from 'vue';
import {
  api,
  ask,
  type DestinationChoice,
  type HeldNumber,
  type Person,
  type Queue,
  type Team,
} from '../api/client.ts';
import { useLive } from './live.ts';

/** The set-up's lists, read again whenever anybody changed it. */
export const useSetUp = defineStore('set-up', () => {
  const people = shallowRef<Person[] | null>(null);
  const teams = shallowRef<Team[]>([]);
  const queues = shallowRef<Queue[] | null>(null);
  const numbers = shallowRef<HeldNumber[] | null>(null);
  const destinations = shallowRef<DestinationChoice[]>([]);
  const personById = computed(() => new Map((people.value ?? []).map((person) => [person.id, person])));
  const queueById = computed(() => new Map((queues.value ?? []).map((queue) => [queue.id, queue])));
  const numberByDigits = computed(
    () => new Map((numbers.value ?? []).map((number) => [number.e164, number])),
  );

  async function load(): Promise<void> {
    const [allPeople, allTeams, allQueues, allNumbers, allDestinations] = await Promise.all([
      ask(api.GET('/api/people')),
      ask(api.GET('/api/teams')),
      ask(api.GET('/api/queues')),
      ask(api.GET('/api/numbers')),
      ask(api.GET('/api/destinations')),
    ]);
    people.value = allPeople;
    teams.value = allTeams;
    queues.value = allQueues as Queue[];
    numbers.value = allNumbers as HeldNumber[];
    destinations.value = allDestinations;
  }

  const live = useLive();
  watch(
    () => live.configurationChanges,
    () => void load().catch(() => undefined),
  );

  /** What a person or a thing is called. */
  function nameOf(id: string): string {
    return (
      personById.value.get(id)?.name ??
      queueById.value.get(id)?.name ??
      teams.value.find((team) => team.id === id)?.name ??
      destinations.value.find((each) => each.id === id)?.name ??
      'deactivated'
    );
  }

  return {
    people,
    teams,
    queues,
    numbers,
    destinations,
    personById,
    queueById,
    numberByDigits,
    load,
    nameOf,
  };
});
