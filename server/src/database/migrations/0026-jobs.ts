import type { Knex } from 'knex';

/** What is done behind a page: how it stands, for whoever waits. The queue itself keeps its tables apart. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    create table job (
      id uuid primary key,
      kind text not null,
      title text not null,
      input jsonb not null,
      state text not null default 'waiting'
        check (state in ('waiting', 'running', 'done', 'failed', 'stopped')),
      done integer not null default 0,
      total integer,
      outcome text,
      by_person uuid references person (id),
      stop_asked boolean not null default false,
      at timestamptz not null default now(),
      /** When it was last heard of: one that fell silent is begun again. */
      seen_at timestamptz not null default now(),
      ended_at timestamptz
    );
    create index job_by_time on job (at desc, id);
    create index job_going_on on job (seen_at) where state in ('waiting', 'running');
  `);
}
