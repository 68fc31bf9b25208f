import type { CampaignsContract } from '@night-bell/core/contracts/campaigns';
import type {
  FaxBoxesContract,
  OutsideNumbersContract,
  RoomsContract,
} from '@night-bell/core/contracts/destinations';
import type { DiallingRulesContract } from '@night-bell/core/contracts/dialling-rules';
import type { QueuesContract } from '@night-bell/core/contracts/queues';
import type { SkillsContract } from '@night-bell/core/contracts/skills';
import type { SourcesContract } from '@night-bell/core/contracts/sources';
import type { TrunksContract } from '@night-bell/core/contracts/trunks';
import type { HidingPair } from '@night-bell/core/plan/check';
import { api, ask, type HeldNumber, type Person, type Team, type UsedBy } from './client.ts';
import { itemApi, type ListApi } from './items.ts';
import { readPage } from './pages.ts';

const namedWithExtension = ['person', 'queue', 'room', 'fax', 'voicemail'];

const of = (id: string) => ({ params: { path: { id } } });

export const teamsApi: ListApi<Team> = { kinds: ['team', 'person'], list: () => ask(api.GET('/api/teams')) };
export const skillsApi = itemApi<SkillsContract>('skill', '/api/skills');
export const queuesApi = itemApi<QueuesContract>('queue', '/api/queues');
export const trunksApi = itemApi<TrunksContract>('trunk', '/api/trunks');
export const campaignsApi = itemApi<CampaignsContract>('campaign', '/api/campaigns');
/** A source says which numbers carry it. */
export const sourcesApi = itemApi<SourcesContract>('source', '/api/sources', { with: ['number'] });
/** Rules stand in the order that breaks ties. */
export const rulesApi = itemApi<DiallingRulesContract>('rule', '/api/dialling-rules', { inOrder: true });
export const outsideNumbersApi = itemApi<OutsideNumbersContract>('outside', '/api/outside-numbers');
export const roomsApi = itemApi<RoomsContract>('room', '/api/rooms');
export const faxBoxesApi = itemApi<FaxBoxesContract>('fax', '/api/fax-boxes');

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
