import type { Knex } from 'knex';
import { readers, type Role } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import type { Live } from '../../live/live.ts';
import { callLive, isOf } from '../../live/view.ts';

/**
 * Who may see the set-up reads every record; an agent those of calls that are or were theirs, and of callers of the
 * queues they work for.
 */
export async function refuseForeignRecord(
  database: Knex,
  live: Live,
  { personId, role }: { personId: string; role: Role },
  recordId: string,
): Promise<void> {
  if (readers.includes(role)) return;
  if (isLiveCallOf(live, personId, recordId)) return;
  const { rows } = await database.raw<{ rows: unknown[] }>(
    `select 1 from call c where c.record_id = ? and (c.person_id = ? or c.queue_id in (
       select m.queue_id from queue_member m join person p on p.id = ?
       where m.member_id in (p.id, p.team_id))) limit 1`,
    [recordId, personId, personId],
  );
  if (rows.length === 0)
    throw new Problem(
      'notAllowed',
      'Agents open records of their own calls and of their queues. Ask a supervisor.',
    );
}

function isLiveCallOf(live: Live, personId: string, recordId: string): boolean {
  if (!live.ready) return false;
  const state = live.exchange.view();
  for (const call of state.calls.values()) {
    if (call.record?.id !== recordId) continue;
    const shown = callLive(state, call.id);
    if (shown !== null && isOf(shown, personId)) return true;
    const queue = state.queues.get(call.lastQueueId ?? '');
    if (queue?.item.members.includes(personId) === true) return true;
  }
  return false;
}
