import type { Knex } from 'knex';

/** What waiting in a queue is like: ways out, what is heard, how it gets easier, who may be rung when, what is aimed at. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table queue
      add when_all_away_kind text,
      add when_all_away_item uuid references item(id),
      add leave_key text check (leave_key ~ '^[0-9*#]$'),
      add when_leaves_kind text,
      add when_leaves_item uuid references item(id),
      add keeps_time jsonb not null default '[]',
      add age_points integer not null default 0 check (age_points between 0 and 9),
      add ages_across boolean not null default false,
      add record_priorities jsonb not null default '[]',
      add rings_away jsonb not null default '[]',
      add rings_in_wrap_up boolean not null default false,
      add most_texts integer check (most_texts between 1 and 20),
      add music_id uuid references item(id),
      add announce_seconds integer check (announce_seconds between 15 and 600),
      add announcement_id uuid references item(id),
      add tells_place boolean not null default false,
      add tells_wait boolean not null default false,
      add call_back jsonb,
      add phone_shows jsonb not null default '["queue", "caller"]',
      add goal_percent integer not null default 80 check (goal_percent between 1 and 100),
      add goal_seconds integer not null default 20 check (goal_seconds between 5 and 600);
    -- Whoever leaves by a key goes where the queue has sent those who waited too long.
    update queue set when_leaves_kind = when_too_long_kind, when_leaves_item = when_too_long_item;
    alter table queue alter when_leaves_kind set not null;
    alter table queue_member add joins_after integer not null default 0 check (joins_after between 0 and 3600);
    alter table queue_skill add relaxes jsonb not null default '[]';
    -- Waited in the last queue, where waited_ms counts from the call's beginning.
    alter table call add queued_ms integer;
    alter table number add priority integer not null default 0 check (priority between 0 and 9);
  `);
}
