import { blockedItem } from '../areas/blocked/store.ts';
import { savedCalls } from '../areas/calls/saved.ts';
import { savedContacts } from '../areas/campaigns/saved.ts';
import { campaignItem } from '../areas/campaigns/store.ts';
import { codeItem } from '../areas/codes/store.ts';
import { faxBoxItem } from '../areas/fax-boxes/store.ts';
import { savedChanges } from '../areas/history/saved.ts';
import { hoursItem } from '../areas/hours/store.ts';
import { savedNumbers } from '../areas/numbers/saved.ts';
import { savedOptOuts } from '../areas/opt-outs/saved.ts';
import { outsideItem } from '../areas/outside/store.ts';
import { savedPeople } from '../areas/people/saved.ts';
import { planItem } from '../areas/plans/store.ts';
import { promptItem } from '../areas/prompts/store.ts';
import { listQueues } from '../areas/queues/store.ts';
import { savedRecords } from '../areas/records/saved.ts';
import { botItem } from '../areas/bots/store.ts';
import { regionItem } from '../areas/regions/store.ts';
import { ringGroupItem } from '../areas/ring-groups/store.ts';
import { roomItem } from '../areas/rooms/store.ts';
import { ruleItem } from '../areas/rules/store.ts';
import { scriptKeyItem } from '../areas/script-keys/store.ts';
import { skillItem } from '../areas/skills/store.ts';
import { sourceItem } from '../areas/sources/store.ts';
import { listTeams } from '../areas/teams/store.ts';
import { trunkItem } from '../areas/trunks/store.ts';
import { voicemailItem } from '../areas/voicemail/store.ts';
import { listPlaces } from './places.ts';
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
  campaigns: plainList('Campaigns', 'campaigns', campaignItem.list),
  sources: plainList('Sources', 'sources', sourceItem.list),
  trunks: plainList('Trunks', 'trunks', trunkItem.list),
  rules: plainList('Dialling rules', 'dialling rules', ruleItem.list),
  teams: plainList('Teams', 'teams', listTeams),
  skills: plainList('Skills', 'skills', skillItem.list),
  outsideNumbers: plainList('Outside numbers', 'outside numbers', outsideItem.list),
  ringGroups: plainList(ringGroupItem.contract.area, 'ring groups', ringGroupItem.list),
  rooms: plainList('Conference rooms', 'conference rooms', roomItem.list),
  faxBoxes: plainList('Fax boxes', 'fax boxes', faxBoxItem.list),
  destinations: plainList('Destinations', 'destinations', listPlaces),
  voicemailBoxes: plainList(voicemailItem.contract.area, 'voicemail boxes', voicemailItem.list),
  plans: plainList(planItem.contract.area, 'answering plans', planItem.list),
  hours: plainList(hoursItem.contract.area, 'opening hours', hoursItem.list),
  prompts: plainList(promptItem.contract.area, 'prompts', promptItem.list),
  blocked: plainList(blockedItem.contract.area, 'blocked callers', blockedItem.list),
  bots: plainList(botItem.contract.area, 'bots', botItem.list),
  regions: plainList(regionItem.contract.area, 'region tables', regionItem.list),
  codes: plainList(codeItem.contract.area, 'service codes', codeItem.list),
  scriptKeys: plainList(scriptKeyItem.contract.area, 'API keys', scriptKeyItem.list),
} as const satisfies Record<string, SavedList>;

export type ListName = keyof typeof savedLists;
export const listNames = Object.keys(savedLists) as ListName[];
