import type { Knex } from 'knex';
import type { RuleDraft } from '@night-bell/core/model/rules.schema';
import { itemStore } from '../../spine/item-store.ts';
import { announceChange, checkInUse, insertAll } from '../../spine/items.ts';
import { Problem } from '../../http/problems.ts';

export interface RuleView extends RuleDraft {
  id: string;
  version: number;
  retired: boolean;
}

/** In list order. */
export function listRules(database: Knex, id?: string): Promise<RuleView[]> {
  return database('dialling_rule as r')
    .join('item as i', 'i.id', 'r.id')
    .modify((query) => {
      if (id !== undefined) void query.where('r.id', id);
    })
    .orderBy([{ column: 'r.position' }, { column: 'r.id' }])
    .select<RuleView[]>(
      'r.id',
      'i.version',
      database.raw('i.retired_at is not null as retired'),
      'i.name',
      'r.pattern',
      'r.strip',
      'r.prepend',
      'r.use',
      database.raw(
        `coalesce((select array_agg(t.trunk_id::text order by t.position) from rule_trunk t where t.rule_id = r.id), '{}')
          as "trunkIds"`,
      ),
      database.raw(
        `coalesce((select array_agg(t.team_id::text order by t.team_id) from rule_team t where t.rule_id = r.id), '{}')
          as "teamIds"`,
      ),
    );
}

export const ruleStore = itemStore<RuleDraft, RuleView>({
  kind: 'rule',
  word: 'dialling rule',
  list: listRules,
  snapshot: ({ name, pattern, strip, prepend, trunkIds, use, teamIds }) => ({
    ...{ name, pattern, strip, prepend, trunkIds, use, teamIds },
  }),
  references: ({ trunkIds, teamIds }) => [
    ...trunkIds.map((to) => ({ to, how: 'dials over' })),
    ...teamIds.map((to) => ({ to, how: 'may use' })),
  ],
  check: async (trx, draft) => {
    for (const [index, trunkId] of draft.trunkIds.entries())
      await checkInUse(trx, trunkId, 'trunk', `/trunkIds/${index}`);
    for (const [index, teamId] of draft.teamIds.entries())
      await checkInUse(trx, teamId, 'team', `/teamIds/${index}`);
  },
  insert: async (trx, id, draft) => {
    const last = await trx('dialling_rule').max<{ max: number | null }[]>('position as max');
    await trx('dialling_rule').insert({ id, position: (last[0]?.max ?? 0) + 1, ...columnsOf(draft) });
    await writeParts(trx, id, draft);
  },
  update: async (trx, id, draft) => {
    await trx('dialling_rule').where({ id }).update(columnsOf(draft));
    await writeParts(trx, id, draft);
  },
});

/** Order breaks ties between rules that are equally specific. */
export async function orderRules(trx: Knex.Transaction, ids: string[]): Promise<void> {
  const known = (await listRules(trx)).map((rule) => rule.id);
  if ([...known].sort().join() !== [...ids].sort().join())
    throw Problem.field('/ids', 'The rules have changed meanwhile. Look again.', 'notNow');
  await trx.raw(
    `update dialling_rule set position = given.position
     from json_to_recordset(?) as given (id uuid, position int) where dialling_rule.id = given.id`,
    [JSON.stringify(ids.map((id, position) => ({ id, position })))],
  );
  await announceChange(trx);
}

function columnsOf({ pattern, strip, prepend, use }: RuleDraft) {
  return { pattern, strip, prepend, use };
}

async function writeParts(trx: Knex.Transaction, id: string, draft: RuleDraft): Promise<void> {
  await trx('rule_trunk').where({ rule_id: id }).delete();
  await trx('rule_team').where({ rule_id: id }).delete();
  await insertAll(
    trx,
    'rule_trunk',
    draft.trunkIds.map((trunk_id, position) => ({ rule_id: id, position, trunk_id })),
  );
  await insertAll(
    trx,
    'rule_team',
    draft.teamIds.map((team_id) => ({ rule_id: id, team_id })),
  );
}
