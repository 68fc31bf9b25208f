import { afterAll, beforeAll, expect, test } from 'vitest';
import type { NoAnswerStep } from '@night-bell/core/model/destination';
import { type PersonChange, personChange } from '@night-bell/core/model/people.schema';
import type { NightBell } from '../../app.ts';
import { type Browser, openNight, until } from '../../server.testing.ts';
import type { NewPerson } from './create.ts';
import type { PersonView } from './store.ts';

interface Refusal {
  errors: { path: string; detail: string }[];
}

let night: NightBell;
let drop: () => Promise<void>;
let admin: Browser;

beforeAll(async () => {
  ({ night, admin, drop } = await openNight());
});
afterAll(() => drop());

const person = async (name: string) =>
  (await admin.send<NewPerson>('POST', '/api/people', { name, phoneModel: null })).body;
const read = async (id: string) =>
  (await admin.send<{ person: PersonView; usedBy: unknown }>('GET', `/api/people/${id}`)).body.person;

async function setSteps(id: string, noAnswer: unknown[]) {
  const now = await read(id);
  const draft = personChange.validate({ ...now, noAnswer: [] }, { stripUnknown: true }).value as PersonChange;
  const headers = { 'if-match': `"${now.version}"` };
  return admin.send<Refusal>('PUT', `/api/people/${id}`, { ...draft, noAnswer }, headers);
}

test('steps are kept in their order, reach the exchange, are told where they are used, and go back', async () => {
  const [one, two] = [await person('Steps Away'), await person('Steps In')];
  const { body: outside } = await admin.send<{ id: string }>('POST', '/api/outside-numbers', {
    name: 'Quay hut',
    e164: '+1 425 555 0120',
  });
  const steps: NoAnswerStep[] = [
    { kind: 'otherPhones' },
    { kind: 'outside', id: outside.id },
    { kind: 'person', id: two.id },
    { kind: 'end' },
  ];
  expect((await setSteps(one.id, steps)).status).toBe(200);
  expect((await read(one.id)).noAnswer).toEqual(steps);
  await until(
    () => night.live.exchange.view().agents.get(one.id)?.person.noAnswer.length === 4,
    'the exchange knows',
  );
  const { body } = await admin.send<{ usedBy: unknown[] }>('GET', `/api/people/${two.id}`);
  expect(body.usedBy).toMatchObject([{ name: 'Steps Away', how: 'when nobody lifts' }]);
  expect((await setSteps(one.id, [])).status).toBe(200);
  const { body: history } = await admin.send<{ id: number }[]>('GET', `/api/items/${one.id}/history`);
  expect((await admin.send('POST', `/api/changes/${history[0]!.id}/take-back`)).status).toBe(204);
  expect((await read(one.id)).noAnswer).toEqual(steps);
});

test('faults are told at their step', async () => {
  const [one, two] = [await person('Faulty Steps'), await person('Fine Colleague')];
  const refused = async (...steps: unknown[]) => {
    const { status, body } = await setSteps(one.id, steps);
    return [status, body.errors[0]?.path, body.errors[0]?.detail];
  };
  const colleague = { kind: 'person', id: two.id };
  expect(await refused(colleague, { kind: 'person', id: one.id })).toEqual([
    422,
    '/noAnswer/1',
    'Calls cannot go back to the person who did not lift.',
  ]);
  expect(await refused({ kind: 'end' }, colleague)).toEqual([
    422,
    '/noAnswer',
    'Nothing comes after step 1: there the call rests.',
  ]);
  expect(await refused(colleague, colleague)).toEqual([422, '/noAnswer/1', 'This step is there already.']);
  expect(await refused({ kind: 'person', id: crypto.randomUUID() })).toEqual([
    422,
    '/noAnswer/0',
    'That destination does not exist. Choose another.',
  ]);
  expect(await refused({ kind: 'elsewhere' })).toMatchObject([
    422,
    '/noAnswer/0',
    'Choose where the call goes.',
  ]);
  const made = await admin.send<Refusal>('POST', '/api/people', {
    name: 'New With Steps',
    noAnswer: [{ kind: 'queue', id: two.id }],
  });
  expect([made.status, made.body.errors[0]?.path]).toEqual([422, '/noAnswer/0']);
  expect((await read(one.id)).noAnswer).toEqual([]);
});
