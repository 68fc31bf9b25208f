import type { Knex } from 'knex';

/** A plan that is published at an instant, and goes back at another. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    create table plan_schedule (
      plan_id uuid primary key references plan (id),
      -- What is published: the draft as it was when it was set.
      document jsonb not null,
      publish_at timestamptz not null,
      back_at timestamptz,
      by_person uuid references item (id),
      -- Published already: what it goes back to.
      back_to integer,
      fault text,
      check (back_at is null or back_at > publish_at)
    );
    alter table change drop constraint change_what_check;
    alter table change add constraint change_what_check check (what in
      ('created', 'changed', 'retired', 'reactivated', 'storm', 'stormOver', 'published', 'spoken', 'brought',
       'heard', 'kept', 'deleted', 'restored', 'forwarded', 'calledBack', 'pinSet', 'pinSent', 'pinTaken',
       'scheduled', 'unscheduled'));
  `);
}
