import { afterAll, beforeAll, expect, test } from 'vitest';
import type { HoursPlayed, QueueMeasured } from '@night-bell/core/contracts/queue-hours';
import { until } from '../../server.testing.ts';
import { newId } from '../../spine/items.ts';
import { openQueues, type Refused } from './queues.testing.ts';

let night: Awaited<ReturnType<typeof openQueues>>;
let id: string;
beforeAll(async () => {
  night = await openQueues();
  await night.database('installation').update({ time_zone: 'UTC' });
  id = (await night.make('/api/queues', { name: 'Bookings', members: [night.ines, night.omar] })).id;
});
afterAll(() => night.drop());

/** The exchange hears of a queue, and of its people, a moment after they were saved. */
const known = (queueId: string, members: number) =>
  until(async () => {
    const { body } = await night.admin.send<QueueMeasured>('GET', `/api/queues/${queueId}/measured`);
    return body.all === members;
  }, 'the exchange knows the queue');

const asked = {
  ...{ distribution: 'roundRobin', calls: 30, talkSeconds: 120, patienceSeconds: 200, people: 'all' },
  seeds: [1, 2],
};
const play = <Reply = HoursPlayed>(change: object = {}, queueId = id) =>
  night.admin.send<Reply>('POST', `/api/queues/${queueId}/hours`, { ...asked, ...change });

test('hours are played by the exchange with the people of the queue; the same seed has the same answer', async () => {
  await known(id, 2);
  const { status, body } = await play();
  expect(status).toBe(200);
  expect(body.people.map(({ name }) => name)).toEqual(['Ines Calloway', 'Omar Haddad']);
  expect(body.runs).toHaveLength(2);
  for (const { answered, calls } of body.runs) {
    expect(answered).toBeGreaterThan(5);
    expect(calls[0]! + calls[1]!).toBe(answered);
  }
  expect((await play()).body).toEqual(body);
  expect((await play({ seeds: [2] })).body.runs[0]).toEqual(body.runs[1]);
});

test('what cannot be played is said', async () => {
  const wrong: [object, string, string][] = [
    [{ calls: 0 }, '/calls', 'from 1 to 3,000'],
    [{ calls: '60' }, '/calls', 'from 1 to 3,000'],
    [{ talkSeconds: 1 }, '/talkSeconds', ''],
    [{ distribution: 'loudest' }, '/distribution', ''],
  ];
  for (const [change, path, sentence] of wrong) {
    const { status, body } = await play<Refused>(change);
    expect([status, body.errors[0]!.path]).toEqual([422, path]);
    expect(body.errors[0]!.detail).toContain(sentence);
  }
  const none = await play<Refused>({ seeds: [] });
  expect([none.status, JSON.stringify(none.body)]).toEqual([
    422,
    expect.stringContaining('one hour at least'),
  ]);
  const tooMany = await play<Refused>({ calls: 3_000, seeds: Array.from({ length: 20 }, (_, i) => i + 1) });
  expect([tooMany.status, JSON.stringify(tooMany.body)]).toEqual([
    422,
    expect.stringContaining('more than 30,000 calls'),
  ]);
  expect((await play({ people: 'here' })).body).toMatchObject({
    detail: expect.stringContaining('None of its members'),
  });
  const empty = await night.make('/api/queues', { name: 'Nobody', members: [] });
  await until(
    async () => JSON.stringify((await play({}, empty.id)).body).includes('no members'),
    'the exchange knows the queue that has nobody',
  );
  expect((await play({}, newId())).status).toBe(404);
});

test('what an hour is like is measured from the calls of the last weeks, by the company’s clock', async () => {
  const read = async () => (await night.admin.send<QueueMeasured>('GET', `/api/queues/${id}/measured`)).body;
  expect(await read()).toMatchObject({
    days: 28,
    hour: null,
    calls: null,
    talkSeconds: null,
    all: 2,
    here: 0,
  });
  const yesterday = new Date(Date.now() - 86_400_000);
  yesterday.setUTCHours(10, 15, 0, 0);
  const call = (result: string, talked: number, queued: number, minutes = 0) =>
    night.database('call').insert({
      ...{ id: newId(), direction: 'inbound', dialled: '+12065550140', caller: '+13605550117', result },
      ...{ queue_id: id, arrived_at: new Date(yesterday.getTime() + minutes * 60_000), ended_at: new Date() },
      ...{ ended_by: 'caller', waited_ms: queued, queued_ms: queued, talked_ms: talked, offers: 0 },
      ...{ stand_in: true, story: '[]' },
    });
  await call('answered', 100_000, 10_000);
  await call('answered', 200_000, 20_000);
  await call('abandoned', 0, 90_000);
  await call('answered', 300_000, 0, 60);
  expect(await read()).toMatchObject({ hour: 10, calls: 3, talkSeconds: 200, patienceSeconds: 120 });
});
