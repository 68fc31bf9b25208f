import type { Knex } from 'knex';
import { diallingRules, type RuleDraft, type RuleView } from '@night-bell/core/contracts/dialling-rules';
import { Problem } from '../../http/problems.ts';
import { defineItem } from '../../spine/define-item.ts';
import { announceChange, checkInUse, insertAll } from '../../spine/items.ts';

export const ruleItem = defineItem<typeof diallingRules.path, RuleDraft, RuleView>({
  kind: 'rule',
  contract: diallingRules,
  word: 'dialling rule',
  table: 'dialling_rule',
  columns: { pattern: 'pattern', strip: 'strip', prepend: 'prepend', use: 'use' },
  order: 't.position',
  more: {
    trunkIds: `coalesce((select array_agg(p.trunk_id::text order by p.position) from rule_trunk p where p.rule_id = t.id), '{}')`,
    teamIds: `coalesce((select array_agg(p.team_id::text order by p.team_id) from rule_team p where p.rule_id = t.id), '{}')`,
  },
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
  begins: async (trx) => {
    const last = await trx('dialling_rule').max<{ max: number | null }[]>('position as max');
    return { position: (last[0]?.max ?? 0) + 1 };
  },
  parts: { fields: ['trunkIds', 'teamIds'], write: writeParts },
});

/** Order breaks ties between rules that are equally specific. */
export async function orderRules(trx: Knex.Transaction, ids: string[]): Promise<void> {
  const known = (await ruleItem.list(trx)).map((rule) => rule.id);
  if ([...known].sort().join() !== [...ids].sort().join())
    throw Problem.field('/ids', 'The rules have changed meanwhile. Look again.', 'notNow');
  await trx.raw(
    `update dialling_rule set position = given.position
     from json_to_recordset(?) as given (id uuid, position int) where dialling_rule.id = given.id`,
    [JSON.stringify(ids.map((id, position) => ({ id, position })))],
  );
  await announceChange(trx);
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
