import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { api, ask, type FaxBox, type OutsideNumber, type Room } from '../api/client.ts';
import type { ListApi } from '../api/items.ts';
import {
  campaignsApi,
  faxBoxesApi,
  outsideNumbersApi,
  queuesApi,
  roomsApi,
  rulesApi,
  skillsApi,
  sourcesApi,
  teamsApi,
  trunksApi,
} from '../api/lists.ts';
import { useCollection } from './collection.ts';
import { useDirectory } from './directory.ts';
import { useSession } from './session.ts';

/** A place that calls can be sent to and that is neither a person, a queue nor a mailbox. */
export type Place =
  ({ kind: 'outside' } & OutsideNumber) | ({ kind: 'room' } & Room) | ({ kind: 'fax' } & FaxBox);

/** The set-up's short lists, each read when a page first needs it and told of changes from then on. */
export const useSetUp = defineStore('set-up', () => {
  const session = useSession();
  const cache = useQueryClient();

  /** Needed from the first look at it. */
  function whenNeeded() {
    const looked = ref(false);
    const look = () => {
      if (!looked.value) queueMicrotask(() => (looked.value = true));
    };
    return { look, needed: () => looked.value && session.mayRead };
  }

  function lazy<View extends { id: string; name: string }>(listApi: ListApi<View>) {
    const { look, needed } = whenNeeded();
    const { items, byId, put } = useCollection(listApi, needed);
    return {
      all: computed(() => (look(), items.value)),
      byId: computed(() => (look(), byId.value)),
      put,
    };
  }

  const teams = lazy(teamsApi);
  const skills = lazy(skillsApi);
  const queues = lazy(queuesApi);
  const trunks = lazy(trunksApi);
  const campaigns = lazy(campaignsApi);
  const sources = lazy(sourcesApi);
  const rules = lazy(rulesApi);
  const outside = lazy(outsideNumbersApi);
  const rooms = lazy(roomsApi);
  const faxBoxes = lazy(faxBoxesApi);
  const settings = whenNeeded();
  const agentSettings = useQuery({
    queryKey: ['items', 'agentSettings'],
    queryFn: () => ask(api.GET('/api/agent-settings')),
    enabled: settings.needed,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const directory = useDirectory();

  /** What this page shows, read again: after something was done here whose effects are seen in several places. */
  async function load(): Promise<void> {
    await Promise.all(
      ['items', 'one', 'pages', 'count'].map((key) => cache.invalidateQueries({ queryKey: [key] })),
    );
  }

  return {
    teams: computed(() => teams.all.value ?? []),
    skills: computed(() => skills.all.value ?? []),
    agentSettings: computed(() => (settings.look(), agentSettings.data.value ?? null)),
    queues: queues.all,
    queueById: queues.byId,
    trunks: trunks.all,
    trunkById: trunks.byId,
    /** Where calls may go that is nobody's and no queue. */
    places: computed<Place[]>(() => [
      ...(outside.all.value ?? []).map((each) => ({ kind: 'outside' as const, ...each })),
      ...(rooms.all.value ?? []).map((each) => ({ kind: 'room' as const, ...each })),
      ...(faxBoxes.all.value ?? []).map((each) => ({ kind: 'fax' as const, ...each })),
    ]),
    rules: rules.all,
    ruleById: rules.byId,
    campaigns: campaigns.all,
    campaignById: campaigns.byId,
    sources: sources.all,
    sourceById: sources.byId,
    load,
    nameOf: directory.nameOf,
  };
});
