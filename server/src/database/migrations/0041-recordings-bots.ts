import type { Knex } from 'knex';

/** Talks that are recorded, bots that talk with callers, and notes that plans leave with a record. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table item drop constraint item_kind_check;
    alter table item add constraint item_kind_check check (kind in
      ('team', 'person', 'phone', 'queue', 'number', 'voicemail', 'trunk', 'campaign', 'source', 'connection', 'skill',
       'rule', 'outside', 'room', 'fax', 'hours', 'prompt', 'plan', 'blocked', 'code', 'scriptKey', 'region', 'bot'));
    alter table queue
      add recording text not null default 'asPlan' check (recording in ('asPlan', 'always', 'never')),
      add recording_notice_id uuid references item (id),
      add may_pause text not null default 'talker' check (may_pause in ('talker', 'supervisors', 'nobody'));
    alter table installation
      add recording_days integer not null default 90 check (recording_days between 1 and 3650),
      add agents_hear_own boolean not null default true;
    create table recording (
      call_id uuid not null,
      part integer not null,
      person_id uuid not null references item (id),
      queue_id uuid,
      plan_id uuid,
      at timestamptz not null,
      seconds real not null,
      paused_seconds real not null,
      primary key (call_id, part)
    );
    create index recording_by_time on recording (at);
    -- It may come before the talk is written down, or never. The file lies in the folder for recordings.
    create table recording_sound (
      call_id uuid not null,
      part integer not null,
      file text not null,
      bytes integer not null,
      seconds real not null,
      peaks smallint[] not null,
      at timestamptz not null default now(),
      primary key (call_id, part)
    );
    -- Who heard which talk; the first time stands in the history of whose talk it was.
    create table recording_hearing (
      call_id uuid not null,
      part integer not null,
      person_id uuid not null references person (id),
      at timestamptz not null default now(),
      primary key (call_id, part, person_id)
    );
    create table bot (
      id uuid primary key references item (id),
      address text not null,
      key_sealed text,
      limit_seconds integer not null,
      most_turns integer not null
    );
    alter table service_code drop constraint service_code_does_check;
    alter table service_code add constraint service_code_does_check check (does in ('storm', 'voicemail'));
    create table call_note (call_id uuid primary key, words text not null);
  `);
  for (const event of ['insert', 'update', 'delete'])
    await database.raw(`create trigger touches_set_up_after_${event} after ${event} on bot
      referencing ${event === 'delete' ? 'old' : 'new'} table as changed
      for each statement execute function touch_set_up()`);
}
