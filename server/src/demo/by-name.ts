import type { Knex } from 'knex';
import type { Destination } from '@night-bell/core/model/destination';

/** The demo's files name things; here they are found. */
export async function itemCalled(trx: Knex, kinds: string[], name: string): Promise<string> {
  const row = await trx('item')
    .whereIn('kind', kinds)
    .andWhere({ name })
    .orderBy('kind', 'desc')
    .first<{ id: string } | undefined>('id');
  if (row === undefined) throw new Error(`the demo names ${name}, which is not there`);
  return row.id;
}

/** A destination written like `queue: Bookings`. */
export async function destinationCalled(trx: Knex, text: string): Promise<Destination> {
  if (text === 'end') return { kind: 'end' };
  const [kind = '', name = ''] = text.split(': ');
  return { kind, id: await itemCalled(trx, [kind], name) } as Destination;
}

/** What a schema made of it. Throws when the demo's own data is wrong. */
export function checked<T>({ error, value }: { error?: Error | undefined; value?: T }): T {
  if (error !== undefined) throw error;
  return value as T;
}
