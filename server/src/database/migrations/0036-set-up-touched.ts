import type { Knex } from 'knex';

/** Tables the exchange's set-up is read from, beside items and extensions, which are of many kinds. */
const tables = [
  ...['person', 'person_skill', 'phone', 'team', 'queue', 'queue_member', 'queue_skill', 'number'],
  ...['voicemail_box', 'trunk', 'outside_number', 'room', 'fax_box', 'opening_hours', 'prompt'],
  ...['sound', 'plan', 'plan_version', 'dialling_rule', 'rule_trunk', 'rule_team', 'campaign'],
  ...['blocked', 'service_code', 'installation'],
];

/**
 * What was written since when, part by part, so that the set-up is read again only where something changed. A line for
 * each statement: those one sees are those whose changes one sees, in whatever order they were committed. The database
 * keeps it itself, so that no way of writing can forget to.
 */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    create table set_up_touch (
      id bigint generated always as identity primary key,
      part text not null,
      at timestamptz not null default now()
    );
    create index set_up_touch_by_age on set_up_touch (at);

    create function touch_set_up() returns trigger language plpgsql as $$
    begin
      insert into set_up_touch (part) select tg_table_name where exists (select from changed);
      return null;
    end $$;
    create function touch_set_up_items() returns trigger language plpgsql as $$
    begin
      insert into set_up_touch (part) select distinct 'item ' || kind from changed;
      return null;
    end $$;
    create function touch_set_up_extensions() returns trigger language plpgsql as $$
    begin
      insert into set_up_touch (part)
        select distinct 'extension ' || i.kind from changed c join item i on i.id = c.item_id;
      return null;
    end $$;
  `);
  for (const table of tables) await follow(database, table, 'touch_set_up');
  await follow(database, 'item', 'touch_set_up_items');
  await follow(database, 'extension', 'touch_set_up_extensions');
}

async function follow(database: Knex, table: string, by: string): Promise<void> {
  for (const event of ['insert', 'update', 'delete'])
    await database.raw(`create trigger touches_set_up_after_${event} after ${event} on ${table}
      referencing ${event === 'delete' ? 'old' : 'new'} table as changed
      for each statement execute function ${by}()`);
}
