import type { Knex } from 'knex';

/** Prompts in other languages; sounds recorded in a browser. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table prompt add column translation_of uuid references prompt (id);
    create index prompt_translation on prompt (translation_of) where translation_of is not null;
    alter table sound drop constraint if exists sound_origin_check;
    alter table sound add constraint sound_origin_check check (origin in ('spoken', 'recorded', 'brought'));
    alter table change drop constraint change_what_check;
    alter table change add constraint change_what_check check (what in
      ('created', 'changed', 'retired', 'reactivated', 'storm', 'stormOver', 'published', 'spoken', 'recorded',
       'brought', 'heard', 'kept', 'deleted', 'restored', 'forwarded', 'calledBack', 'pinSet', 'pinSent',
       'pinTaken', 'scheduled', 'unscheduled', 'rights', 'earlierSound'));
  `);
}
