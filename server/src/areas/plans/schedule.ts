import type { Knex } from 'knex';
import type { PlanDocument } from '@night-bell/core/plan/document';
import type { Database } from '../../database/connection.ts';
import { Problem } from '../../http/problems.ts';
import type { JobQueue } from '../../jobs/queue.ts';
import { type Author, authorOf, recordChange, tellPages } from '../../spine/items.ts';
import { faultsIn, planItem, publishDocument } from './store.ts';

const longestMs = 400 * 86_400_000;

interface Scheduled {
  plan_id: string;
  document: PlanDocument;
  publish_at: Date;
  back_at: Date | null;
  by_person: string | null;
  back_to: number | null;
}

/** Has the draft published at an instant, and what callers meet now brought back at another. */
export async function schedule(
  trx: Knex.Transaction,
  id: string,
  { publishAt, backAt }: { publishAt: number; backAt: number | null },
  author: Author,
): Promise<void> {
  const plan = await planItem.get(trx, id);
  const now = Date.now();
  if (publishAt <= now) throw Problem.field('/publishAt', 'That is over already. Publish it now instead.');
  if (publishAt > now + longestMs) throw Problem.field('/publishAt', 'That is more than a year away.');
  if (backAt !== null && backAt <= publishAt)
    throw Problem.field('/backAt', 'It goes back later than it is published.');
  if (backAt !== null && plan.published === null)
    throw Problem.field('/backAt', 'There is no version to go back to: it was never published.');
  if ((await faultsIn(trx, id, plan.document)).length > 0)
    throw new Problem('notNow', 'A fault in a step stops publishing, also later. It stands at the step.');
  await trx('plan_schedule')
    .insert({
      ...{ plan_id: id, document: JSON.stringify(plan.document), by_person: author.personId },
      ...{ publish_at: new Date(publishAt), back_at: backAt === null ? null : new Date(backAt) },
      ...{ back_to: null, fault: null },
    })
    .onConflict('plan_id')
    .merge();
  await recordChange(
    trx,
    { item_id: id, what: 'scheduled', before: null, after: { publishAt, backAt } },
    author,
  );
  await tellPages(trx, 'plan', id);
}

export async function unschedule(trx: Knex.Transaction, id: string, author: Author): Promise<void> {
  const gone = await trx('plan_schedule').where({ plan_id: id }).delete();
  if (gone === 0) return;
  await recordChange(trx, { item_id: id, what: 'unscheduled', before: null, after: null }, author);
  await tellPages(trx, 'plan', id);
}

/** Publishes what is due, and brings back what is to go back. What cannot be published says why and stays as it was. */
export async function publishDue(database: Database): Promise<void> {
  while (await database.transaction(publishNext));
}

/** One of those that are due, which nobody else publishes meanwhile; false when there is none. */
async function publishNext(trx: Knex.Transaction): Promise<boolean> {
  const row = await trx('plan_schedule')
    .whereNull('fault')
    .whereRaw('((back_to is null and publish_at <= now()) or (back_to is not null and back_at <= now()))')
    .forUpdate()
    .skipLocked()
    .first<Scheduled | undefined>();
  if (row === undefined) return false;
  await publishOne(trx, row);
  return true;
}

async function publishOne(trx: Knex.Transaction, row: Scheduled): Promise<void> {
  const { plan_id: id, back_at: backAt } = row;
  const plan = await planItem.get(trx, id);
  const goesBack = row.back_to !== null;
  const document = goesBack ? await versionOf(trx, id, row.back_to!) : row.document;
  const fault = plan.retired
    ? 'The plan is deactivated.'
    : (await faultsIn(trx, id, document)).length > 0
      ? 'Something its steps name is gone.'
      : null;
  if (fault !== null) {
    await trx('plan_schedule').where({ plan_id: id }).update({ fault });
    return tellPages(trx, 'plan', id);
  }
  await publishDocument(trx, plan, document, authorOf(row.by_person));
  if (goesBack || backAt === null) await trx('plan_schedule').where({ plan_id: id }).delete();
  else await trx('plan_schedule').where({ plan_id: id }).update({ back_to: plan.published!.version });
  await tellPages(trx, 'plan', id);
}

async function versionOf(trx: Knex, id: string, version: number): Promise<PlanDocument> {
  const row = await trx('plan_version')
    .where({ plan_id: id, version })
    .first<{ document: PlanDocument }>('document');
  return row.document;
}

const queueName = 'publishPlans';

/** Plans are published when they are due, by one of the servers; a look each minute finds those nobody was told of. */
export async function publishPlansInTime(database: Database, queue: JobQueue): Promise<void> {
  await queue.workEvery(queueName, '* * * * *', () => publishDue(database), { lookEverySeconds: 1 });
}

/** Has the queue look at the instants of a schedule. */
export async function lookThen(queue: JobQueue, instants: readonly (number | null)[]): Promise<void> {
  for (const at of instants) if (at !== null) await queue.send(queueName, {}, new Date(at));
}
