import { afterAll, beforeAll, expect, test } from 'vitest';
import type { PlanView } from '@night-bell/core/contracts/plans';
import type { Database } from '../../database/connection.ts';
import { type Browser, openNight } from '../../server.testing.ts';
import { forwardLoops, noteForwardLoop, outsideItem } from '../outside/store.ts';
import { promptsOfAnother } from './readiness.ts';

let database: Database;
let drop: () => Promise<void>;
let admin: Browser;

beforeAll(async () => {
  ({ admin, database, drop } = await openNight());
});
afterAll(() => drop());

const made = async <T = { id: string; version: number }>(url: string, body: object) => {
  const answer = await admin.send<T>('POST', url, body);
  expect(answer.status, JSON.stringify(answer.body)).toBeLessThan(300);
  return answer.body;
};

test('what is somebody’s own belongs on a plan that has to do with them', async () => {
  const tom = await made('/api/people', { name: 'Tom', role: 'agent' });
  const prompt = await made('/api/prompts', {
    ...{ name: 'Tom is out', kind: 'announcement', language: 'en', personId: tom.id, words: 'I am out.' },
  });
  const say = (exits: object) => ({ kind: 'say', config: { promptId: prompt.id, againKey: null }, exits });
  const plan = await made<PlanView>('/api/plans', {
    name: 'Main line',
    document: { start: 's1', steps: { s1: say({}) } },
  });
  // Nobody is led there yet.
  expect(await promptsOfAnother(database)).toEqual([]);
  await made('/api/numbers', {
    ...{ e164: '+15035550101', label: 'Main', destination: { kind: 'plan', id: plan.id }, sourceId: null },
  });
  expect(await promptsOfAnother(database)).toEqual([
    { id: prompt.id, name: 'Tom is out', plan: 'Main line' },
  ]);
  const ringing = {
    start: 's1',
    steps: {
      s1: say({ next: 's2' }),
      s2: { kind: 'ring', config: { personId: tom.id, seconds: 20 }, exits: {} },
    },
  };
  const changed = await admin.send(
    'PUT',
    `/api/plans/${plan.id}`,
    { name: 'Main line', document: ringing },
    { 'if-match': `"${plan.version}"` },
  );
  expect(changed.status, JSON.stringify(changed.body)).toBe(200);
  expect(await promptsOfAnother(database)).toEqual([]);
});

test('a number outside that sent calls back is told of until it is changed', async () => {
  const porter = { name: 'Porter', extension: null, e164: '+15035550150', trunkId: null, ringSeconds: 20 };
  const author = { personId: null, batch: '01234567-89ab-7def-8123-456789abcdef' };
  const id = await database.transaction((trx) => outsideItem.create(trx, porter, author));
  expect(await forwardLoops(database)).toEqual([]);
  await noteForwardLoop(database, id);
  expect(await forwardLoops(database)).toEqual([{ id, name: 'Porter' }]);
  await database.transaction((trx) =>
    outsideItem.change(trx, id, 1, { ...porter, e164: '+15035550151' }, author),
  );
  expect(await forwardLoops(database)).toEqual([]);
});
