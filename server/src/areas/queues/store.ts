import type { Knex } from 'knex';
import {
  completeQueue,
  type QueueDraft,
  type QueueRequest,
  queues,
  type QueuesContract,
  type QueueView,
} from '@night-bell/core/contracts/queues';
import { Problem } from '../../http/problems.ts';
import { checkDestination, destinationReference } from '../../spine/destinations.ts';
import type { DefinedItem } from '../../spine/define-item.ts';
import { moveExtension } from '../../spine/extensions.ts';
import {
  announceChange,
  type Author,
  changeItem,
  checkInUse,
  createItem,
  insertAll,
  newId,
  reactivateItem,
  type Reference,
  refuseSameName,
  refuseWhenUsed,
  retireItem,
} from '../../spine/items.ts';
import { checkScript } from '../desk/script.ts';
import { refuseRounds } from '../../spine/rounds.ts';
import { columnsOf, type QueueRow, viewOf } from './rows.ts';
import { createVoicemailBoxes } from '../../spine/voicemail-boxes.ts';

export async function listQueues(database: Knex, ids?: readonly string[]): Promise<QueueView[]> {
  const rows = await database('queue as q')
    .join('item as i', 'i.id', 'q.id')
    .leftJoin('extension as e', 'e.item_id', 'q.id')
    .leftJoin('voicemail_box as v', 'v.owner_id', 'q.id')
    .modify((query) => {
      if (ids !== undefined) void query.whereRaw('q.id = any(?::uuid[])', [[...ids]]);
    })
    .orderByRaw('i.name collate listing, q.id')
    .select<QueueRow[]>(
      'q.*',
      'i.version',
      database.raw('i.retired_at is not null as retired'),
      'i.name',
      'e.digits as extension',
      'v.id as box_id',
      database.raw(
        `coalesce((select array_agg(m.member_id::text order by m.position) from queue_member m where m.queue_id = q.id), '{}') as members`,
      ),
      database.raw(
        `coalesce((select json_agg(json_build_object('memberId', m.member_id, 'turn', m.turn) order by m.position)
          from queue_member m where m.queue_id = q.id and m.turn > 1), '[]') as turns`,
      ),
      database.raw(
        `coalesce((select json_agg(json_build_object('memberId', m.member_id, 'afterSeconds', m.joins_after)
            order by m.position)
          from queue_member m where m.queue_id = q.id and m.joins_after > 0), '[]') as joins`,
      ),
      database.raw(
        `coalesce((select json_agg(json_build_object('skillId', k.skill_id, 'minimum', k.minimum, 'relaxes', k.relaxes)
            order by k.position)
          from queue_skill k where k.queue_id = q.id), '[]') as skills`,
      ),
      database.raw(
        `(select count(distinct p.id)::int from queue_member m join person p on p.id = m.member_id or p.team_id = m.member_id
          join item pi on pi.id = p.id and pi.retired_at is null where m.queue_id = q.id) as people_count`,
      ),
    );
  return rows.map(viewOf);
}

export async function getQueue(database: Knex, id: string): Promise<QueueView> {
  const [queue] = await listQueues(database, [id]);
  if (queue === undefined) throw new Problem('notFound', 'There is no such queue.');
  return queue;
}

/** The fields that history keeps and take-back restores. */
export function queueSnapshot(queue: QueueDraft): QueueDraft {
  const { name, extension, priority, ringSeconds, wrapUpSeconds, members, skills } = queue;
  const { maxWaiting, whenFull, maxWaitSeconds, whenTooLong, whenNobody } = queue;
  const { recording, recordingNoticeId, mayPause, distribution, turns, ringsAtMost } = queue;
  const { preferOwner, script, outcomes, hoursId, whenClosed, atClosing } = queue;
  const { joins, whenAllAway, leaveKey, whenLeaves, keepsTime, agePoints, agesAcross } = queue;
  const { recordPriorities, ringsAway, ringsInWrapUp, mostTexts, musicId, announceSeconds } = queue;
  const { announcementId, tellsPlace, tellsWait, phoneShows, goalPercent, goalSeconds, callBack } = queue;
  return {
    name,
    extension,
    priority,
    ringSeconds,
    wrapUpSeconds,
    members,
    ...{ distribution, turns, ringsAtMost },
    skills,
    maxWaiting,
    whenFull,
    maxWaitSeconds,
    whenTooLong,
    whenNobody,
    ...{ hoursId, whenClosed, atClosing },
    ...{ joins, whenAllAway, leaveKey, whenLeaves, keepsTime, agePoints, agesAcross },
    ...{ recordPriorities, ringsAway, ringsInWrapUp, mostTexts, musicId, announceSeconds },
    ...{ announcementId, tellsPlace, tellsWait, phoneShows, goalPercent, goalSeconds, callBack },
    preferOwner,
    ...{ recording, recordingNoticeId, mayPause },
    script,
    outcomes,
  };
}

