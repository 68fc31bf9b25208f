import type { Knex } from 'knex';

/** Numbers rented at a shop, what is held there, and the balance that rent and calls draw down. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table number
      -- Null for numbers that were brought from elsewhere.
      add column rented_at timestamptz,
      add column paid_until timestamptz,
      add column monthly numeric(14, 6),
      add column can_text boolean not null default false,
      add column reports jsonb not null default '[]',
      -- Who may show it when dialling: everybody, or people of these teams.
      add column dial_teams uuid[] not null default '{}';

    -- What we hold at the shop, until when, and at what price: the countdown survives a reload.
    create table number_hold (
      e164 text primary key,
      offer jsonb not null,
      until timestamptz not null,
      by_person uuid not null references person (id)
    );

    alter table installation
      add column low_balance numeric(14, 6) not null default 20;

    -- Prepaid: the balance is the sum. Rows are never changed.
    create table ledger_entry (
      id bigint generated always as identity primary key,
      at timestamptz not null default now(),
      kind text not null check (kind in ('topUp', 'rent', 'call', 'text')),
      amount numeric(14, 6) not null check (amount <> 0),
      what text not null,
      number_id uuid references number (id),
      call_id uuid,
      by_person uuid references person (id),
      -- One movement for one thing: a repeat changes nothing.
      once text unique
    );
    create index ledger_by_time on ledger_entry (id desc);

    alter table call add column cost numeric(14, 6);
  `);
}
