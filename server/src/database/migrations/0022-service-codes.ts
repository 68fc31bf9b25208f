import type { Knex } from 'knex';

/** What is dialled on our own phones to have something done. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    create table service_code (
      id uuid primary key references item (id),
      digits text not null,
      does text not null check (does in ('storm')),
      -- Ids of sets of opening hours, and of teams.
      hours_ids jsonb not null,
      for_hours integer not null,
      team_ids jsonb not null,
      pin_hash text,
      pin_length integer not null default 0
    );
  `);
}
