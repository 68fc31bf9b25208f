import { afterAll, beforeAll, expect, test } from 'vitest';
import type { QueueFit } from '@night-bell/core/contracts/queues';
import { newId } from '../../spine/items.ts';
import { openQueues, type Refused } from './queues.testing.ts';

let night: Awaited<ReturnType<typeof openQueues>>;
let crew: string;
let ines: string;
let omar: string;
let french: string;
let tide: string;
beforeAll(async () => {
  night = await openQueues();
  ({ crew, ines, omar } = night);
  french = (await night.make('/api/skills', { name: 'French' })).id;
  tide = (
    await night.make('/api/prompts', {
      name: 'Slow tide',
      kind: 'waiting',
      words: '',
      language: 'en',
      personId: null,
    })
  ).id;
});
afterAll(() => night.drop());

const callBack = {
  ...{ key: '5', offerAfterSeconds: 120, first: 'caller', tries: 2, retryMinutes: 5 },
  ...{ fromHour: 9, toHour: 20 },
};
const waiting = () => ({
  joins: [{ memberId: crew, afterSeconds: 30 }],
  skills: [{ skillId: french, minimum: 4, relaxes: [{ afterSeconds: 40, minimum: 2 }] }],
  ...{ whenAllAway: { kind: 'end' }, leaveKey: '9', keepsTime: ['allAway'], agePoints: 2, agesAcross: true },
  recordPriorities: [{ field: 'tier', value: 'gold', priority: 7 }],
  ...{ ringsAway: ['meeting'], ringsInWrapUp: true, mostTexts: 3 },
  ...{ musicId: tide, announceSeconds: 30, tellsPlace: true, phoneShows: ['source', 'queue'] },
  ...{ goalPercent: 90, goalSeconds: 15, callBack },
});

test('what waiting is like is kept, compiled for the exchange, and comes back with its history', async () => {
  const { id } = await night.make('/api/queues', { name: 'Storm', members: [omar, crew], ...waiting() });
  expect(await night.read(id)).toMatchObject(waiting());
  expect(await night.compiled(id)).toMatchObject({
    ...{ members: [omar, ines], joinsAfter: [0, 30], agePoints: 2, ringsAway: ['meeting'] },
    skills: [{ name: 'French', minimum: 4, relaxes: [{ afterSeconds: 40, minimum: 2 }] }],
    hears: { musicId: tide, everySeconds: 30, promptId: null, tellsPlace: true, tellsWait: false },
  });
  expect((await night.write(id, { agePoints: 0, joins: [], leaveKey: null })).status).toBe(200);
  const history = await night.admin.send<{ id: number }[]>('GET', `/api/items/${id}/history`);
  const back = await night.admin.send('POST', `/api/changes/${history.body[0]!.id}/take-back`, {});
  expect(back.status).toBe(204);
  expect(await night.read(id)).toMatchObject(waiting());
  // What plays in it is used by it.
  const used = await night.admin.send<Refused>('POST', `/api/prompts/${tide}/retire`, undefined, {
    'if-match': '"1"',
  });
  expect([used.status, used.body.detail]).toEqual([409, expect.stringContaining('Storm')]);
});

test('what cannot be is said where it is, and nothing is saved', async () => {
  const { id } = await night.make('/api/queues', { name: 'Refunds', members: [omar] });
  const step = (afterSeconds: unknown, minimum: unknown) => ({ afterSeconds, minimum });
  const skill = (...relaxes: object[]) => ({ skills: [{ skillId: french, minimum: 3, relaxes }] });
  const wrong: [object, string, string][] = [
    [skill(step(40, 3)), '/skills/0', 'asks for less'],
    [skill(step(40, 2), step(40, 1)), '/skills/0', 'comes later'],
    [skill(step(0, 2)), '/skills/0/relaxes/0/afterSeconds', ''],
    [skill(step(40, -1)), '/skills/0/relaxes/0/minimum', '0 to 4'],
    [{ skills: [{ skillId: newId(), minimum: 2 }] }, '/skills/0', ''],
    [{ joins: [{ memberId: ines, afterSeconds: 5 }] }, '/joins/0', 'not a member'],
    [{ announceSeconds: 1, tellsPlace: true }, '/announceSeconds', 'nobody can bear it'],
    [{ announceSeconds: '30', tellsPlace: true }, '/announceSeconds', 'From 15 to 600'],
    [{ leaveKey: '12' }, '/leaveKey', 'A key is'],
    [{ agePoints: -1 }, '/agePoints', 'from 0 to 9'],
    [{ mostTexts: 'many' }, '/mostTexts', 'from 1 to 20'],
    [{ phoneShows: [] }, '/phoneShows', 'at least one'],
    [{ ringsAway: ['not answering'] }, '/ringsAway/0', 'never rung'],
    [{ callBack: { ...callBack, toHour: 9 } }, '/callBack', 'later on the same day'],
    [{ callBack: { ...callBack, key: null } }, '/callBack', 'takes the offer'],
    [{ callBack: { ...callBack, tries: 0 } }, '/callBack/tries', 'from 1 to 10'],
    [{ callBack: { ...callBack, retryMinutes: 'soon' } }, '/callBack/retryMinutes', 'from 1 to 240'],
    [{ goalPercent: 101 }, '/goalPercent', 'from 1 to 100'],
    [
      { recordPriorities: [{ field: '', value: 'x', priority: 1 }] },
      '/recordPriorities/0/field',
      'Name a field',
    ],
    [{ musicId: omar }, '/musicId', ''],
    [{ whenAllAway: { kind: 'queue', id } }, '/whenAllAway', 'cannot send its callers to itself'],
  ];
  for (const [change, path, sentence] of wrong) {
    const { status, body } = await night.write(id, change);
    expect([status, body.errors[0]!.path]).toEqual([422, path]);
    expect(body.errors[0]!.detail).toContain(sentence);
  }
  const silent = await night.write(id, { announceSeconds: 30 });
  expect([silent.status, JSON.stringify(silent.body)]).toEqual([
    422,
    expect.stringContaining('what is announced'),
  ]);
  const both = await night.write(id, { leaveKey: '5', callBack });
  expect([both.status, JSON.stringify(both.body)]).toEqual([
    422,
    expect.stringContaining('Key 5 cannot both'),
  ]);
  expect(await night.read(id)).toMatchObject({ version: 1, joins: [], leaveKey: null });
});

