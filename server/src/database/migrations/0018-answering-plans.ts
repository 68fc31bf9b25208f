import type { Knex } from 'knex';

/** Prompts and answering plans: what people work at, and what callers meet. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table item drop constraint item_kind_check;
    alter table item add constraint item_kind_check check (kind in
      ('team', 'person', 'phone', 'queue', 'number', 'voicemail', 'trunk', 'campaign', 'source', 'connection', 'skill',
       'rule', 'outside', 'room', 'fax', 'hours', 'prompt', 'plan'));

    alter table change drop constraint change_what_check;
    alter table change add constraint change_what_check
      check (what in ('created', 'changed', 'retired', 'reactivated', 'storm', 'stormOver', 'published'));

    create table prompt (
      id uuid primary key references item (id),
      kind text not null,
      language text not null,
      words text not null,
      -- What callers hear.
      published_words text,
      published_at timestamptz
    );

    create table plan (
      id uuid primary key references item (id),
      -- The draft: start and steps.
      document jsonb not null,
      published_version integer
    );

    -- What callers met, from when on; never changed.
    create table plan_version (
      plan_id uuid not null references plan (id),
      version integer not null,
      document jsonb not null,
      at timestamptz not null default now(),
      by_person uuid references item (id),
      primary key (plan_id, version)
    );
  `);
}
