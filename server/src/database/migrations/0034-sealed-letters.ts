import type { Knex } from 'knex';

/** Letters that carry codes are sealed while they wait for the post office. */
export async function up(database: Knex): Promise<void> {
  await database.raw('alter table letter add column sealed boolean not null default false');
}
