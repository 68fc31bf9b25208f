import type { Knex } from 'knex';

/** Who reads the texts of a number, and the texts themselves. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table number
      add column texts_kind text check (texts_kind in ('person', 'queue')),
      add column texts_item uuid references item (id),
      add check ((texts_kind is null) = (texts_item is null));

    create table text_message (
      id uuid primary key,
      number_id uuid not null references number (id),
      other_side text not null,
      direction text not null check (direction in ('in', 'out')),
      body text not null,
      at timestamptz not null default now(),
      state text not null check (state in ('received', 'waiting', 'sent', 'failed')),
      -- Why it failed, in the provider's words.
      why text,
      by_person uuid references person (id),
      -- The provider's own name for it: what comes twice is kept once.
      ref text unique,
      told_at timestamptz
    );
    create index text_by_number on text_message (number_id, at desc);
    create index text_waiting on text_message (at) where state = 'waiting';

    alter table opt_out drop constraint opt_out_how_check,
      add check (how in ('key', 'desk', 'import', 'list', 'text'));
  `);
}
