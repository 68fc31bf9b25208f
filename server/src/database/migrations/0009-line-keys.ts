import type { Knex } from 'knex';

/** Keys of a phone that watch extensions, in the order of their places. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`alter table phone add column line_keys jsonb not null default '[]'`);
}
