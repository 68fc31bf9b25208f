import type { Knex } from 'knex';
import type { surveyBy, SurveyRow } from '@night-bell/core/contracts/surveys';

export interface SurveyAnswer {
  callId: string;
  question: string;
  answer: number;
  planId: string | null;
  queueId: string | null;
  personId: string | null;
}

const uuid = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;
const known = (id: string | null) => (id !== null && uuid.test(id) ? id : null);

/** Keeps an answer; the last one to a question of a call counts. A plan that is only tried has no id of its own. */
export async function keepAnswer(trx: Knex, answer: SurveyAnswer, at = new Date()): Promise<void> {
  await trx('survey_answer')
    .insert({
      ...{ call_id: answer.callId, question: answer.question, answer: answer.answer, at },
      plan_id: known(answer.planId),
      queue_id: known(answer.queueId),
      person_id: known(answer.personId),
    })
    .onConflict(['call_id', 'question'])
    .merge(['answer', 'at']);
}

const columns = { person: 'person_id', queue: 'queue_id', plan: 'plan_id', question: null } as const;

/** What was answered in a stretch of time, put together; by name, then by question. */
export async function answersBy(
  database: Knex,
  { by, from, to }: { by: (typeof surveyBy)[number]; from: Date; to: Date },
): Promise<SurveyRow[]> {
  const column = columns[by];
  const item = column === null ? 'null::uuid' : `a.${column}`;
  const { rows } = await database.raw<{
    rows: { itemId: string | null; name: string | null; question: string; counts: number[]; mean: number }[];
  }>(
    `select ${item} as "itemId", i.name, a.question,
       array[${[1, 2, 3, 4, 5].map((n) => `count(*) filter (where a.answer = ${n})::int`).join(', ')}] as counts,
       round(avg(a.answer) * 100)::int as mean
     from survey_answer a left join item i on i.id = ${item}
     where a.at >= ? and a.at < ?
     group by 1, 2, 3 order by i.name collate listing nulls last, a.question, 1`,
    [from, to],
  );
  return rows.map(({ itemId, name, question, counts, mean }) => ({
    ...{ by, itemId, question, counts, mean },
    name: name ?? (column === null ? question : 'not known'),
    answers: counts.reduce((sum, count) => sum + count, 0),
  }));
}
