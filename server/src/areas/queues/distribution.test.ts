import { afterAll, beforeAll, expect, test } from 'vitest';
import { openQueues } from './queues.testing.ts';

let night: Awaited<ReturnType<typeof openQueues>>;
let crew: string;
let ines: string;
let omar: string;
beforeAll(async () => {
  night = await openQueues();
  ({ crew, ines, omar } = night);
});
afterAll(() => night.drop());

test('a queue says who is rung first, in turns; its history takes it back', async () => {
  const { id } = await night.make('/api/queues', { name: 'Storm', members: [crew, omar] });
  expect(await night.read(id)).toMatchObject({ distribution: 'longestIdle', turns: [], ringsAtMost: 10 });
  expect(await night.compiled(id)).not.toHaveProperty('turns');
  const later = { distribution: 'allAtOnce', ringsAtMost: 4, turns: [{ memberId: crew, turn: 2 }] };
  expect((await night.write(id, later)).status).toBe(200);
  expect(await night.read(id)).toMatchObject(later);
  expect(await night.compiled(id)).toMatchObject({
    ...{ distribution: 'allAtOnce', ringsAtMost: 4, members: [ines, omar], turns: [2, 1] },
  });
});

test('who leaves a queue leaves their turn, and who is in it by their team too stands where they stand first', async () => {
  const { id } = await night.make('/api/queues', {
    ...{ name: 'Bookings', members: [ines, crew, omar] },
    turns: [
      { memberId: crew, turn: 3 },
      { memberId: omar, turn: 2 },
    ],
  });
  expect(await night.compiled(id)).toMatchObject({ members: [ines, omar], turns: [1, 2] });
  const { status } = await night.admin.send('POST', '/api/people/bulk', {
    ids: [omar],
    change: { leaveQueueId: id },
  });
  expect(status).toBe(200);
  expect(await night.read(id)).toMatchObject({ members: [ines, crew], turns: [{ memberId: crew, turn: 3 }] });
});

test('what does not fit is said where it is, and nothing is saved', async () => {
  const { id } = await night.make('/api/queues', { name: 'Refunds', members: [ines] });
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
    const { status, body } = await night.write(id, change);
    expect([status, body.errors[0]!.path]).toEqual([422, path]);
    expect(body.errors[0]!.detail).toContain(sentence);
  }
  const { status, body } = await night.write(id, { distribution: 'bestSkill' });
  expect(status).toBe(422);
  expect(JSON.stringify(body)).toContain('name one that the queue asks for');
  expect(await night.read(id)).toMatchObject({ version: 1, distribution: 'longestIdle', turns: [] });
});
