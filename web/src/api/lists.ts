import type { HidingPair } from '@night-bell/core/plan/check';
import type { Place } from '../areas/destinations/words.ts';
import {
  api,
  ask,
  type Campaign,
  type HeldNumber,
  type Person,
  type Queue,
  type Rule,
  type Skill,
  type Source,
  type Team,
  type Trunk,
  type UsedBy,
} from './client.ts';
import { readPage } from './pages.ts';

/** How the items of a kind that fit on one page are read. */
export interface ListApi<View> {
  /** As the server tells of changes; what shows several kinds names all. */
  kinds: readonly string[];
  list: () => Promise<View[]>;
  /** One of them, where the list's order is by name; else a change has the list read anew. */
  read?: (id: string) => Promise<{ item: View }>;
}

const namedWithExtension = ['person', 'queue', 'room', 'fax', 'voicemail'];

const of = (id: string) => ({ params: { path: { id } } });

export const teamsApi: ListApi<Team> = { kinds: ['team', 'person'], list: () => ask(api.GET('/api/teams')) };
export const skillsApi: ListApi<Skill> = { kinds: ['skill'], list: () => ask(api.GET('/api/skills')) };
export const queuesApi: ListApi<Queue> = {
  kinds: ['queue'],
  list: async () => (await ask(api.GET('/api/queues'))) as Queue[],
  read: async (id) => ({ item: (await ask(api.GET('/api/queues/{id}', of(id)))).item as Queue }),
};
export const trunksApi: ListApi<Trunk> = {
  kinds: ['trunk'],
  list: () => ask(api.GET('/api/trunks')),
  read: (id) => ask(api.GET('/api/trunks/{id}', of(id))),
};
export const campaignsApi: ListApi<Campaign> = {
  kinds: ['campaign'],
  list: () => ask(api.GET('/api/campaigns')),
};
export const sourcesApi: ListApi<Source> = {
  kinds: ['source', 'number'],
  list: () => ask(api.GET('/api/sources')),
};
export const rulesApi: ListApi<Rule> = {
  kinds: ['rule'],
  list: () => ask(api.GET('/api/dialling-rules')),
};
/** Outside numbers, conference rooms and fax boxes: where calls may go that is nobody's and no queue. */
export const placesApi: ListApi<Place> = {
  kinds: ['outside', 'room', 'fax'],
  list: async () => {
    const [outside, rooms, faxBoxes] = await Promise.all([
      ask(api.GET('/api/outside-numbers')),
      ask(api.GET('/api/rooms')),
      ask(api.GET('/api/fax-boxes')),
    ]);
    return [
      ...outside.map((each) => ({ kind: 'outside' as const, ...each })),
      ...rooms.map((each) => ({ kind: 'room' as const, ...each })),
      ...faxBoxes.map((each) => ({ kind: 'fax' as const, ...each })),
    ];
  },
};

/** Extensions of which the shorter begins the longer, as the check of plans asks. */
export const hidingApi: ListApi<HidingPair & { id: string; name: string }> = {
  kinds: namedWithExtension,
  list: async () => {
    const pairs = await ask(api.GET('/api/hiding-extensions'));
    return pairs.map((pair) => ({ ...pair, id: pair.shorter + pair.longer, name: pair.shorter }));
  },
};

/** The first number that leads somewhere, by its digits. */
export const firstRoutedApi: ListApi<{ id: string; name: string; e164: string }> = {
  kinds: ['number'],
  list: async () => {
    const asked = { only: 'routed', sort: 'number', limit: '1' };
    const { rows } = await readPage<HeldNumber>('/api/numbers', asked);
    return rows.map(({ id, label, e164 }) => ({ id, name: label, e164 }));
  },
};

/** One item with what uses it, of kinds whose lists are paged. */
export const readPerson = async (id: string): Promise<{ item: Person; usedBy: UsedBy[] }> => {
  const { person, usedBy } = await ask(api.GET('/api/people/{id}', of(id)));
  return { item: person as Person, usedBy };
};
export const readNumber = async (id: string): Promise<{ item: HeldNumber; usedBy: UsedBy[] }> => {
  const { number, usedBy } = await ask(api.GET('/api/numbers/{id}', of(id)));
  return { item: number as HeldNumber, usedBy };
};