test('queues whose callers would go round are refused by the whole round; a limit that is not set leads nowhere', async () => {
  const [one, two, three] = await Promise.all(
    ['One', 'Two', 'Three'].map((name) => night.make('/api/queues', { name, members: [omar] })),
  );
  const to = ({ id }: { id: string }) => ({ kind: 'queue', id });
  expect((await night.write(one!.id, { maxWaitSeconds: 60, whenTooLong: to(two!) })).status).toBe(200);
  expect((await night.write(two!.id, { whenNobody: to(three!) })).status).toBe(200);
  const round = await night.write(three!.id, { maxWaiting: 5, whenFull: to(one!) });
  expect([round.status, round.body.errors[0]]).toEqual([
    422,
    {
      path: '/whenFull',
      detail:
        'Callers would go round: Three, then One, then Two, then Three. Let one of them lead elsewhere.',
    },
  ]);
  // Nobody waits too long in One any more: it leads on no longer.
  expect((await night.write(one!.id, { maxWaitSeconds: null })).status).toBe(200);
  expect((await night.write(three!.id, { maxWaiting: 5, whenFull: to(one!) })).status).toBe(200);
  // By a key callers may go where they like.
  expect((await night.write(two!.id, { leaveKey: '9', whenLeaves: to(three!) })).status).toBe(200);
});

test('who fits as a caller waits on is told for a queue as it would be', async () => {
  await night.database('person_skill').insert({ person_id: ines, skill_id: french, level: 2 });
  const { status, body } = await night.admin.send<QueueFit>('POST', '/api/queues/fit', {
    members: [omar, crew],
    joins: [{ memberId: omar, afterSeconds: 10 }],
    skills: [
      {
        ...{ skillId: french, minimum: 4 },
        relaxes: [
          { afterSeconds: 40, minimum: 2 },
          { afterSeconds: 60, minimum: 0 },
        ],
      },
    ],
  });
  expect(status).toBe(200);
  expect(body.stages.map(({ afterSeconds, fits }) => [afterSeconds, fits])).toEqual([
    ...[
      [0, 0],
      [10, 0],
      [40, 1],
      [60, 2],
    ],
  ]);
});

test('a number gives its callers a priority; the level of a queue counts its calls of today', async () => {
  const queue = await night.make('/api/queues', { name: 'Groups', members: [omar], goalSeconds: 20 });
  const number = await night.make('/api/numbers', {
    ...{ e164: '+12065550140', label: 'Main', destination: { kind: 'queue', id: queue.id }, priority: 4 },
  });
  const { body } = await night.admin.send<{ number: { priority: number } }>(
    'GET',
    `/api/numbers/${number.id}`,
  );
  expect(body.number.priority).toBe(4);
  const call = (result: string, queued_ms: number | null, waited_ms: number) =>
    night.database('call').insert({
      ...{ id: newId(), direction: 'inbound', dialled: '+12065550140', caller: '+13605550117', result },
      ...{ queue_id: queue.id, arrived_at: new Date(), ended_at: new Date(), ended_by: 'caller' },
      ...{ waited_ms, queued_ms, talked_ms: 0, offers: 0, stand_in: true, story: '[]' },
    });
  await call('answered', 20_000, 60_000);
  await call('answered', 20_001, 20_001);
  await call('answered', null, 9_000);
  await call('abandoned', 1_000, 1_000);
  const levels = await night.admin.send<object[]>('GET', '/api/queue-levels');
  expect(levels.body).toEqual([{ queueId: queue.id, offered: 4, answered: 3, inTime: 2 }]);
});
