import type { Knex } from 'knex';

/** Skills, agents' own settings, seats, away reasons, the teams a supervisor looks after, where somebody is signed in. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table item drop constraint item_kind_check;
    alter table item add constraint item_kind_check check (kind in
      ('team', 'person', 'phone', 'queue', 'number', 'voicemail', 'trunk', 'campaign', 'source', 'connection', 'skill'));

    create table skill (id uuid primary key references item (id));

    create table person_skill (
      person_id uuid not null references person (id),
      skill_id uuid not null references skill (id),
      level integer not null check (level between 1 and 5),
      primary key (person_id, skill_id)
    );
    create table queue_skill (
      queue_id uuid not null references queue (id),
      position integer not null,
      skill_id uuid not null references skill (id),
      minimum integer not null check (minimum between 1 and 5),
      primary key (queue_id, position),
      unique (queue_id, skill_id)
    );

    -- A supervisor without rows here looks after everybody.
    create table supervised_team (
      person_id uuid not null references person (id),
      team_id uuid not null references team (id),
      primary key (person_id, team_id)
    );

    alter table person
      add column wrap_up_seconds integer check (wrap_up_seconds between 0 and 900),
      add column start_away boolean not null default false,
      add column answer_by_self boolean not null default false,
      add column elsewhere text not null default 'warn' check (elsewhere in ('warn', 'takeOver', 'refuse'));

    alter table installation add column seats integer check (seats between 0 and 100000);

    create table away_reason (
      position integer primary key,
      name text not null unique
    );
    insert into away_reason values (0, 'break'), (1, 'lunch'), (2, 'meeting'), (3, 'training');

    alter table session
      add column address text not null default '',
      add column browser text not null default '';
  `);
}
