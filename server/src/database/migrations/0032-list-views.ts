import type { Knex } from 'knex';

/** Ways to look at a list: views by name, and the columns that each person chose. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    create table list_view (
      id uuid primary key,
      person_id uuid not null references person (id) on delete cascade,
      list text not null,
      name text not null,
      query text not null,
      columns jsonb,
      shared boolean not null default false,
      at timestamptz not null default now()
    );
    create unique index list_view_name on list_view (person_id, list, lower(name));
    create index list_view_of on list_view (list) where shared;
    create table column_choice (
      person_id uuid not null references person (id) on delete cascade,
      list text not null,
      columns jsonb not null,
      primary key (person_id, list)
    );
  `);
}
