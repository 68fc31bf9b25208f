import { afterAll, beforeAll, expect, test } from 'vitest';
import type { Database } from '../database/connection.ts';
import { type Browser, openNight, TestGateway, until } from '../server.testing.ts';
import type { NightBell } from '../app.ts';

let night: NightBell;
let database: Database;
let admin: Browser;
let drop: () => Promise<void>;
const gateway = new TestGateway();
const ours = '+12065550140';
const theirs = '+13605550117';

beforeAll(async () => {
  ({ night, admin, database, drop } = await openNight(gateway));
});
afterAll(() => drop());

test('what steps ask of the server is done: a text is written down, a number looked up, an answer kept', async () => {
  const make = async (url: string, body: object) =>
    (await admin.send<{ id: string }>('POST', url, body)).body.id;
  const prompt = { kind: 'menu', language: 'en', personId: null, words: 'Press a key.' };
  const promptId = await make('/api/prompts', { name: 'Question', ...prompt });
  await admin.send('POST', `/api/prompts/${promptId}/publish`, {}, { 'if-match': '"1"' });
  await admin.send('POST', '/api/balance/top-ups', { amount: '5' });
  const numberId = await make('/api/numbers', { e164: ours, label: 'Main' });
  const steps = {
    s1: {
      kind: 'customerNumber',
      config: { promptId, field: '', waitSeconds: 6, tries: 1, limitSeconds: 4, languageField: '' },
      exits: { known: 's2', notKnown: 's2' },
    },
    s2: {
      kind: 'textBack',
      config: { numberId, words: 'You called {{ call.number }}.', hoursId: '' },
      exits: { next: 's3' },
    },
    s3: { kind: 'survey', config: { promptId, question: 'Helped', waitSeconds: 6 }, exits: { next: 's4' } },
    s4: { kind: 'end', config: {}, exits: {} },
  };
  const id = await make('/api/plans', { name: 'Asks', document: { start: 's1', steps } });
  const number = await admin.send<{ item: object; version: number }>('GET', `/api/numbers/${numberId}`);
  expect(number.status).toBe(200);
  await admin.send('POST', '/api/numbers/bulk', {
    ids: [numberId],
    change: { destination: { kind: 'plan', id } },
  });
  const published = await admin.send('POST', `/api/plans/${id}/publish`, {}, { 'if-match': '"1"' });
  expect(published.status).toBe(200);
  const view = () => night.live.exchange.view();
  await until(
    () => view().plans.has(id) && [...view().numbers.values()].some(({ plan }) => plan !== null),
    'it is known',
  );

  gateway.say({ kind: 'call', ref: 'c', to: ours, from: theirs });
  const { callId } = await gateway.wait('callAccepted', ({ ref }) => ref === 'c');
  const leg = `${callId}.1`;
  const isAt = (stepId: string) => view().calls.get(callId)?.route.at(-1)?.stepId === stepId;
  await until(() => isAt('s1'), 'a number is asked for');
  for (const key of ['4', '7', '#']) gateway.say({ kind: 'key', leg, key });
  // Nobody has it: the customer systems were asked, and the call went on at once.
  await until(() => isAt('s3'), 'the answer is back');
  gateway.say({ kind: 'key', leg, key: '4' });
  const { story } = await until(async () => {
    const { status, body } = await admin.send<{ story: { kind: string }[] }>('GET', `/api/calls/${callId}`);
    return status === 200 && body.story.some(({ kind }) => kind === 'ended') ? body : null;
  }, 'the call is over');
  expect(story).toEqual(
    expect.arrayContaining([
      expect.objectContaining({ kind: 'wrongCustomerNumber', digits: 2 }),
      expect.objectContaining({ kind: 'textSent', body: 'You called +1 206 555 0140.' }),
      expect.objectContaining({ kind: 'surveyAnswered', question: 'Helped', answer: 4 }),
    ]),
  );
  expect(JSON.stringify(story)).not.toContain('"47"');
  const texts = await database('text_message').where({ other_side: theirs }).select('body', 'direction');
  expect(texts).toEqual([{ body: 'You called +1 206 555 0140.', direction: 'out' }]);
  expect(await database('survey_answer').where({ call_id: callId })).toMatchObject([
    { question: 'Helped', answer: 4, plan_id: id },
  ]);
});

test('a caller who is asked may answer by text; a note of the plan goes to their record with the call', async () => {
  const make = async (url: string, body: object) =>
    (await admin.send<{ id: string }>('POST', url, body)).body.id;
  const promptId = (await database('prompt').first('id'))!.id;
  const numberId = (await database('number').first('id'))!.id;
  const { id: personId } = (await admin.send<{ id: string }>('POST', '/api/people', { name: 'Rita Reader' }))
    .body;
  await database('number')
    .where({ id: numberId })
    .update({ can_text: true, texts_kind: 'person', texts_item: personId });
  const answers = [
    { id: 'a1', name: 'Times', phrases: ['times'] },
    { id: 'a2', name: 'Book', phrases: ['book'] },
  ];
  const ask = { promptId, answers, waitSeconds: 30, tries: 1, numberId, words: 'Times or book?' };
  const left = { when: 'always', note: 'Asked for {{ call.number }}', numberId: '', words: '', hoursId: '' };
  const steps = {
    s1: { kind: 'whenLeft', config: left, exits: { next: 's2' } },
    s2: { kind: 'ask', config: ask, exits: { answera1: 's3', answera2: 's3', notUnderstood: 's3' } },
    s3: { kind: 'end', config: {}, exits: {} },
  };
  const id = await make('/api/plans', { name: 'Listens', document: { start: 's1', steps } });
  const published = await admin.send('POST', `/api/plans/${id}/publish`, {}, { 'if-match': '"1"' });
  expect(published.status).toBe(200);
  await admin.send('POST', '/api/numbers/bulk', {
    ids: [numberId],
    change: { destination: { kind: 'plan', id } },
  });
  const view = () => night.live.exchange.view();
  await until(() => view().plans.has(id), 'the plan is known');
  await night.live.settled();
  gateway.say({ kind: 'call', ref: 'asked', to: ours, from: theirs });
  const { callId } = await gateway.wait('callAccepted', ({ ref }) => ref === 'asked');
  const heard = await gateway.wait('listen', (message) => message.callId === callId);
  expect(heard.phrases).toEqual(['times', 'book']);
  gateway.say({ kind: 'text', ref: 't1', to: ours, from: theirs, body: 'Book, please', price: '0.01' });
  const story = await until(async () => {
    const { status, body } = await admin.send<{ story: { kind: string }[] }>('GET', `/api/calls/${callId}`);
    return status === 200 && body.story.some(({ kind }) => kind === 'ended') ? body.story : null;
  }, 'the call is over');
  expect(story).toEqual(
    expect.arrayContaining([
      expect.objectContaining({ kind: 'understood', by: 'text', answer: 'Book' }),
      expect.objectContaining({ kind: 'noteNotLeft', why: 'notKnown' }),
    ]),
  );
  // The text itself is kept for whoever reads it.
  expect(await database('text_message').where({ ref: 't1' })).toMatchObject([{ body: 'Book, please' }]);
});
