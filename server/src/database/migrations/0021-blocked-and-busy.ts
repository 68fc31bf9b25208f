import type { Knex } from 'knex';

/** Callers who are turned away, numbers that take so many calls at once, and queues that follow opening hours. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table item drop constraint item_kind_check;
    alter table item add constraint item_kind_check check (kind in
      ('team', 'person', 'phone', 'queue', 'number', 'voicemail', 'trunk', 'campaign', 'source', 'connection', 'skill',
       'rule', 'outside', 'room', 'fax', 'hours', 'prompt', 'plan', 'blocked', 'code'));

    create table blocked (
      id uuid primary key references item (id),
      kind text not null check (kind in ('number', 'prefix', 'withheld')),
      digits text not null,
      until timestamptz,
      why text not null,
      hits bigint not null default 0,
      last_hit timestamptz
    );

    alter table number add column most_calls integer check (most_calls between 1 and 10000);
    alter table queue
      add column hours_id uuid references opening_hours (id),
      add column when_closed_kind text,
      add column when_closed_item uuid references item (id),
      add column at_closing text not null default 'serve' check (at_closing in ('serve', 'sendOn'));
  `);
}
