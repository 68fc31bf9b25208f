import type { Knex } from 'knex';
import { mayDirect } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import type { Caller } from '../../http/route.ts';
import { looksAfterOf } from './looks-after.ts';
import { getPerson } from './store.ts';

/** On behalf of an administrator, or of a supervisor for the teams they look after; refuses all others. */
export async function checkDirects(database: Knex, me: Caller, personId: string): Promise<void> {
  const person = await getPerson(database, personId);
  const looksAfter = await looksAfterOf(database, me.personId);
  if (mayDirect({ role: me.role, looksAfter }, person.teamId)) return;
  throw new Problem(
    'notAllowed',
    `${person.name} is in ${person.teamName ?? 'no team'}, which you do not look after. An administrator can change that.`,
  );
}
