import Joi from 'joi';
import type { Knex } from 'knex';
import { objectSchema } from '@night-bell/core/contracts/item';
import { numberDraft } from '@night-bell/core/model/numbers.schema';
import { personChange } from '@night-bell/core/model/people.schema';
import { phoneDraft } from '@night-bell/core/model/phones.schema';
import { Problem } from '../../http/problems.ts';
import type { DefinedItem } from '../../spine/define-item.ts';
import type { Author, ItemKind } from '../../spine/items.ts';
import { campaignItem } from '../campaigns/store.ts';
import { changeNumber, getNumber, numberSnapshot } from '../numbers/store.ts';
import { changePerson, getPerson, personSnapshot } from '../people/store.ts';
import { changePhone, getPhone, phoneSnapshot } from '../phones/store.ts';
import { queueItem } from '../queues/store.ts';
import { sourceItem } from '../sources/store.ts';
import { changeTeam, getTeam } from '../teams/store.ts';
import { planItem } from '../plans/store.ts';
import { promptItem } from '../prompts/store.ts';
import { hoursItem } from '../hours/store.ts';
import { voicemailItem } from '../voicemail/store.ts';
import { blockedItem } from '../blocked/store.ts';
import { botItem } from '../bots/store.ts';
import { regionItem } from '../regions/store.ts';
import { codeItem } from '../codes/store.ts';
import { scriptKeyItem } from '../script-keys/store.ts';
import { differences } from './changes.queries.ts';
import { skillItem } from '../skills/store.ts';
import { faxBoxItem } from '../fax-boxes/store.ts';
import { ringGroupItem } from '../ring-groups/store.ts';
import { roomItem } from '../rooms/store.ts';
import { outsideItem } from '../outside/store.ts';
import { ruleItem } from '../rules/store.ts';
import { trunkItem } from '../trunks/store.ts';

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
  item: DefinedItem<string, Draft, View>,
): Partial<Record<ItemKind, Writer>> {
  return {
    [item.kind]: {
      present: async (trx: Knex, id: string) => item.snapshot(await item.get(trx, id)),
      write: (trx: Knex.Transaction, row: ChangeRow, draft: never, author: Author) =>
        item.change(trx, row.item_id, row.version, draft, author, row.id),
      schema: objectSchema(item.contract.draft),
    },
  };
}

/** How each kind of item is read and written when a change is taken back. */
const writers: Partial<Record<ItemKind, Writer>> = {
  person: {
    present: async (trx, id) => personSnapshot(await getPerson(trx, id)),
    write: (trx, row, draft, author) => changePerson(trx, row.item_id, row.version, draft, author, row.id),
    schema: personChange,
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
  ...writerOf(queueItem),
  ...writerOf(trunkItem),
  ...writerOf(ruleItem),
  ...writerOf(outsideItem),
  ...writerOf(roomItem),
  ...writerOf(ringGroupItem),
  ...writerOf(voicemailItem),
  ...writerOf(faxBoxItem),
  ...writerOf(skillItem),
  ...writerOf(sourceItem),
  ...writerOf(promptItem),
  ...writerOf(planItem),
  ...writerOf(blockedItem),
  ...writerOf(codeItem),
  ...writerOf(regionItem),
  ...writerOf(botItem),
  ...writerOf(scriptKeyItem),
  ...writerOf(hoursItem),
  ...writerOf(campaignItem),
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
