import type { Knex } from 'knex';

/** What follows when nobody lifts becomes a row of steps; histories are told in the same shape, so that they go back. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table person add column no_answer jsonb not null default '[]';
    update person set no_answer = jsonb_build_array(
        case when no_answer_item is null then jsonb_build_object('kind', no_answer_kind)
          else jsonb_build_object('kind', no_answer_kind, 'id', no_answer_item) end)
      where no_answer_kind is not null;
    alter table person drop column no_answer_kind, drop column no_answer_item;

    update change set
      before = case jsonb_typeof(before -> 'noAnswer')
        when 'null' then jsonb_set(before, '{noAnswer}', '[]')
        when 'object' then jsonb_set(before, '{noAnswer}', jsonb_build_array(before -> 'noAnswer'))
        else before end,
      after = case jsonb_typeof(after -> 'noAnswer')
        when 'null' then jsonb_set(after, '{noAnswer}', '[]')
        when 'object' then jsonb_set(after, '{noAnswer}', jsonb_build_array(after -> 'noAnswer'))
        else after end
      where before -> 'noAnswer' is not null or after -> 'noAnswer' is not null;
  `);
}
