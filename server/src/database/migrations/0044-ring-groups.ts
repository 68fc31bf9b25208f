import type { Knex } from 'knex';

/** Ring groups: a few phones that ring together or in turn, and the codes by which their members sit out. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table item drop constraint item_kind_check;
    alter table item add constraint item_kind_check check (kind in
      ('team', 'person', 'phone', 'queue', 'number', 'voicemail', 'trunk', 'campaign', 'source', 'connection', 'skill',
       'rule', 'outside', 'room', 'fax', 'hours', 'prompt', 'plan', 'blocked', 'code', 'scriptKey', 'region', 'bot',
       'ringGroup'));
    create table ring_group (
      id uuid primary key references item (id),
      ring_order text not null check (ring_order in ('allAtOnce', 'inTurn', 'roundRobin')),
      rounds integer not null check (rounds between 1 and 5),
      shows text not null check (shows in ('caller', 'groupAndCaller', 'numberDialled')),
      -- Destinations; null for its own voicemail box, or for what follows when nobody lifts.
      when_unanswered jsonb,
      when_busy jsonb,
      when_outage jsonb
    );
    create table ring_group_target (
      group_id uuid not null references ring_group (id),
      target_id uuid not null references item (id),
      position integer not null,
      seconds integer not null check (seconds between 3 and 120),
      primary key (group_id, target_id)
    );
    create index ring_group_target_by_target on ring_group_target (target_id);
    alter table service_code drop constraint service_code_does_check;
    alter table service_code add constraint service_code_does_check
      check (does in ('storm', 'voicemail', 'takePart'));
    alter table service_code add group_ids jsonb not null default '[]';
  `);
  for (const table of ['ring_group', 'ring_group_target'])
    for (const event of ['insert', 'update', 'delete'])
      await database.raw(`create trigger touches_set_up_after_${event} after ${event} on ${table}
        referencing ${event === 'delete' ? 'old' : 'new'} table as changed
        for each statement execute function touch_set_up()`);
}
