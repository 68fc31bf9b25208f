import type { Knex } from 'knex';

/** Where callers go by how their numbers begin: tables that plans share. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table item drop constraint item_kind_check;
    alter table item add constraint item_kind_check check (kind in
      ('team', 'person', 'phone', 'queue', 'number', 'voicemail', 'trunk', 'campaign', 'source', 'connection', 'skill',
       'rule', 'outside', 'room', 'fax', 'hours', 'prompt', 'plan', 'blocked', 'code', 'scriptKey', 'region'));
    create table region_table (id uuid primary key references item (id));
    create table region_row (
      -- Of region_table. Tables are never deleted, and a check for each of 50,000 rows is a second.
      table_id uuid not null,
      -- Digits of E.164 without the plus.
      prefix text not null check (prefix ~ '^[1-9][0-9]{0,14}$'),
      place text,
      destination_kind text not null,
      destination_item uuid references item (id),
      primary key (table_id, prefix)
    );
    create index region_row_by_destination on region_row (destination_item);
    alter table change drop constraint change_what_check;
    alter table change add constraint change_what_check check (what in
      ('created', 'changed', 'retired', 'reactivated', 'storm', 'stormOver', 'published', 'spoken', 'recorded',
       'brought', 'heard', 'kept', 'deleted', 'restored', 'forwarded', 'calledBack', 'pinSet', 'pinSent',
       'pinTaken', 'scheduled', 'unscheduled', 'rights', 'earlierSound', 'secretMade', 'rowsSet'));
  `);
  for (const table of ['region_table', 'region_row'])
    for (const event of ['insert', 'update', 'delete'])
      await database.raw(`create trigger touches_set_up_after_${event} after ${event} on ${table}
        referencing ${event === 'delete' ? 'old' : 'new'} table as changed
        for each statement execute function touch_set_up()`);
}
