import type { Knex } from 'knex';

/** Conference rooms, fax boxes and the faxes in them. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table item drop constraint item_kind_check;
    alter table item add constraint item_kind_check check (kind in
      ('team', 'person', 'phone', 'queue', 'number', 'voicemail', 'trunk', 'campaign', 'source', 'connection', 'skill',
       'rule', 'outside', 'room', 'fax'));

    create table room (
      id uuid primary key references item (id),
      -- Enough to check a PIN, not to read it.
      pin_hash text,
      pin_length integer not null default 0,
      join_tone boolean not null default true
    );

    create table fax_box (id uuid primary key references item (id));

    create table fax (
      id uuid primary key,
      box_id uuid not null references fax_box (id),
      call_id uuid not null unique,
      sender text not null,
      pages integer not null check (pages between 1 and 1000),
      at timestamptz not null default now(),
      file bytea not null
    );
    create index fax_by_box on fax (box_id, at desc);

    alter table call drop constraint call_result_check;
    alter table call add constraint call_result_check check (result in
      ('answered', 'abandoned', 'voicemail', 'turnedAway', 'nowhere', 'forwarded', 'conference', 'fax', 'noAnswer', 'busy',
       'machine', 'hungUp', 'optedOut', 'refused', 'noRoute', 'congestion', 'unreachable', 'lineClosed'));
  `);
}
