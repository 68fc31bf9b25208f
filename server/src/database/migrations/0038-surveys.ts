import type { Knex } from 'knex';

/** What callers answered after a talk: kept with the call, by agent, queue and plan. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    create table survey_answer (
      call_id uuid not null,
      question text not null,
      answer integer not null check (answer between 1 and 5),
      plan_id uuid,
      queue_id uuid,
      person_id uuid,
      at timestamptz not null default now(),
      -- The last answer to a question counts.
      primary key (call_id, question)
    );
    create index survey_answer_by_time on survey_answer (at);
  `);
}
