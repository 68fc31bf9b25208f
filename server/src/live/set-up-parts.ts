import type { Knex } from 'knex';
import { compiledBots } from '../areas/bots/store.ts';
import { compiledBlocked } from '../areas/blocked/store.ts';
import { campaignItem } from '../areas/campaigns/store.ts';
import { compiledCodes } from '../areas/codes/store.ts';
import { faxBoxItem } from '../areas/fax-boxes/store.ts';
import { hoursItem } from '../areas/hours/store.ts';
import { listNumbers } from '../areas/numbers/store.ts';
import { outsideItem } from '../areas/outside/store.ts';
import { compiledPeople, compiledPhones } from '../areas/people/compiled.ts';
import { planItem } from '../areas/plans/store.ts';
import { promptItem } from '../areas/prompts/store.ts';
import { listQueues } from '../areas/queues/store.ts';
import { compiledRegions } from '../areas/regions/store.ts';
import { compiledGroups } from '../areas/ring-groups/store.ts';
import { roomItem, roomPins } from '../areas/rooms/store.ts';
import { ruleItem } from '../areas/rules/store.ts';
import { installation } from '../areas/session/store.ts';
import { skillItem } from '../areas/skills/store.ts';
import { trunkItem } from '../areas/trunks/store.ts';
import { compiledBoxes } from '../areas/voicemail/store.ts';
import type { DefinedItem } from '../spine/define-item.ts';
import type { ItemKind } from '../spine/items.ts';
import type { TableName } from '../database/table-types.ts';

/** A table, or the items or extensions of a kind. */
type Source = TableName | `item ${ItemKind}` | `extension ${ItemKind}`;

/** A part of the set-up: what it is read from, and how. A change anywhere else leaves it as it was. */
export interface Part<T> {
  from: readonly Source[];
  read: (database: Knex) => Promise<T>;
}

/** What lists show beside it is not looked after: nothing of that goes to the exchange. */
const part = <T>(from: readonly Source[], read: (database: Knex) => Promise<T>): Part<T> => ({ from, read });

/** Those in use of a plain area, from its own table. */
function inUse<View extends { retired: boolean }>(
  item: Pick<DefinedItem<string, never, View>, 'kind' | 'list'>,
  from: readonly Source[],
): Part<View[]> {
  return part([`item ${item.kind}`, ...from], async (database) =>
    (await item.list(database)).filter(({ retired }) => !retired),
  );
}

export const setUpParts = {
  installation: part(['installation'], installation),
  people: part(
    ['item person', 'person', 'person_skill', 'extension person', 'voicemail_box', 'item skill'],
    compiledPeople,
  ),
  phones: part(
    ['item phone', 'phone', 'item person', 'person', 'extension person', 'team', 'item number', 'number'],
    compiledPhones,
  ),
  queues: part(
    ['item queue', 'queue', 'queue_member', 'queue_skill', 'extension queue', 'voicemail_box'],
    async (database) => (await listQueues(database)).filter(({ retired }) => !retired),
  ),
  numbers: part(['item number', 'number', 'item source'], (database) => listNumbers(database)),
  skills: part(['item skill'], (database) => skillItem.list(database)),
  trunks: inUse(trunkItem, ['trunk', 'number', 'item number']),
  outside: inUse(outsideItem, ['outside_number', 'extension outside']),
  rooms: inUse(roomItem, ['room', 'extension room']),
  ringGroups: part(
    ['item ringGroup', 'ring_group', 'ring_group_target', 'extension ringGroup', 'voicemail_box'],
    compiledGroups,
  ),
  pins: part(['item room', 'room'], roomPins),
  faxBoxes: inUse(faxBoxItem, ['fax_box', 'extension fax']),
  hours: inUse(hoursItem, ['opening_hours']),
  prompts: inUse(promptItem, ['prompt', 'sound']),
  regions: part(['item region', 'region_table', 'region_row'], compiledRegions),
  bots: part(['item bot', 'bot'], compiledBots),
  plans: inUse(planItem, ['plan', 'plan_version']),
  rules: inUse(ruleItem, ['dialling_rule', 'rule_trunk', 'rule_team']),
  campaigns: inUse(campaignItem, ['campaign', 'number', 'item number']),
  boxes: part(
    ['item voicemail', 'voicemail_box', 'item person', 'item queue', 'item ringGroup', 'extension voicemail'],
    compiledBoxes,
  ),
  blocked: part(['item blocked', 'blocked'], compiledBlocked),
  codes: part(['item code', 'service_code'], compiledCodes),
} as const satisfies Record<string, Part<unknown>>;

export type PartName = keyof typeof setUpParts;
export type PartsRead = { [Name in PartName]: Awaited<ReturnType<(typeof setUpParts)[Name]['read']>> };
export const partNames = Object.keys(setUpParts) as PartName[];
