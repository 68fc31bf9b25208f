import type { Knex } from 'knex';

/** Trunks in full, dialling rules, outside numbers as destinations, calls that people of ours dial, calls for help. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table item drop constraint item_kind_check;
    alter table item add constraint item_kind_check check (kind in
      ('team', 'person', 'phone', 'queue', 'number', 'voicemail', 'trunk', 'campaign', 'source', 'connection', 'skill',
       'rule', 'outside'));

    alter table trunk
      add column port integer not null default 5060 check (port between 1 and 65535),
      add column transport text not null default 'udp' check (transport in ('udp', 'tcp', 'tls')),
      -- Some providers know a trunk by its address and want no registration.
      add column registers boolean not null default false,
      add column secret_sealed text,
      add column secret_mark text,
      add column secret_weak boolean not null default false,
      add column codecs text[] not null default '{}',
      add column behind_router boolean not null default false,
      -- Which number goes out as caller ID: as the call has it, or always this one.
      add column number_id uuid references number (id),
      add column certificate text,
      add column certificate_key_sealed text;

    create table trunk_price (
      trunk_id uuid not null references trunk (id),
      prefix text not null check (prefix ~ '^\\+{0,1}[0-9]*$'),
      per_minute numeric(12, 6) not null check (per_minute >= 0),
      primary key (trunk_id, prefix)
    );

    create table dialling_rule (
      id uuid primary key references item (id),
      position integer not null,
      pattern text not null,
      strip integer not null check (strip between 0 and 40),
      prepend text not null,
      use text not null check (use in ('everybody', 'people', 'campaigns'))
    );
    create table rule_trunk (
      rule_id uuid not null references dialling_rule (id),
      position integer not null,
      trunk_id uuid not null references trunk (id),
      primary key (rule_id, position)
    );
    create table rule_team (
      rule_id uuid not null references dialling_rule (id),
      team_id uuid not null references team (id),
      primary key (rule_id, team_id)
    );

    create table outside_number (
      id uuid primary key references item (id),
      e164 text not null check (e164 ~ '^\\+[1-9][0-9]{6,14}$'),
      trunk_id uuid references trunk (id),
      ring_seconds integer not null default 30 check (ring_seconds between 5 and 120)
    );

    create table emergency_call (
      call_id uuid primary key,
      person_id uuid not null references person (id),
      phone_id uuid not null references phone (id),
      digits text not null,
      address text,
      at timestamptz not null default now(),
      seen_by uuid references person (id)
    );

    alter table call drop constraint call_result_check;
    alter table call add constraint call_result_check check (result in
      ('answered', 'abandoned', 'voicemail', 'turnedAway', 'nowhere', 'forwarded', 'noAnswer', 'busy', 'machine', 'hungUp',
       'optedOut', 'refused', 'noRoute', 'congestion', 'unreachable', 'lineClosed'));
    alter table call drop constraint if exists call_direction_check;
    alter table call add constraint call_direction_check
      check (direction in ('inbound', 'outbound', 'dialled', 'line'));
  `);
}
