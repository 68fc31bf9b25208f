import type { Knex } from 'knex';

/** The item spine, people and sign-in, phones, queues, numbers. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    create table installation (
      only_one boolean primary key default true check (only_one),
      id uuid not null default gen_random_uuid(),
      name text not null default '',
      time_zone text not null default 'UTC',
      demo boolean not null default false
    );
    insert into installation default values;

    create table item (
      id uuid primary key,
      kind text not null check (kind in ('team', 'person', 'phone', 'queue', 'number', 'voicemail')),
      name text not null check (name <> ''),
      version integer not null default 1,
      retired_at timestamptz,
      created_at timestamptz not null default now()
    );
    create index item_by_kind on item (kind, name, id);

    create table item_reference (
      from_item uuid not null references item (id),
      to_item uuid not null references item (id),
      how text not null,
      primary key (from_item, to_item, how)
    );
    create index item_reference_to on item_reference (to_item);

    create table change (
      id bigint generated always as identity primary key,
      item_id uuid not null references item (id),
      what text not null check (what in ('created', 'changed', 'retired', 'reactivated')),
      before jsonb,
      after jsonb,
      by_person uuid,
      batch uuid not null,
      takes_back bigint references change (id),
      at timestamptz not null default now()
    );
    create index change_by_item on change (item_id, id desc);

    create table team (id uuid primary key references item (id));

    create table extension (
      digits text primary key check (digits ~ '^[0-9]{2,6}$'),
      item_id uuid not null unique references item (id)
    );

    create table voicemail_box (
      id uuid primary key references item (id),
      owner_id uuid not null unique references item (id),
      greeting_seconds integer not null default 5,
      max_message_seconds integer not null default 180
    );

    create table person (
      id uuid primary key references item (id),
      login text not null unique,
      role text not null check (role in ('administrator', 'supervisor', 'agent', 'auditor')),
      team_id uuid references team (id),
      call_limit integer not null default 1 check (call_limit between 1 and 5),
      ring_seconds integer not null default 20 check (ring_seconds between 5 and 120),
      sign_in_with_phone boolean not null default true
    );
    create index person_by_team on person (team_id);

    create table credential (
      person_id uuid primary key references person (id),
      password_hash text,
      changed_at timestamptz
    );

    create table one_time_code (
      id uuid primary key default gen_random_uuid(),
      purpose text not null check (purpose in ('sign-in', 'enrolment', 'first-administrator')),
      person_id uuid references person (id),
      phone_id uuid,
      -- An enrolment carries the registration secret, sealed, until it is fetched.
      sealed text,
      hash text not null unique,
      expires_at timestamptz not null,
      used_at timestamptz
    );

    create table session (
      hash text primary key,
      person_id uuid not null references person (id),
      csrf text not null,
      must_set_password boolean not null,
      created_at timestamptz not null default now(),
      seen_at timestamptz not null default now(),
      expires_at timestamptz not null
    );
    create index session_by_person on session (person_id);

    create table sign_in_guess (
      key text primary key,
      failures integer not null,
      last_at timestamptz not null,
      blocked_until timestamptz
    );

    create table phone (
      id uuid primary key references item (id),
      person_id uuid not null references person (id),
      account text not null unique,
      ha1_sealed text not null
    );

    create table queue (
      id uuid primary key references item (id),
      priority integer not null default 0,
      ring_seconds integer not null,
      wrap_up_seconds integer not null,
      max_waiting integer,
      when_full_kind text not null,
      when_full_item uuid references item (id),
      max_wait_seconds integer,
      when_too_long_kind text not null,
      when_too_long_item uuid references item (id),
      when_nobody_kind text,
      when_nobody_item uuid references item (id)
    );

    create table queue_member (
      queue_id uuid not null references queue (id),
      position integer not null,
      member_id uuid not null references item (id),
      primary key (queue_id, position),
      unique (queue_id, member_id)
    );
    create index queue_member_by_member on queue_member (member_id);

    create table number (
      id uuid primary key references item (id),
      -- Null once the number was given up; given_up_e164 keeps what it was.
      e164 text unique check (e164 ~ '^\\+[1-9][0-9]{6,14}$'),
      given_up_e164 text,
      destination_kind text,
      destination_item uuid references item (id)
    );
  `);
}
