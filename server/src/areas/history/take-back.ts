import Joi from 'joi';
import type { Knex } from 'knex';
import { blocked, type BlockedDraft, type BlockedView } from '@night-bell/core/contracts/blocked';
import { type CodeDraft, codes, type CodeView } from '@night-bell/core/contracts/codes';
import { type ScriptKeyDraft, scriptKeys, type ScriptKeyView } from '@night-bell/core/contracts/script-keys';
import { objectSchema } from '@night-bell/core/contracts/item';
import { type HoursDraft, type HoursView, openingHours } from '@night-bell/core/contracts/opening-hours';
import { type PlanDraft, plans, type PlanView } from '@night-bell/core/contracts/plans';
import {
  type VoicemailBoxDraft,
  voicemailBoxes,
  type VoicemailBoxView,
} from '@night-bell/core/contracts/voicemail-boxes';
import { type PromptDraft, prompts, type PromptView } from '@night-bell/core/contracts/prompts';
import { personChange } from '@night-bell/core/model/people.schema';
import { queueRequest } from '@night-bell/core/model/queues.schema';
import { numberDraft } from '@night-bell/core/model/numbers.schema';
import { campaignDraft } from '@night-bell/core/model/campaigns.schema';
import { sourceDraft } from '@night-bell/core/model/sources.schema';
import { phoneDraft } from '@night-bell/core/model/phones.schema';
import { skillDraft } from '@night-bell/core/model/skills.schema';
import { outsideDraft } from '@night-bell/core/model/outside.schema';
import { faxBoxDraft, type RoomDraft, roomRequest } from '@night-bell/core/model/places.schema';
import { ruleDraft } from '@night-bell/core/model/rules.schema';
import { type TrunkDraft, trunkRequest } from '@night-bell/core/model/trunks.schema';
import { Problem } from '../../http/problems.ts';
import type { ItemStore } from '../../spine/item-store.ts';
import type { Author, ItemKind } from '../../spine/items.ts';
import { campaignSnapshot, changeCampaign, getCampaign } from '../campaigns/store.ts';
import { changeNumber, getNumber, numberSnapshot } from '../numbers/store.ts';
import { changePerson, getPerson, personSnapshot } from '../people/store.ts';
import { changePhone, getPhone, phoneSnapshot } from '../phones/store.ts';
import { changeQueue, getQueue, queueSnapshot } from '../queues/store.ts';
import { changeSource, getSource, sourceSnapshot } from '../sources/store.ts';
import { changeTeam, getTeam } from '../teams/store.ts';
import { planItem } from '../plans/store.ts';
import { promptItem } from '../prompts/store.ts';
import { hoursItem } from '../hours/store.ts';
import { voicemailItem } from '../voicemail/store.ts';
import { blockedItem } from '../blocked/store.ts';
import { codeItem } from '../codes/store.ts';
import { scriptKeyItem } from '../script-keys/store.ts';
import { differences } from './changes.queries.ts';
import { skillStore } from '../skills/store.ts';
import { faxBoxStore } from '../fax-boxes/store.ts';
import { roomStore, type RoomView } from '../rooms/store.ts';
import { outsideStore } from '../outside/store.ts';
import { ruleStore } from '../rules/store.ts';
import { trunkStore, type TrunkView } from '../trunks/store.ts';

interface ChangeRow {
  id: number;
  item_id: string;
  kind: ItemKind;
  version: number;
  what: string;
  before: Record<string, unknown> | null;
  after: Record<string, unknown> | null;
}

interface Writer {
  present: (trx: Knex, id: string) => Promise<object>;
  write: (trx: Knex.Transaction, row: ChangeRow, draft: never, author: Author) => Promise<void>;
  schema: Joi.ObjectSchema;
}

function writerOf<Draft extends object, View extends Draft>(
  store: ItemStore<Draft, View>,
  schema: Joi.ObjectSchema<Draft>,
): Writer {
  return {
    present: async (trx, id) => store.snapshot(await store.get(trx, id)),
    write: (trx, row, draft, author) => store.change(trx, row.item_id, row.version, draft, author, row.id),
    schema,
  };
}

