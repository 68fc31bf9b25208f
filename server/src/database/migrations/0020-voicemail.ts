import type { Knex } from 'knex';

/** Voicemail that works: boxes with greetings, messages with their sounds, and letters that tell of them. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table voicemail_box
      alter column owner_id drop not null,
      drop column greeting_seconds,
      add column hours_id uuid references opening_hours (id),
      add column greetings jsonb not null default
        '{"open": {"outside": null, "inside": null}, "closed": {"outside": null, "inside": null}}',
      add column most_messages integer not null default 100,
      add column keep_days integer not null default 30,
      add column when_full jsonb,
      -- Ids of people and teams.
      add column listeners jsonb not null default '[]',
      add column mail_to jsonb not null default '[]',
      add column pin_hash text;

    create table message (
      id uuid primary key,
      box_id uuid not null references voicemail_box (id),
      -- Sent on to another box it is a message there too, of the same call and with the same sound.
      call_id uuid not null,
      caller text not null,
      caller_name text,
      at timestamptz not null,
      seconds real not null,
      state text not null default 'new' check (state in ('new', 'heard', 'kept')),
      heard_by uuid references item (id),
      heard_at timestamptz,
      forwarded_by uuid references item (id),
      -- Brought back until the day is over; then it is gone.
      deleted_at timestamptz,
      unique (box_id, call_id)
    );
    create index message_by_box on message (box_id, at desc);
    create index message_by_call on message (call_id);
    create index message_new on message (box_id) where state = 'new' and deleted_at is null;
    create index message_deleted on message (deleted_at) where deleted_at is not null;

    create table message_sound (
      call_id uuid primary key,
      seconds real not null,
      peaks smallint[] not null,
      telephone bytea not null,
      at timestamptz not null default now()
    );
    -- Who heard which message; the first time stands in the history of its box.
    create table message_hearing (
      message_id uuid not null references message (id) on delete cascade,
      person_id uuid not null references item (id),
      primary key (message_id, person_id)
    );

    alter table prompt add column person_id uuid references item (id);

    create table letter (
      id uuid primary key,
      recipient text not null,
      subject text not null,
      body text not null,
      at timestamptz not null default now(),
      tries integer not null default 0,
      next_try timestamptz not null default now(),
      fault text
    );

    alter table change drop constraint change_what_check;
    alter table change add constraint change_what_check check (what in
      ('created', 'changed', 'retired', 'reactivated', 'storm', 'stormOver', 'published', 'spoken', 'brought',
       'heard', 'kept', 'deleted', 'restored', 'forwarded', 'calledBack', 'pinSet', 'pinSent', 'pinTaken'));
  `);
}
