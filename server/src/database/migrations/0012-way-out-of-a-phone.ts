import type { Knex } from 'knex';

/** The trunk, chosen by name, over which what is dialled on a phone goes out; null for those of the dialling rules. */
export async function up(database: Knex): Promise<void> {
  await database.raw('alter table phone add column dial_trunk_id uuid references trunk (id)');
}