/** How each kind of item is read and written when a change is taken back. */
const writers: Partial<Record<ItemKind, Writer>> = {
  person: {
    present: async (trx, id) => personSnapshot(await getPerson(trx, id)),
    write: (trx, row, draft, author) => changePerson(trx, row.item_id, row.version, draft, author, row.id),
    schema: personChange,
  },
  queue: {
    present: async (trx, id) => queueSnapshot(await getQueue(trx, id)),
    write: (trx, row, draft, author) => changeQueue(trx, row.item_id, row.version, draft, author, row.id),
    schema: queueRequest,
  },
  number: {
    present: async (trx, id) => numberSnapshot(await getNumber(trx, id)),
    write: (trx, row, draft, author) => changeNumber(trx, row.item_id, row.version, draft, author, row.id),
    schema: numberDraft,
  },
  phone: {
    present: async (trx, id) => phoneSnapshot(await getPhone(trx, id)),
    write: (trx, row, draft, author) => changePhone(trx, row.item_id, row.version, draft, author, row.id),
    schema: phoneDraft,
  },
  trunk: writerOf<TrunkDraft, TrunkView>(trunkStore, trunkRequest as Joi.ObjectSchema<TrunkDraft>),
  rule: writerOf(ruleStore, ruleDraft),
  outside: writerOf(outsideStore, outsideDraft),
  room: writerOf<RoomDraft, RoomView>(roomStore, roomRequest as Joi.ObjectSchema<RoomDraft>),
  voicemail: writerOf<VoicemailBoxDraft, VoicemailBoxView>(voicemailItem, objectSchema(voicemailBoxes.draft)),
  fax: writerOf(faxBoxStore, faxBoxDraft),
  skill: writerOf(skillStore, skillDraft),
  prompt: writerOf<PromptDraft, PromptView>(promptItem, objectSchema(prompts.draft)),
  plan: writerOf<PlanDraft, PlanView>(planItem, objectSchema(plans.draft)),
  blocked: writerOf<BlockedDraft, BlockedView>(blockedItem, objectSchema(blocked.draft)),
  code: writerOf<CodeDraft, CodeView>(codeItem, objectSchema(codes.draft)),
  scriptKey: writerOf<ScriptKeyDraft, ScriptKeyView>(scriptKeyItem, objectSchema(scriptKeys.draft)),
  hours: writerOf<HoursDraft, HoursView>(hoursItem, objectSchema(openingHours.draft)),
  campaign: {
    present: async (trx, id) => campaignSnapshot(await getCampaign(trx, id)),
    write: (trx, row, draft, author) => changeCampaign(trx, row.item_id, row.version, draft, author, row.id),
    schema: campaignDraft,
  },
  source: {
    present: async (trx, id) => sourceSnapshot(await getSource(trx, id)),
    write: (trx, row, draft, author) => changeSource(trx, row.item_id, row.version, draft, author, row.id),
    schema: sourceDraft,
  },
  team: {
    present: async (trx, id) => {
      const { name, emergencyAddress } = await getTeam(trx, id);
      return { name, emergencyAddress };
    },
    write: (trx, row, draft, author) => changeTeam(trx, row.item_id, row.version, draft, author, row.id),
    schema: Joi.object({ name: Joi.string(), emergencyAddress: Joi.object().unknown(true).allow(null) }),
  },
};

/** Puts the fields of one change back to what they were, as a change of its own. */
export async function takeBack(trx: Knex.Transaction, id: number, author: Author): Promise<void> {
  const row = await trx('change as c')
    .join('item as i', 'i.id', 'c.item_id')
    .where('c.id', id)
    .first<ChangeRow | undefined>('c.*', 'i.kind', 'i.version');
  if (row === undefined) throw new Problem('notFound', 'There is no such change.');
  const writer = writers[row.kind];
  if (row.what !== 'changed' || row.before === null || row.after === null || writer === undefined) {
    throw new Problem(
      'notNow',
      'Only changes of fields can be taken back. Deactivate or reactivate instead.',
    );
  }
  const present = (await writer.present(trx, row.item_id)) as Record<string, unknown>;
  const fields = differences(row.before, row.after);
  const moved = fields.find(({ field, after }) => JSON.stringify(present[field]) !== JSON.stringify(after));
  if (moved !== undefined) {
    throw new Problem(
      'notNow',
      `${moved.field} was changed again since. Take the later change back first, or edit it.`,
    );
  }
  const draft = { ...present, ...Object.fromEntries(fields.map(({ field, before }) => [field, before])) };
  const { error, value } = writer.schema.validate(draft);
  if (error !== undefined) throw new Problem('notNow', `The old values no longer fit: ${error.message}`);
  await writer.write(trx, row, value as never, author);
}
