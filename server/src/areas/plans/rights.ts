import type { Knex } from 'knex';
import { operators } from '@night-bell/core/model/roles';
import { mayEditPlan, mayPublishPlan, type PlanRights } from '@night-bell/core/plan/rights';
import type { Permission } from '../../http/item-routes.ts';
import { Problem } from '../../http/problems.ts';
import { type Author, recordChange, setReferences, tellPages } from '../../spine/items.ts';
import { looksAfterOf } from '../people/looks-after.ts';
import { checkTeam } from '../teams/store.ts';
import { planItem, referencesIn, workedAtBy } from './store.ts';

function permission(allowed: typeof mayEditPlan, verb: string): Permission {
  return {
    who: operators,
    check: async (database, { personId, role }, id) => {
      // Nobody has to be looked up for those who may do all.
      if (role === 'administrator') return;
      const { name, rights } = await planItem.get(database, id);
      const looksAfter = await looksAfterOf(database, personId);
      if (allowed({ role, looksAfter }, rights)) return;
      throw new Problem(
        'notAllowed',
        `${name} is not yours to ${verb}. An administrator can let the supervisors of a team do it.`,
      );
    },
  };
}

/** Who changes the draft of a plan. */
export const editing = permission(mayEditPlan, 'change');
/** Who has callers meet it. */
export const publishing = permission(mayPublishPlan, 'publish');

/** Lets supervisors of a team work at a plan, or keeps it with the administrators. */
export async function setRights(
  trx: Knex.Transaction,
  id: string,
  { teamId, publishes }: PlanRights,
  author: Author,
): Promise<void> {
  const { document, live, rights: before } = await planItem.get(trx, id);
  if (teamId !== null) await checkTeam(trx, teamId);
  const rights = { teamId, publishes: publishes && teamId !== null };
  await trx('plan').where({ id }).update({ team_id: teamId, team_publishes: rights.publishes });
  await setReferences(trx, id, [...referencesIn(document), ...referencesIn(live), ...workedAtBy(teamId)]);
  await recordChange(trx, { item_id: id, what: 'rights', before, after: rights }, author);
  await tellPages(trx, 'plan', id);
}