/** Makes a queue with its extension, when it has one, and a voicemail box of its own. */
export async function createQueue(
  trx: Knex.Transaction,
  request: QueueRequest,
  author: Author,
): Promise<string> {
  const id = newId();
  const boxId = newId();
  const draft = completeQueue(request, boxId);
  await checkQueue(trx, draft, { id, boxId, members: [] });
  await createItem(
    trx,
    {
      id,
      kind: 'queue',
      name: draft.name,
      after: queueSnapshot(draft),
      references: referencesOf(draft, boxId),
    },
    author,
  );
  await createVoicemailBoxes(trx, [{ id: boxId, ownerId: id, name: `${draft.name} voicemail` }], author);
  await trx('queue').insert({ id, ...columnsOf(draft) });
  await writeMembers(trx, id, draft);
  await moveExtension(trx, id, draft.extension);
  await announceChange(trx);
  return id;
}

export async function changeQueue(
  trx: Knex.Transaction,
  id: string,
  version: number,
  request: QueueRequest,
  author: Author,
  takesBack?: number,
): Promise<void> {
  const current = await getQueue(trx, id);
  const boxId = current.voicemailBoxId ?? '';
  const draft = completeQueue(request, boxId);
  if (current.version === version) await checkQueue(trx, draft, { id, boxId, members: current.members });
  await changeItem(
    trx,
    {
      id,
      name: draft.name,
      before: queueSnapshot(current),
      after: queueSnapshot(draft),
      references: referencesOf(draft, boxId),
      version,
      current,
      ...(takesBack === undefined ? {} : { takesBack }),
    },
    author,
  );
  await trx('queue').where({ id }).update(columnsOf(draft));
  await writeMembers(trx, id, draft);
  if (draft.extension !== current.extension) await moveExtension(trx, id, draft.extension);
  if (draft.name !== current.name) {
    await trx('item')
      .where({ id: current.voicemailBoxId! })
      .update({ name: `${draft.name} voicemail` });
  }
  await announceChange(trx);
}

export async function retireQueue(
  trx: Knex.Transaction,
  id: string,
  version: number,
  author: Author,
): Promise<void> {
  const queue = await getQueue(trx, id);
  await refuseWhenUsed(trx, id, queue.name);
  if (queue.voicemailBoxId !== null)
    await refuseWhenUsed(trx, queue.voicemailBoxId, `${queue.name} voicemail`);
  await retireItem(trx, id, version, author);
  await announceChange(trx);
}

export async function reactivateQueue(
  trx: Knex.Transaction,
  id: string,
  version: number,
  author: Author,
): Promise<void> {
  await getQueue(trx, id);
  await reactivateItem(trx, id, version, author);
  await announceChange(trx);
}

async function checkQueue(
  trx: Knex.Transaction,
  draft: QueueDraft,
  { id, boxId, members }: { id: string; boxId: string; members: string[] },
): Promise<void> {
  await refuseSameName(trx, 'queue', draft.name, id);
  await checkScript(trx, draft.script, '/script', []);
  await checkMembers(trx, draft.members, members);
  for (const [index, { memberId }] of draft.turns.entries())
    if (!draft.members.includes(memberId))
      throw Problem.field(`/turns/${index}`, 'A turn is given to somebody who is not a member.');
  for (const [index, { memberId }] of draft.joins.entries())
    if (!draft.members.includes(memberId))
      throw Problem.field(`/joins/${index}`, 'Somebody joins later who is not a member.');
  for (const [index, { skillId }] of draft.skills.entries())
    await checkInUse(trx, skillId, 'skill', `/skills/${index}`);
  await checkInUse(trx, draft.hoursId, 'hours', '/hoursId');
  for (const key of ['recordingNoticeId', 'musicId', 'announcementId'] as const)
    await checkInUse(trx, draft[key], 'prompt', `/${key}`);
  for (const key of waysOutOf) {
    const destination = draft[key];
    if (destination?.kind === 'queue' && destination.id === id) {
      throw Problem.field(`/${key}`, 'A queue cannot send its callers to itself.');
    }
    const own = destination?.kind === 'voicemail' && destination.id === boxId;
    if (!own) await checkDestination(trx, destination, `/${key}`);
  }
  await refuseRounds(trx, { id, name: draft.name }, draft, byItself);
}

