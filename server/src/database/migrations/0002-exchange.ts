import type { Knex } from 'knex';

/** The exchange's log, its checkpoints, the inbox of commands, and the calls that are over. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    create table exchange_event (
      seq bigint primary key,
      at bigint not null,
      -- json, not jsonb: the text comes back as it was, so that a replay gives the same bytes.
      body json not null
    );

    create table exchange_checkpoint (
      seq bigint primary key,
      engine_version integer not null,
      state json not null,
      stories json not null,
      at timestamptz not null default now()
    );

    create table exchange_inbox (
      id bigint generated always as identity primary key,
      body jsonb not null,
      by_person uuid,
      at timestamptz not null default now(),
      done_seq bigint,
      refusal text
    );
    create index exchange_inbox_open on exchange_inbox (id) where done_seq is null and refusal is null;

    create table call (
      id uuid primary key,
      dialled text not null,
      caller text not null,
      caller_name text,
      number_id uuid references item (id),
      queue_id uuid references item (id),
      person_id uuid references item (id),
      result text not null check (result in ('answered', 'abandoned', 'voicemail', 'turnedAway', 'nowhere')),
      ended_by text not null check (ended_by in ('caller', 'agent', 'exchange')),
      arrived_at timestamptz not null,
      answered_at timestamptz,
      ended_at timestamptz not null,
      waited_ms integer not null,
      talked_ms integer not null,
      message_ms integer,
      voicemail_box_id uuid references item (id),
      offers integer not null,
      stand_in boolean not null,
      rehearsed boolean not null default false,
      story json not null
    );
    create index call_by_time on call (arrived_at desc, id desc);
    create index call_by_person on call (person_id, arrived_at desc);
    create index call_by_queue on call (queue_id, arrived_at desc);
    create index call_by_number on call (number_id, arrived_at desc);
  `);
}
