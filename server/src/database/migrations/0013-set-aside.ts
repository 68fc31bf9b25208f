import type { Knex } from 'knex';

/** What the exchange could not take or write, kept whole; and calls that ended as lost because of it. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    create table set_aside (
      id bigint generated always as identity primary key,
      at timestamptz not null default now(),
      what text not null check (what in ('event', 'fact', 'effect')),
      kind text not null,
      -- Where it stood in the log; an effect has none of its own.
      seq bigint,
      call_ids text[] not null,
      why text not null,
      -- Text, not json: what json cannot hold is the very thing to be kept.
      content text not null,
      seen_at timestamptz,
      seen_by uuid references item (id)
    );
    create index set_aside_unseen on set_aside (id desc) where seen_at is null;
    alter table call drop constraint call_result_check;
    alter table call add constraint call_result_check check (result in
      ('answered', 'abandoned', 'voicemail', 'turnedAway', 'nowhere', 'forwarded', 'conference', 'fax', 'noAnswer', 'busy',
       'machine', 'hungUp', 'optedOut', 'refused', 'noRoute', 'congestion', 'unreachable', 'lineClosed', 'lost'));
  `);
}
