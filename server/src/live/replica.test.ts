import { afterEach, beforeEach, expect, test } from 'vitest';
import type { NewPerson } from '../areas/people/create.ts';
import type { Database } from '../database/connection.ts';
import { openNight, until } from '../server.testing.ts';
import { Replica } from './replica.ts';

let database: Database;
let drop: () => Promise<void>;
let before: string;

beforeEach(async () => {
  const opened = await openNight();
  ({ database, drop } = opened);
  const { night, admin } = opened;
  const person = (await admin.send<NewPerson>('POST', '/api/people', { name: 'Ann First' })).body;
  await admin.send('POST', `/api/people/${person.id}/state`, { state: 'available' });
  await night.live.settled();
  await night.live.committed();
  before = JSON.stringify(night.live.exchange.snapshot());
  await night.live.close();
  await until(async () => (await database('exchange_checkpoint')).length > 0, 'a checkpoint is left');
});
afterEach(() => drop());

const load = async () => {
  const said: string[] = [];
  const replica = await Replica.load(database, { said: (sentence) => void said.push(sentence) });
  return { said, state: JSON.stringify(replica.exchange.snapshot()) };
};

test('a checkpoint is gone on from, without a word', async () => {
  expect(await load()).toEqual({ said: [], state: before });
});

test.each([
  ['cut short', { state: '{}' }, /cannot be read/],
  ['of a newer engine', { engine_version: 99 }, /engine version 99, which version \d+ cannot continue/],
  ['of an engine too old', { engine_version: 1 }, /engine version 1, which version \d+ cannot continue/],
])(
  'one that is %s is passed over with one sentence, and the log replayed',
  async (_what, change, sentence) => {
    await database('exchange_checkpoint').update(change);
    const { said, state } = await load();
    expect(said).toHaveLength(1);
    expect(said[0]).toMatch(sentence);
    expect(state).toBe(before);
  },
);

test('without any that can be used, and a log that begins later, the exchange begins anew behind it and says so', async () => {
  await database('exchange_checkpoint').update({ engine_version: 99 });
  await database('exchange_event').where({ seq: 1 }).delete();
  const { said, state } = await load();
  expect(said.at(-1)).toMatch(/calls in progress are lost/);
  expect((JSON.parse(state) as { seq: number }).seq).toBe((JSON.parse(before) as { seq: number }).seq);
});
