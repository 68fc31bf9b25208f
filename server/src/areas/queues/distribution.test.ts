import { afterAll, beforeAll, expect, test } from 'vitest';
import type { QueueView } from '@night-bell/core/contracts/queues';
import { compileConfiguration } from '../../live/compile.ts';
import type { Database } from '../../database/connection.ts';
import { type Browser, openNight } from '../../server.testing.ts';

interface Refusal {
  detail: string;
  errors: { path: string; detail: string }[];
}

let database: Database;
let admin: Browser;
let drop: () => Promise<void>;
let crew: string;
let ines: string;
let omar: string;

beforeAll(async () => {
  ({ database, admin, drop } = await openNight());
  crew = (await make('/api/teams', { name: 'Crew' })).id;
  ines = (await make('/api/people', { name: 'Ines Calloway', teamId: crew })).id;
  omar = (await make('/api/people', { name: 'Omar Haddad' })).id;
});
afterAll(() => drop());

const make = async (url: string, body: object) => (await admin.send<{ id: string }>('POST', url, body)).body;
const read = async (id: string) =>
  (await admin.send<{ item: QueueView }>('GET', `/api/queues/${id}`)).body.item;
const write = async (id: string, change: object) => {
  const {
    id: _id,
    version,
    retired: _retired,
    voicemailBoxId: _box,
    peopleCount: _count,
    ...draft
  } = await read(id);
  return admin.send<Refusal>(
    'PUT',
    `/api/queues/${id}`,
    { ...draft, ...change },
    {
      'if-match': `"${version}"`,
    },
  );
};
const compiled = async (id: string) =>
  (await compileConfiguration(database)).queues.find((queue) => queue.id === id)!;

test('a queue says who is rung first, in turns; its history takes it back', async () => {
  const { id } = await make('/api/queues', { name: 'Storm', members: [crew, omar] });
  expect(await read(id)).toMatchObject({ distribution: 'longestIdle', turns: [], ringsAtMost: 10 });
  expect(await compiled(id)).not.toHaveProperty('turns');
  const later = { distribution: 'allAtOnce', ringsAtMost: 4, turns: [{ memberId: crew, turn: 2 }] };
  expect((await write(id, later)).status).toBe(200);
  expect(await read(id)).toMatchObject(later);
  expect(await compiled(id)).toMatchObject({
    ...{ distribution: 'allAtOnce', ringsAtMost: 4, members: [ines, omar], turns: [2, 1] },
  });
});

test('who leaves a queue leaves their turn, and who is in it by their team too stands where they stand first', async () => {
  const { id } = await make('/api/queues', {
    ...{ name: 'Bookings', members: [ines, crew, omar] },
    turns: [
      { memberId: crew, turn: 3 },
      { memberId: omar, turn: 2 },
    ],
  });
  expect(await compiled(id)).toMatchObject({ members: [ines, omar], turns: [1, 2] });
  const { status } = await admin.send('POST', '/api/people/bulk', {
    ids: [omar],
    change: { leaveQueueId: id },
  });
  expect(status).toBe(200);
  expect(await read(id)).toMatchObject({ members: [ines, crew], turns: [{ memberId: crew, turn: 3 }] });
});

test('what does not fit is said where it is, and nothing is saved', async () => {
  const { id } = await make('/api/queues', { name: 'Refunds', members: [ines] });
  const wrong: [object, string, string][] = [
    [{ turns: [{ memberId: omar, turn: 2 }] }, '/turns/0', 'not a member'],
    [{ turns: [{ memberId: ines, turn: 10 }] }, '/turns/0/turn', 'A turn is 1 to 9.'],
    [{ turns: [{ memberId: ines, turn: 'two' }] }, '/turns/0/turn', 'A turn is 1 to 9.'],
    [{ turns: [1, 2].map((turn) => ({ memberId: ines, turn })) }, '/turns/1', 'Somebody has two turns.'],
    [{ ringsAtMost: 0 }, '/ringsAtMost', 'from 1 to 50'],
    [{ ringsAtMost: '7' }, '/ringsAtMost', 'from 1 to 50'],
    [{ distribution: 'loudest' }, '/distribution', ''],
  ];
  for (const [change, path, sentence] of wrong) {
    const { status, body } = await write(id, change);
    expect([status, body.errors[0]!.path]).toEqual([422, path]);
    expect(body.errors[0]!.detail).toContain(sentence);
  }
  const { status, body } = await write(id, { distribution: 'bestSkill' });
  expect(status).toBe(422);
  expect(JSON.stringify(body)).toContain('name one that the queue asks for');
  expect(await read(id)).toMatchObject({ version: 1, distribution: 'longestIdle', turns: [] });
});
