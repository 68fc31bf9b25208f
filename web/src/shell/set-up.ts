import { defineStore } from 'pinia';
import { computed, shallowRef, watch } from 'vue';
import {
  type AgentSettings,
  api,
  ask,
  type Campaign,
  type DestinationChoice,
  type HeldNumber,
  type Person,
  type Queue,
  type Rule,
  type Skill,
  type Source,
  type Team,
  type Trunk,
} from '../api/client.ts';
import type { Place } from '../areas/destinations/words.ts';
import { calmly } from '../kit/calmly.ts';
import { useLive } from './live.ts';
import { useSession } from './session.ts';

const againMs = 1_000;

/** The set-up's lists, read again whenever anybody changed it. */
export const useSetUp = defineStore('set-up', () => {
  const people = shallowRef<Person[] | null>(null);
  const teams = shallowRef<Team[]>([]);
  const skills = shallowRef<Skill[]>([]);
  const agentSettings = shallowRef<AgentSettings | null>(null);
  const queues = shallowRef<Queue[] | null>(null);
  const numbers = shallowRef<HeldNumber[] | null>(null);
  const destinations = shallowRef<DestinationChoice[]>([]);
  const trunks = shallowRef<Trunk[] | null>(null);
  const places = shallowRef<Place[]>([]);
  const rules = shallowRef<Rule[] | null>(null);
  const campaigns = shallowRef<Campaign[] | null>(null);
  const sources = shallowRef<Source[] | null>(null);
  const trunkById = computed(() => new Map((trunks.value ?? []).map((trunk) => [trunk.id, trunk])));
  const ruleById = computed(() => new Map((rules.value ?? []).map((rule) => [rule.id, rule])));
  const campaignById = computed(
    () => new Map((campaigns.value ?? []).map((campaign) => [campaign.id, campaign])),
  );
  const sourceById = computed(() => new Map((sources.value ?? []).map((source) => [source.id, source])));
  const personById = computed(() => new Map((people.value ?? []).map((person) => [person.id, person])));
  const queueById = computed(() => new Map((queues.value ?? []).map((queue) => [queue.id, queue])));
  const numberByDigits = computed(
    () => new Map((numbers.value ?? []).map((number) => [number.e164, number])),
  );

  async function load(): Promise<void> {
    const [
      allPeople,
      allTeams,
      allQueues,
      allNumbers,
      allDestinations,
      allTrunks,
      allCampaigns,
      allSources,
      allSkills,
      settings,
      allRules,
      outside,
      rooms,
      faxBoxes,
    ] = await Promise.all([
      ask(api.GET('/api/people')),
      ask(api.GET('/api/teams')),
      ask(api.GET('/api/queues')),
      ask(api.GET('/api/numbers')),
      ask(api.GET('/api/destinations')),
      ask(api.GET('/api/trunks')),
      ask(api.GET('/api/campaigns')),
      ask(api.GET('/api/sources')),
      ask(api.GET('/api/skills')),
      ask(api.GET('/api/agent-settings')),
      ask(api.GET('/api/dialling-rules')),
      ask(api.GET('/api/outside-numbers')),
      ask(api.GET('/api/rooms')),
      ask(api.GET('/api/fax-boxes')),
    ]);
    people.value = allPeople as Person[];
    teams.value = allTeams;
    queues.value = allQueues as Queue[];
    numbers.value = allNumbers as HeldNumber[];
    destinations.value = allDestinations;
    trunks.value = allTrunks;
    campaigns.value = allCampaigns;
    sources.value = allSources;
    skills.value = allSkills;
    agentSettings.value = settings;
    rules.value = allRules;
    places.value = [
      ...outside.map((each) => ({ kind: 'outside' as const, ...each })),
      ...rooms.map((each) => ({ kind: 'room' as const, ...each })),
      ...faxBoxes.map((each) => ({ kind: 'fax' as const, ...each })),
    ];
  }

  const live = useLive();
  const session = useSession();
  // Somebody who changes a hundred things has every open page read its lists once a second, not a hundred times.
  const again = calmly(() => session.mayRead && void load().catch(() => undefined), againMs);
  watch(() => live.configurationChanges, again);

  /** What a person or a thing is called. */
  function nameOf(id: string): string {
    return (
      personById.value.get(id)?.name ??
      queueById.value.get(id)?.name ??
      trunkById.value.get(id)?.name ??
      ruleById.value.get(id)?.name ??
      campaignById.value.get(id)?.name ??
      sourceById.value.get(id)?.name ??
      numbers.value?.find((number) => number.id === id)?.label ??
      teams.value.find((team) => team.id === id)?.name ??
      places.value.find((place) => place.id === id)?.name ??
      skills.value.find((skill) => skill.id === id)?.name ??
      destinations.value.find((each) => each.id === id)?.name ??
      'deactivated'
    );
  }

  return {
    people,
    teams,
    skills,
    agentSettings,
    queues,
    numbers,
    destinations,
    trunks,
    places,
    rules,
    ruleById,
    campaigns,
    sources,
    trunkById,
    campaignById,
    sourceById,
    personById,
    queueById,
    numberByDigits,
    load,
    nameOf,
  };
});
