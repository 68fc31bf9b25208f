import type { Knex } from 'knex';

/** Calendars at an address whose days a set of opening hours may take over. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    create table calendar_subscription (
      hours_id uuid primary key references opening_hours (id),
      address text not null,
      by_person uuid references person (id),
      read_at timestamptz,
      fault text,
      -- The days it said when it was read last, and what of it could not be taken.
      days jsonb not null default '[]',
      left_out jsonb not null default '[]'
    );
  `);
}
