import type { Knex } from 'knex';

/** Who may work at a plan beside administrators; earlier sounds of prompts; numbers outside that send calls back. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table plan
      add column team_id uuid references team (id),
      add column team_publishes boolean not null default false;
    alter table outside_number add column loop_seen_at timestamptz;
    alter table change drop constraint change_what_check;
    alter table change add constraint change_what_check check (what in
      ('created', 'changed', 'retired', 'reactivated', 'storm', 'stormOver', 'published', 'spoken', 'brought',
       'heard', 'kept', 'deleted', 'restored', 'forwarded', 'calledBack', 'pinSet', 'pinSent', 'pinTaken',
       'scheduled', 'unscheduled', 'rights', 'earlierSound'));
  `);
}
