import type { Knex } from 'knex';
import { mayDirect } from '@night-bell/core/model/roles';
import type { Caller } from '../../http/route.ts';
import { looksAfterOf } from '../people/looks-after.ts';
import { type KeptTalk, readRecordingSettings } from './recordings.queries.ts';

/**
 * Who may hear recorded talks: administrators and auditors all of them, supervisors those of people they look after,
 * agents their own where the company lets them.
 */
export async function hearerOf(
  database: Knex,
  me: Caller,
): Promise<(talk: Pick<KeptTalk, 'personId' | 'teamId'>) => boolean> {
  const [looksAfter, { agentsHearOwn }] = await Promise.all([
    looksAfterOf(database, me.personId),
    readRecordingSettings(database),
  ]);
  return ({ personId, teamId }) =>
    me.role === 'auditor' ||
    mayDirect({ role: me.role, looksAfter }, teamId) ||
    (agentsHearOwn && personId === me.personId);
}
