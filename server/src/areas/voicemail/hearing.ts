import type { Knex } from 'knex';
import type { Role } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';

export interface Listener {
  personId: string;
  role: Role;
}

/** SQL: people and teams that box `v` is meant for: its owner, whom its queue or ring group rings, whom it names. */
export const meantBy = `(select v.owner_id as id
  union select named::uuid from jsonb_array_elements_text(v.listeners) as named
  union select m.member_id from queue_member m where m.queue_id = v.owner_id
  union select r.target_id from ring_group_target r where r.group_id = v.owner_id)`;

/** SQL: boxes meant for a person, each way by its index. Of `?`: the person, three times. */
const meantFor = `with me as (
    select p.id from person p where p.id = ? union select p.team_id from person p where p.id = ? and p.team_id is not null)
  select v.id from voicemail_box v where v.owner_id = ?
  union select v.id from me join queue_member m on m.member_id = me.id join voicemail_box v on v.owner_id = m.queue_id
  union select v.id from me join ring_group_target r on r.target_id = me.id
    join voicemail_box v on v.owner_id = r.group_id
  union select v.id from voicemail_box v where v.listeners \\?| (select array_agg(id::text) from me)`;

/** SQL: boxes that are nobody's own: shared ones, those of queues, and what somebody left behind. */
const nobodysOwn = `select v.id from voicemail_box v where v.owner_id is null
  union select v.id from queue q join voicemail_box v on v.owner_id = q.id
  union select v.id from item o join voicemail_box v on v.owner_id = o.id
    where o.kind = 'ringGroup' or (o.kind = 'person' and o.retired_at is not null)`;

/**
 * Boxes this person may hear: their own, those of queues and ring groups they work for, shared ones they or their team are named for. Who
 * runs the floor also hears every box that is nobody's own, and those that somebody left behind. What is in a colleague's
 * box is theirs alone.
 */
export function audible(database: Knex, { personId, role }: Listener): Knex.QueryBuilder {
  const runsTheFloor = role === 'administrator' || role === 'supervisor';
  return database('voicemail_box as v')
    .join('item as i', 'i.id', 'v.id')
    .whereNull('i.retired_at')
    .whereRaw(`v.id in (${meantFor}${runsTheFloor ? ` union ${nobodysOwn}` : ''})`, [
      personId,
      personId,
      personId,
    ]);
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
