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
  queues: plainList('Queues', 'queues', listQueues),
  campaigns: plainList('Campaigns', 'campaigns', listCampaigns),
  sources: plainList('Sources', 'sources', listSources),
  trunks: plainList('Trunks', 'trunks', trunkStore.list),
  rules: plainList('Dialling rules', 'dialling rules', ruleStore.list),
  teams: plainList('Teams', 'teams', listTeams),
  skills: plainList('Skills', 'skills', skillStore.list),
  outsideNumbers: plainList('Outside numbers', 'outside numbers', outsideStore.list),
  rooms: plainList('Conference rooms', 'conference rooms', roomStore.list),
  faxBoxes: plainList('Fax boxes', 'fax boxes', faxBoxStore.list),
  voicemailBoxes: plainList(voicemailItem.contract.area, 'voicemail boxes', voicemailItem.list),
  plans: plainList(planItem.contract.area, 'answering plans', planItem.list),
  hours: plainList(hoursItem.contract.area, 'opening hours', hoursItem.list),
  prompts: plainList(promptItem.contract.area, 'prompts', promptItem.list),
  blocked: plainList(blockedItem.contract.area, 'blocked callers', blockedItem.list),
  codes: plainList(codeItem.contract.area, 'service codes', codeItem.list),
  scriptKeys: plainList(scriptKeyItem.contract.area, 'API keys', scriptKeyItem.list),
} as const satisfies Record<string, SavedList>;

export type ListName = keyof typeof savedLists;
export const listNames = Object.keys(savedLists) as ListName[];
