import { blockedItem } from '../areas/blocked/store.ts';
import { savedCalls } from '../areas/calls/saved.ts';
import { savedContacts } from '../areas/campaigns/saved.ts';
import { listCampaigns } from '../areas/campaigns/store.ts';
import { codeItem } from '../areas/codes/store.ts';
import { faxBoxStore } from '../areas/fax-boxes/store.ts';
import { savedChanges } from '../areas/history/saved.ts';
import { hoursItem } from '../areas/hours/store.ts';
import { savedNumbers } from '../areas/numbers/saved.ts';
import { savedOptOuts } from '../areas/opt-outs/saved.ts';
import { outsideStore } from '../areas/outside/store.ts';
import { savedPeople } from '../areas/people/saved.ts';
import { planItem } from '../areas/plans/store.ts';
import { promptItem } from '../areas/prompts/store.ts';
import { listQueues } from '../areas/queues/store.ts';
import { savedRecords } from '../areas/records/saved.ts';
import { roomStore } from '../areas/rooms/store.ts';
import { ruleStore } from '../areas/rules/store.ts';
import { scriptKeyItem } from '../areas/script-keys/store.ts';
import { skillStore } from '../areas/skills/store.ts';
import { listSources } from '../areas/sources/store.ts';
import { listTeams } from '../areas/teams/store.ts';
import { trunkStore } from '../areas/trunks/store.ts';
import { voicemailItem } from '../areas/voicemail/store.ts';
import { plainList } from './plain.ts';
import type { SavedList } from './saved-list.ts';

/** Every list that can be saved as a file. */
export const savedLists = {
  people: savedPeople,
  numbers: savedNumbers,
  calls: savedCalls,
  contacts: savedContacts,
  records: savedRecords,
  optOuts: savedOptOuts,
  changes: savedChanges,
  queues: plainList('queues', listQueues),
  campaigns: plainList('campaigns', listCampaigns),
  sources: plainList('sources', listSources),
  trunks: plainList('trunks', trunkStore.list),
  rules: plainList('dialling rules', ruleStore.list),
  teams: plainList('teams', listTeams),
  skills: plainList('skills', skillStore.list),
  outsideNumbers: plainList('outside numbers', outsideStore.list),
  rooms: plainList('conference rooms', roomStore.list),
  faxBoxes: plainList('fax boxes', faxBoxStore.list),
  voicemailBoxes: plainList('voicemail boxes', voicemailItem.list),
  plans: plainList('answering plans', planItem.list),
  hours: plainList('opening hours', hoursItem.list),
  prompts: plainList('prompts', promptItem.list),
  blocked: plainList('blocked callers', blockedItem.list),
  codes: plainList('service codes', codeItem.list),
  scriptKeys: plainList('API keys', scriptKeyItem.list),
} as const satisfies Record<string, SavedList>;

export type ListName = keyof typeof savedLists;
export const listNames = Object.keys(savedLists) as ListName[];
