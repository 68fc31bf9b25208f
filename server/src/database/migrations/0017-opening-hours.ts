import type { Knex } from 'knex';

/** Named sets of opening hours; a storm lies over a set and ends by itself. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table item drop constraint item_kind_check;
    alter table item add constraint item_kind_check check (kind in
      ('team', 'person', 'phone', 'queue', 'number', 'voicemail', 'trunk', 'campaign', 'source', 'connection', 'skill',
       'rule', 'outside', 'room', 'fax', 'hours'));

    create table opening_hours (
      id uuid primary key references item (id),
      zone text not null,
      -- Seven days, Monday first, each a list of [from, to] in minutes.
      weekly jsonb not null,
      -- Days that are not as their weekday: date, name, holiday, ranges.
      days jsonb not null,
      storm_since timestamptz,
      storm_until timestamptz,
      storm_by uuid references item (id),
      check ((storm_since is null) = (storm_until is null))
    );

    alter table change drop constraint change_what_check;
    alter table change add constraint change_what_check
      check (what in ('created', 'changed', 'retired', 'reactivated', 'storm', 'stormOver'));
  `);
}
