import type { Knex } from 'knex';

/** Records found by the digits of their own number, as callers type them: without letters, and zeros in front. */
export async function up(database: Knex): Promise<void> {
  await database.raw(
    `create index record_by_digits on record (ltrim(regexp_replace(external_id, '[^0-9]', '', 'g'), '0'))`,
  );
}
