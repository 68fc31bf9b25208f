import type { Knex } from 'knex';

/** Keys by which scripts use the API. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table item drop constraint item_kind_check;
    alter table item add constraint item_kind_check check (kind in
      ('team', 'person', 'phone', 'queue', 'number', 'voicemail', 'trunk', 'campaign', 'source', 'connection', 'skill',
       'rule', 'outside', 'room', 'fax', 'hours', 'prompt', 'plan', 'blocked', 'code', 'scriptKey'));
    create table script_key (
      id uuid primary key references item (id),
      role text not null check (role in ('administrator', 'supervisor', 'auditor')),
      areas jsonb not null,
      secret_hash text unique,
      begins text,
      made_by uuid references person (id),
      last_used_at timestamptz
    );
    alter table change drop constraint change_what_check;
    alter table change add constraint change_what_check check (what in
      ('created', 'changed', 'retired', 'reactivated', 'storm', 'stormOver', 'published', 'spoken', 'recorded',
       'brought', 'heard', 'kept', 'deleted', 'restored', 'forwarded', 'calledBack', 'pinSet', 'pinSent',
       'pinTaken', 'scheduled', 'unscheduled', 'rights', 'earlierSound', 'secretMade'));
  `);
}
