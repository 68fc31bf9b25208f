import type { Knex } from 'knex';

/** How people, and the company, write dates, times and numbers; null for as the company, and as the house does. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table person add column locale text, add column reading_zone text;
    alter table installation add column locale text;
  `);
}
