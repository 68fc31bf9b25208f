import { afterAll, beforeAll, expect, test } from 'vitest';
import type { RulesCaught } from '@night-bell/core/contracts/plans';
import type { Rule } from '@night-bell/core/plan/rules';
import type { Database } from '../../database/connection.ts';
import { type Browser, openNight, TestGateway } from '../../server.testing.ts';

let database: Database;
let drop: () => Promise<void>;
let admin: Browser;
let hoursId: string;
let numberId: string;
let planId: string;

beforeAll(async () => {
  ({ admin, database, drop } = await openNight(new TestGateway()));
  const make = async (url: string, body: unknown) =>
    (await admin.send<{ id: string }>('POST', url, body)).body.id;
  const always = Array.from({ length: 7 }, () => [[0, 1_440]]);
  hoursId = await make('/api/opening-hours', { name: 'Office', zone: 'UTC', weekly: always, days: [] });
  planId = await make('/api/plans', { name: 'Main', document: { start: null, steps: {} } });
  numberId = await make('/api/numbers', {
    ...{ e164: '+12065550140', label: 'Main', destination: { kind: 'plan', id: planId } },
  });
  // 2,500 callers over ten days, every fifth of them withheld, one in 2,500 of long ago.
  await database.raw(
    `insert into call (id, dialled, caller, result, ended_by, arrived_at, ended_at, waited_ms, talked_ms, offers,
       stand_in, story, number_id)
     select gen_random_uuid(), '+12065550140',
       case when n % 5 = 0 then 'anonymous' when n % 2 = 0 then '+13605550117' else '+12065550117' end,
       'answered', 'caller', at, at, 0, 0, 1, false, '[]', case when n % 10 = 1 then null else ?::uuid end
     from (select n, now() - interval '1 day' * case when n = 2500 then 90 else 1 + n % 10 end as at
       from generate_series(1, 2500) n) calls`,
    [numberId],
  );
});
afterAll(() => drop());

const ask = async (rules: Rule[], of: string | null = null) =>
  (await admin.send<RulesCaught>('POST', '/api/plans/rules/caught', { rules, planId: of })).body;
const rule = (id: string, ...all: Rule['all']): Rule => ({ id, name: '', all });

test('callers of the last month are counted at the first rule that takes them', async () => {
  const rules = [
    rule('r1', { about: 'caller', is: 'withheld' }),
    rule('r2', { about: 'callerNumber', begins: '+1360' }, { about: 'hours', id: hoursId, state: 'open' }),
    rule('r3', { about: 'callerNumber', begins: '+1' }, { about: 'hours', id: hoursId, state: 'storm' }),
  ];
  expect(await ask(rules)).toEqual({
    ...{ days: 30, calls: 2_499, none: 1_000, unknown: 0 },
    caught: [
      { id: 'r1', calls: 499 },
      { id: 'r2', calls: 1_000 },
      { id: 'r3', calls: 0 },
    ],
  });
});

test('of a plan with numbers only their callers count', async () => {
  expect(await ask([rule('r1')], planId)).toMatchObject({ calls: 2_249, none: 0 });
});

test('what is not known of calls that are over is left open, not guessed', async () => {
  const rules = [
    rule('r1', { about: 'key', key: '1' }, { about: 'caller', is: 'withheld' }),
    rule('r2', { about: 'callerNumber', begins: '+1' }),
  ];
  expect(await ask(rules)).toMatchObject({
    ...{ unknown: 499, none: 0 },
    caught: [
      { id: 'r1', calls: null },
      { id: 'r2', calls: 2_000 },
    ],
  });
});

test('rules that cannot be are refused in a sentence', async () => {
  const refused = await admin.send<{ errors: { path: string; detail: string }[] }>(
    'POST',
    '/api/plans/rules/caught',
    { rules: [rule('r1', { about: 'key', key: 'x' })], planId: null },
  );
  expect(refused.status).toBe(422);
  expect(refused.body.errors).toMatchObject([{ path: '/rules', detail: 'Rule 1: key cannot be "x".' }]);
});

test('a plan with rules is published; one that asks for a field no record has says so', async () => {
  const hidden = rule('r2', { about: 'record', field: 'tier', is: 'same', value: 'gold' });
  const document = {
    start: 's1',
    steps: {
      s1: {
        kind: 'rules',
        config: { rules: [rule('r1', { about: 'caller', is: 'known' }), hidden] },
        exits: { otherwise: 's2', rule_r1: 's2', rule_r2: 's2' },
      },
      s2: { kind: 'end', config: {}, exits: {} },
    },
  };
  const made = await admin.send<{ id: string; version: number }>('POST', '/api/plans', {
    name: 'By rule',
    document,
  });
  expect(made.status).toBe(200);
  const published = await admin.send('POST', `/api/plans/${made.body.id}/publish`, {}, { 'if-match': '"1"' });
  expect(published.status).toBe(200);
  const open = { ...document, steps: { ...document.steps, s1: { ...document.steps.s1, exits: {} } } };
  await admin.send(
    'PUT',
    `/api/plans/${made.body.id}`,
    { name: 'By rule', document: open },
    { 'if-match': '"2"' },
  );
  const refused = await admin.send<{ findings: { code: string }[] }>(
    'POST',
    `/api/plans/${made.body.id}/publish`,
    {},
    { 'if-match': '"3"' },
  );
  expect(refused.status).toBe(409);
  expect(refused.body.findings.map(({ code }) => code)).toEqual(expect.arrayContaining(['open']));
});
