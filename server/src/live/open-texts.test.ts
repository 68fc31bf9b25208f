import { pino } from 'pino';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { openQueues } from '../areas/queues/queues.testing.ts';
import { until } from '../server.testing.ts';
import { newId } from '../spine/items.ts';
import { openTexts, OpenTexts } from './open-texts.ts';

let night: Awaited<ReturnType<typeof openQueues>>;
let numberId: string;
let shared: string;
beforeAll(async () => {
  night = await openQueues();
  const { ines, omar } = night;
  const queue = await night.make('/api/queues', { name: 'Bookings', members: [omar], mostTexts: 1 });
  const number = (e164: string, textsTo: object) =>
    night.make('/api/numbers', { e164, label: e164, textsTo });
  numberId = (await number('+12065550140', { kind: 'person', id: ines })).id;
  shared = (await number('+12065550141', { kind: 'queue', id: queue.id })).id;
});
afterAll(() => night.drop());

/** A text of ours by somebody, or one that came in (null), so many minutes ago. */
const text = (number: string, other: string, by: string | null, minutes: number) =>
  night.database('text_message').insert({
    ...{
      id: newId(),
      number_id: number,
      other_side: other,
      direction: by === null ? 'in' : 'out',
      body: 'x',
    },
    ...{
      at: new Date(Date.now() - minutes * 60_000),
      state: by === null ? 'received' : 'sent',
      by_person: by,
    },
  });

test('a conversation is open for ten minutes: of who wrote last for us, else of who alone reads the number', async () => {
  const { ines, omar, database } = night;
  await text(numberId, '+13605550111', null, 3);
  await text(numberId, '+13605550112', null, 11);
  await text(shared, '+13605550113', ines, 8);
  await text(shared, '+13605550113', omar, 5);
  await text(shared, '+13605550113', null, 1);
  // Nobody's yet: it came in on a number that many read.
  await text(shared, '+13605550114', null, 1);
  expect(await openTexts(database)).toEqual(
    new Map([
      [ines, 1],
      [omar, 1],
    ]),
  );
});

test('the exchange hears of it where a queue counts texts: who writes one is not rung, and is again when it is over', async () => {
  const { omar, database } = night;
  const { live } = night.night;
  const watch = new OpenTexts(database, live, pino({ level: 'silent' }));
  const counts = (count: number) =>
    until(async () => {
      await watch.look();
      return live.exchange.view().agents.get(omar)?.openTexts === count;
    }, `the exchange counts ${count}`);
  await counts(1);
  await database('text_message').update({ at: new Date(Date.now() - 3_600_000) });
  await counts(0);
  watch.close();
});
