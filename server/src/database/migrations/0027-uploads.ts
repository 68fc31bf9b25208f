import type { Knex } from 'knex';

/** Files that jobs read: in parts, so that none is ever held whole. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    create table upload (
      id uuid primary key,
      at timestamptz not null default now()
    );
    create table upload_part (
      upload_id uuid not null references upload (id) on delete cascade,
      part integer not null,
      bytes bytea not null,
      primary key (upload_id, part)
    );
    alter table upload_part alter column bytes set storage external;
    alter table job add column doing text, add column left_out jsonb not null default '[]';
  `);
}
