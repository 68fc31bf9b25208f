import type { Knex } from 'knex';
import { type CodeDraft, codes, type CodeView } from '@night-bell/core/contracts/codes';
import { DialPlan } from '@night-bell/core/dialling/rules';
import type { ServiceCodeItem } from '@night-bell/core/model/configuration';
import { pinHash } from '@night-bell/core/plan/steps/room';
import { Problem } from '../../http/problems.ts';
import { defineItem } from '../../spine/define-item.ts';
import { announceChange, type Author, checkInUse, recordChange, tellPages } from '../../spine/items.ts';
import { ruleItem } from '../rules/store.ts';

interface Row extends Omit<CodeView, 'insteadOf'> {
  pinHash: string | null;
  pinLength: number;
}

const definition = defineItem<typeof codes.path, CodeDraft, CodeView, Row>({
  kind: 'code',
  contract: codes,
  word: 'service code',
  table: 'service_code',
  columns: {
    digits: { column: 'digits' },
    does: { column: 'does' },
    hoursIds: { column: 'hours_ids', json: true },
    forHours: { column: 'for_hours' },
    teamIds: { column: 'team_ids', json: true },
    groupIds: { column: 'group_ids', json: true },
  },
  more: { hasPin: 't.pin_hash is not null' },
  view: (row) => ({ ...row, insteadOf: null }),
  references: ({ hoursIds, teamIds, groupIds }) => [
    ...hoursIds.map((to) => ({ to, how: 'closed by code' })),
    ...teamIds.map((to) => ({ to, how: 'may use' })),
    ...groupIds.map((to) => ({ to, how: 'left by code' })),
  ],
  check: async (trx, { digits, does, hoursIds, teamIds, groupIds }, current) => {
    for (const id of hoursIds) await checkInUse(trx, id, 'hours', '/hoursIds');
    for (const id of teamIds) await checkInUse(trx, id, 'team', '/teamIds');
    for (const id of groupIds) await checkInUse(trx, id, 'ringGroup', '/groupIds');
    if (does === 'storm' && hoursIds.length === 0) throw Problem.field('/hoursIds', 'Choose what it closes.');
    // A phone sends what was dialled once it fits: no code may be the beginning of another, or of an extension.
    const others = await trx('service_code as c')
      .join('item as i', 'i.id', 'c.id')
      .whereNull('i.retired_at')
      .modify((query) => {
        if (current !== null) void query.whereNot('c.id', current.id);
      })
      .select<{ digits: string; name: string }[]>('c.digits', 'i.name');
    const extensions = await trx('extension as e')
      .join('item as i', 'i.id', 'e.item_id')
      .whereLike('e.digits', '*%')
      .select<{ digits: string; name: string }[]>('e.digits', 'i.name');
    const other = [...others, ...extensions].find(
      (each) => each.digits.startsWith(digits) || digits.startsWith(each.digits),
    );
    if (other !== undefined)
      throw Problem.field('/digits', `${other.digits} is ${other.name}; one begins like the other.`, 'taken');
  },
});

/** With the dialling rule each of them comes before. */
async function list(database: Knex, ids?: readonly string[]): Promise<CodeView[]> {
  const plan = new DialPlan((await ruleItem.list(database)).filter((rule) => !rule.retired));
  return (await definition.list(database, ids)).map((code) => {
    const decision = plan.decide(code.digits, { kind: 'person', teamId: null });
    return { ...code, insteadOf: decision.kind === 'rule' ? decision.rule.name : null };
  });
}

export const codeItem = { ...definition, list };

/** As the exchange reads them. */
export async function compiledCodes(database: Knex): Promise<ServiceCodeItem[]> {
  const items = (await definition.list(database)).filter(({ retired }) => !retired);
  const pins = new Map(
    (
      await database('service_code').select<{ id: string; pin_hash: string | null; pin_length: number }[]>()
    ).map((row) => [row.id, row]),
  );
  return items.map(({ id, name, digits, does, hoursIds, forHours, teamIds, groupIds }) => ({
    ...{ id, name, digits, does, hoursIds, forHours, teamIds, groupIds },
    ...{ pinHash: pins.get(id)?.pin_hash ?? null, pinLength: pins.get(id)?.pin_length ?? 0 },
  }));
}

export async function setCodePin(
  trx: Knex.Transaction,
  id: string,
  pin: string,
  author: Author,
): Promise<void> {
  await trx('service_code')
    .where({ id })
    .update({ pin_hash: pinHash(id, pin), pin_length: pin.length });
  await recordChange(trx, { item_id: id, what: 'pinSet', before: null, after: null }, author);
  await tellPages(trx, 'code', id);
  await announceChange(trx);
}
