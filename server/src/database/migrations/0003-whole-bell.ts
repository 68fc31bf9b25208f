import type { Knex } from 'knex';

/** Lines out, campaigns and contacts, opt-outs, customer records, call sources, and the agents' desk. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table item drop constraint item_kind_check;
    alter table item add constraint item_kind_check check (kind in
      ('team', 'person', 'phone', 'queue', 'number', 'voicemail', 'trunk', 'campaign', 'source', 'connection'));

    alter table installation
      add column good_call_seconds integer not null default 60 check (good_call_seconds between 1 and 3600);

    create table trunk (
      id uuid primary key references item (id),
      host text not null,
      account text not null,
      channels integer not null check (channels between 1 and 10000)
    );

    alter table phone
      add column kind text not null default 'softphone' check (kind in ('softphone', 'browser', 'outside')),
      add column position integer not null default 0,
      add column home boolean not null default false,
      add column e164 text check (e164 ~ '^\\+[1-9][0-9]{6,14}$'),
      add column trunk_id uuid references trunk (id),
      alter column account drop not null,
      alter column ha1_sealed drop not null,
      add constraint phone_by_kind check (
        (kind = 'softphone') = (account is not null) and (kind = 'outside') = (e164 is not null));
    create index phone_by_person on phone (person_id, position);

    -- A person's own page playing the phone: the server that holds its socket says so every few seconds.
    create table browser_phone (
      phone_id uuid primary key references phone (id),
      seen_at timestamptz not null
    );

    alter table queue
      add column prefer_owner boolean not null default false,
      add column script text not null default '',
      add column outcomes jsonb not null default '[]';

    create table call_source (
      id uuid primary key references item (id),
      kind text not null,
      cost_cents bigint not null default 0 check (cost_cents >= 0),
      cost_per text not null default 'month' check (cost_per in ('month', 'once')),
      from_day date not null
    );
    alter table number add column source_id uuid references call_source (id);
    create index number_by_source on number (source_id);

    create table campaign (
      id uuid primary key references item (id),
      status text not null default 'draft' check (status in ('draft', 'running', 'paused', 'finished')),
      since timestamptz not null default now(),
      queue_id uuid references queue (id),
      trunk_id uuid references trunk (id),
      number_id uuid references number (id),
      ratio numeric(4, 2) not null,
      most_in_air integer,
      ring_seconds integer not null,
      abandon_limit numeric(5, 4) not null,
      message text not null,
      opt_out_key text,
      attempts integer not null,
      retry_minutes integer not null,
      hours_from integer not null,
      hours_to integer not null,
      script text not null default '',
      outcomes jsonb not null default '[]',
      -- Own fields of the contacts, as merge fields name them.
      fields text[] not null default '{}'
    );

    create table contact (
      id uuid primary key,
      campaign_id uuid not null references campaign (id),
      position integer not null,
      e164 text not null,
      name text not null,
      fields jsonb not null,
      zones text[] not null,
      -- leased: with the exchange, not called yet; inAir: being called.
      state text not null check (state in ('due', 'leased', 'inAir', 'talked', 'optedOut', 'unreached', 'invalid')),
      due_at timestamptz,
      attempts integer not null default 0,
      last_result text,
      last_call_id uuid,
      last_at timestamptz,
      unique (campaign_id, e164),
      check ((state = 'due') = (due_at is not null))
    );
    create index contact_due on contact (campaign_id, due_at, position) where state = 'due';
    create index contact_by_state on contact (campaign_id, state);
    create index contact_by_number on contact (e164);

    create table opt_out (
      e164 text primary key,
      how text not null check (how in ('key', 'desk', 'import', 'list')),
      by_person uuid references person (id),
      call_id uuid,
      campaign_id uuid references campaign (id),
      at timestamptz not null default now()
    );

    create table connection (
      id uuid primary key references item (id),
      address text not null,
      key_sealed text not null,
      link text not null default '',
      read_until timestamptz,
      ok_at timestamptz,
      fault text,
      fault_at timestamptz
    );

    -- What we remember of the customer records, so that a caller is matched at once, also while the other side is down.
    create table record (
      id uuid primary key,
      connection_id uuid not null references connection (id),
      external_id text not null,
      name text not null,
      owner_login text,
      fields jsonb not null,
      read_at timestamptz not null default now(),
      unique (connection_id, external_id)
    );
    create table record_number (
      e164 text not null,
      record_id uuid not null references record (id) on delete cascade,
      primary key (e164, record_id)
    );

    -- Results of calls on their way back to the records: written with the call, sent when the other side takes them.
    create table outbox (
      id bigint generated always as identity primary key,
      connection_id uuid not null references connection (id),
      record_id uuid not null references record (id),
      call_id uuid not null unique,
      revision integer not null default 1,
      attempts integer not null default 0,
      next_at timestamptz not null default now(),
      sent_revision integer not null default 0,
      fault text
    );
    create index outbox_open on outbox (next_at) where sent_revision < revision;

    create table call_outcome (
      call_id uuid primary key,
      person_id uuid not null references person (id),
      outcome text,
      good boolean not null default false,
      -- What becomes of a campaign's contact.
      then_what text not null default 'done' check (then_what in ('done', 'tryAgain', 'optOut')),
      note text not null default '',
      at timestamptz not null default now()
    );

    alter table call drop constraint call_result_check;
    alter table call drop constraint call_ended_by_check;
    alter table call
      add constraint call_result_check check (result in ('answered', 'abandoned', 'voicemail', 'turnedAway', 'nowhere',
        'noAnswer', 'busy', 'machine', 'hungUp', 'optedOut', 'refused', 'noRoute', 'congestion', 'unreachable', 'lineClosed')),
      add constraint call_ended_by_check check (ended_by in ('caller', 'contact', 'agent', 'exchange')),
      add column direction text not null default 'inbound' check (direction in ('inbound', 'outbound', 'line')),
      add column trunk_id uuid references item (id),
      add column campaign_id uuid references item (id),
      add column contact_id uuid,
      add column attempt integer not null default 0,
      add column record_id uuid,
      add column source_id uuid references item (id);
    create index call_by_caller on call (caller, arrived_at);
    create index call_by_campaign on call (campaign_id, arrived_at desc) where campaign_id is not null;
    create index call_by_source on call (source_id, arrived_at desc) where source_id is not null;
    create index call_by_record on call (record_id, arrived_at desc) where record_id is not null;
  `);
}
