import type { Knex } from 'knex';
import type { Author } from '../../spine/items.ts';
import { changeQueue, getQueue, queueSnapshot } from './store.ts';

/** Puts people behind the present members of a queue; who is in it already stays where they are. */
export function joinQueue(
  trx: Knex.Transaction,
  queueId: string,
  people: string[],
  author: Author,
): Promise<void> {
  return changeMembers(trx, queueId, author, (members) => [...new Set([...members, ...people])]);
}

/** Takes people out of a queue; those who are in it by their team stay in it. */
export function leaveQueue(
  trx: Knex.Transaction,
  queueId: string,
  people: string[],
  author: Author,
): Promise<void> {
  return changeMembers(trx, queueId, author, (members) => members.filter((each) => !people.includes(each)));
}

async function changeMembers(
  trx: Knex.Transaction,
  queueId: string,
  author: Author,
  change: (members: string[]) => string[],
): Promise<void> {
  const queue = await getQueue(trx, queueId);
  const members = change(queue.members);
  if (members.join() === queue.members.join()) return;
  const turns = queue.turns.filter(({ memberId }) => members.includes(memberId));
  await changeQueue(trx, queueId, queue.version, { ...queueSnapshot(queue), members, turns }, author);
}
