import { afterAll, beforeAll, expect, test } from 'vitest';
import type { SurveyRow } from '@night-bell/core/contracts/surveys';
import type { Database } from '../../database/connection.ts';
import { writeConsequences } from '../../live/consequences.ts';
import { type Browser, openNight, personSignedIn } from '../../server.testing.ts';
import { newId } from '../../spine/items.ts';
import { keepAnswer } from './surveys.queries.ts';

let database: Database;
let admin: Browser;
let agent: Browser;
let drop: () => Promise<void>;
let queueId: string;
let personId: string;

beforeAll(async () => {
  const opened = await openNight();
  ({ admin, database, drop } = opened);
  const made = await personSignedIn(opened.night, admin, 'Al Agent', 'agent');
  [agent, personId] = [made.browser, made.made.id];
  queueId = (await admin.send<{ id: string }>('POST', '/api/queues', { name: 'Bookings' })).body.id;
});
afterAll(() => drop());

const answer = (question: string, value: number, more: object = {}) => ({
  ...{ callId: newId(), question, answer: value, planId: null, queueId, personId },
  ...more,
});
const read = async (query: string) => (await admin.send<SurveyRow[]>('GET', `/api/surveys${query}`)).body;

test('answers are kept with the events of their call, once each: the last counts', async () => {
  const callId = newId();
  const effect = (value: number) => ({
    ...{ kind: 'surveyAnswered' as const, callId, question: 'Friendly', answer: value },
    ...{ planId: 'draft', queueId, personId },
  });
  const batch = [2, 4].map((value) => ({
    event: {},
    handled: { effects: [effect(value)], records: [], refusal: null },
    ended: [],
  }));
  await database.transaction((trx) => writeConsequences(trx, batch as never));
  const rows = await database('survey_answer').where({ call_id: callId });
  expect(rows).toMatchObject([{ question: 'Friendly', answer: 4, plan_id: null, person_id: personId }]);
});

test('they are put together by person, queue, plan and question, with how many of each', async () => {
  for (const value of [5, 5, 1]) await keepAnswer(database, answer('Friendly', value));
  await keepAnswer(database, answer('Solved', 3, { personId: null }));
  await keepAnswer(database, answer('Friendly', 1), new Date(Date.now() - 40 * 86_400_000));
  expect(await read('?by=person')).toMatchObject([
    { name: 'Al Agent', question: 'Friendly', answers: 4, counts: [1, 0, 0, 1, 2], mean: 375 },
    { name: 'not known', question: 'Solved', answers: 1, counts: [0, 0, 1, 0, 0], mean: 300 },
  ]);
  expect((await read('?by=queue')).map(({ name, question }) => `${name} ${question}`)).toEqual([
    'Bookings Friendly',
    'Bookings Solved',
  ]);
  expect((await read('?by=question')).map(({ name, answers }) => [name, answers])).toEqual([
    ['Friendly', 4],
    ['Solved', 1],
  ]);
  const from = new Date(Date.now() - 50 * 86_400_000).toISOString();
  expect((await read(`?by=question&from=${from}`))[0]).toMatchObject({ answers: 5 });
});

test('agents do not read them; what is asked wrongly is refused', async () => {
  expect((await agent.send('GET', '/api/surveys')).status).toBe(403);
  expect((await admin.send('GET', '/api/surveys?by=weather')).status).toBe(422);
});