/** Fields of a queue that lead somewhere: by themselves, or by a key, which is the caller's own doing and may lead round. */
const byItself = ['whenFull', 'whenTooLong', 'whenNobody', 'whenClosed', 'whenAllAway'] as const;
const waysOutOf = [...byItself, 'whenLeaves'] as const;

/** New members must be in use; one that was deactivated after joining may stay, and is not rung. */
async function checkMembers(trx: Knex.Transaction, members: string[], before: string[]): Promise<void> {
  const rows = await trx('item')
    .whereIn('id', members)
    .whereIn('kind', ['person', 'team'])
    .select<{ id: string; name: string; retired_at: Date | null }[]>('id', 'name', 'retired_at');
  const known = new Map(rows.map((row) => [row.id, row]));
  members.forEach((member, index) => {
    const row = known.get(member);
    if (row === undefined) throw Problem.field(`/members/${index}`, 'That member does not exist.');
    if (row.retired_at !== null && !before.includes(member)) {
      throw Problem.field(
        `/members/${index}`,
        `${row.name} is deactivated. Reactivate them first, or leave them out.`,
      );
    }
  });
}

/** Its own voicemail box is owned, not used. */
function referencesOf(draft: QueueDraft, boxId: string): Reference[] {
  return [
    ...draft.members.map((to) => ({ to, how: 'member' })),
    ...draft.skills.map(({ skillId }) => ({ to: skillId, how: 'asked for' })),
    ...destinationReference(draft.whenFull, 'when full'),
    ...destinationReference(draft.whenTooLong, 'when the wait is too long'),
    ...destinationReference(draft.whenNobody, 'when nobody is signed in'),
    ...destinationReference(draft.whenClosed, 'when closed'),
    ...destinationReference(draft.whenAllAway, 'when everybody is away'),
    ...(draft.leaveKey === null ? [] : destinationReference(draft.whenLeaves!, 'by the key to leave')),
    ...(draft.musicId === null ? [] : [{ to: draft.musicId, how: 'music' }]),
    ...(draft.announcementId === null ? [] : [{ to: draft.announcementId, how: 'announcement' }]),
    ...(draft.hoursId === null ? [] : [{ to: draft.hoursId, how: 'hours' }]),
    ...(draft.recordingNoticeId === null ? [] : [{ to: draft.recordingNoticeId, how: 'recording notice' }]),
  ].filter((reference) => reference.to !== boxId);
}

async function writeMembers(
  trx: Knex.Transaction,
  id: string,
  { members, turns, joins, skills }: Pick<QueueDraft, 'members' | 'turns' | 'joins' | 'skills'>,
): Promise<void> {
  const joinsAfter = new Map(joins.map(({ memberId, afterSeconds }) => [memberId, afterSeconds]));
  const turnOf = new Map(turns.map(({ memberId, turn }) => [memberId, turn]));
  await trx('queue_member').where({ queue_id: id }).delete();
  await trx('queue_skill').where({ queue_id: id }).delete();
  await insertAll(
    trx,
    'queue_member',
    members.map((member_id, position) => ({
      ...{ queue_id: id, position, member_id },
      turn: turnOf.get(member_id) ?? 1,
      joins_after: joinsAfter.get(member_id) ?? 0,
    })),
  );
  await insertAll(
    trx,
    'queue_skill',
    skills.map(({ skillId, minimum, relaxes }, position) => ({
      ...{ queue_id: id, position, skill_id: skillId, minimum, relaxes: JSON.stringify(relaxes) },
    })),
  );
}

/** As routes, take-back and the demo know it. */
export const queueItem: DefinedItem<QueuesContract['path'], QueueRequest, QueueView> = {
  kind: 'queue',
  contract: queues,
  list: listQueues,
  listing: {},
  get: getQueue,
  snapshot: (queue) => queueSnapshot(queue as QueueDraft),
  ...{ create: createQueue, change: changeQueue, retire: retireQueue, reactivate: reactivateQueue },
};
