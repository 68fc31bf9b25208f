import type { Knex } from 'knex';

/** Sounds of prompts: as they came, and ready for the telephone. They stand in the database, so that every server has them. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    create table sound (
      id uuid primary key,
      prompt_id uuid not null references prompt (id),
      origin text not null check (origin in ('spoken', 'brought')),
      -- What was spoken; of a brought one, what stood there then.
      words text not null,
      seconds real not null,
      loudness real,
      peaks smallint[] not null,
      silent boolean not null,
      clipping boolean not null,
      file bytea not null,
      telephone bytea not null,
      at timestamptz not null default now()
    );
    create index sound_by_prompt on sound (prompt_id, at desc);
    alter table change drop constraint change_what_check;
    alter table change add constraint change_what_check check (what in
      ('created', 'changed', 'retired', 'reactivated', 'storm', 'stormOver', 'published', 'spoken', 'brought'));
    alter table prompt
      add column sound_id uuid references sound (id),
      add column published_sound_id uuid references sound (id);
  `);
}
