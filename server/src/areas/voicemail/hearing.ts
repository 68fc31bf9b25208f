import type { Knex } from 'knex';
import type { Role } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';

export interface Listener {
  personId: string;
  role: Role;
}

/** SQL: whether box `v` is person `p`'s to hear: their own, that of a queue they work for, or one they or their team are named for. */
export const isMeant = `(v.owner_id = p.id
  or jsonb_exists(v.listeners, p.id::text)
  or (p.team_id is not null and jsonb_exists(v.listeners, p.team_id::text))
  or exists (select 1 from queue_member m where m.queue_id = v.owner_id and m.member_id in (p.id, p.team_id)))`;

/**
 * Boxes this person may hear: their own, those of queues they work for, shared ones they or their team are named for. Who
 * runs the floor also hears every box that is nobody's own, and those that somebody left behind. What is in a colleague's
 * box is theirs alone.
 */
export function audible(database: Knex, { personId, role }: Listener): Knex.QueryBuilder {
  const runsTheFloor = role === 'administrator' || role === 'supervisor';
  return database('voicemail_box as v')
    .join('item as i', 'i.id', 'v.id')
    .leftJoin('item as o', 'o.id', 'v.owner_id')
    .whereNull('i.retired_at')
    .where((query) => {
      void query.whereRaw(`exists (select 1 from person p where p.id = ? and ${isMeant})`, [personId]);
      if (runsTheFloor) void query.orWhereRaw(`o.kind is distinct from 'person' or o.retired_at is not null`);
    });
}

/** Which of these boxes the person may hear. */
export function audibleOf(database: Knex, who: Listener, boxIds: readonly string[]): Promise<string[]> {
  return audible(database, who).whereIn('v.id', boxIds).pluck<string[]>('v.id');
}

export async function mustHear(database: Knex, who: Listener, boxIds: readonly string[]): Promise<void> {
  const different = new Set(boxIds);
  if ((await audibleOf(database, who, [...different])).length < different.size)
    throw new Problem(
      'notAllowed',
      'These messages are heard by others. An administrator can name you for that box.',
    );
}
