import type { Knex } from 'knex';

/** What requests with an idempotency key were answered, sealed: answers may hold codes that are shown once. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    create table replay (
      -- Whose key: the same key of somebody else is another.
      caller text not null,
      key text not null,
      fingerprint text not null,
      -- Null while the request is being worked at.
      answer text,
      at timestamptz not null default now(),
      primary key (caller, key)
    );
    create index replay_by_time on replay (at);
  `);
}
