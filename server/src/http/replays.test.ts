import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { NightBell } from '../app.ts';
import type { Database } from '../database/connection.ts';
import { type Browser, openNight, personSignedIn } from '../server.testing.ts';
import { forgetOldReplays } from './replays.ts';

let night: NightBell;
let database: Database;
let admin: Browser;
let drop: () => Promise<void>;
let count = 0;

beforeAll(async () => {
  ({ night, database, admin, drop } = await openNight());
});
afterAll(() => drop());

interface Person {
  id: string;
  signInCode: string;
  errors?: { detail: string }[];
  detail?: string;
}
const key = () => `key ${++count}`;
const make = (name: string, idempotencyKey: string, browser = admin) =>
  browser.send<Person>('POST', '/api/people', { name }, { 'idempotency-key': idempotencyKey });
const called = async (name: string) => Number((await database('item').where({ name }).count('id'))[0]!.count);

describe('a request that bears a key', () => {
  test('makes a thing once however often it is sent, and is answered the same', async () => {
    const mine = key();
    const first = await make('Once Only', mine);
    const again = await make('Once Only', mine);
    expect(again).toEqual(first);
    expect(again.body.signInCode).not.toBe('');
    expect(await called('Once Only')).toBe(1);
    // What was answered held a code: it is not kept to be read.
    const kept = JSON.stringify(await database('replay').where({ key: mine }));
    expect(kept).not.toContain(first.body.signInCode);
  });

  test('sent many times at once makes it once; the others are told to wait, or have the same answer', async () => {
    const mine = key();
    const answers = await Promise.all(Array.from({ length: 8 }, () => make('At Once', mine)));
    expect(await called('At Once')).toBe(1);
    const made = answers.filter(({ status }) => status === 200);
    expect(new Set(made.map(({ body }) => body.id)).size).toBe(1);
    for (const { status, body } of answers)
      if (status !== 200) expect(body.detail).toContain('not answered yet');
  });

  test('with another body is refused, and nothing is made', async () => {
    const mine = key();
    await make('First Body', mine);
    const other = await make('Second Body', mine);
    expect(other.status).toBe(422);
    expect(other.body.errors![0]!.detail).toBe(
      'This idempotency key was used for another request. Take a new one.',
    );
    expect(await called('Second Body')).toBe(0);
  });

  test('that failed may be sent again with it', async () => {
    const mine = key();
    expect((await make('', mine)).status).toBe(422);
    expect((await make('', mine)).status).toBe(422);
    expect(await database('replay').where({ key: mine })).toEqual([]);
    await make('Mended', mine);
    expect(await called('Mended')).toBe(1);
  });

  test('is that of who sent it: the same key of somebody else is another', async () => {
    const { browser } = await personSignedIn(night, admin, 'Second Admin', 'administrator');
    const mine = key();
    const one = await make('Mine', mine);
    const other = await make('Theirs', mine, browser);
    expect([one.status, other.status]).toEqual([200, 200]);
    expect(other.body.id).not.toBe(one.body.id);
  });

  test('answers of nothing stay so; a key that is empty or too long is refused; reading needs none', async () => {
    const mine = { 'idempotency-key': key() };
    const { body: code } = await admin.send<{ id: string }>('POST', '/api/script-keys', {
      ...{ name: 'Replayed', role: 'auditor', areas: [] },
    });
    const secret = () =>
      admin.send<{ secret: string }>('POST', `/api/script-keys/${code.id}/secret`, undefined, mine);
    expect((await secret()).body).toEqual((await secret()).body);
    expect((await make('No', 'x'.repeat(256))).status).toBe(422);
    expect((await admin.send('GET', '/api/people', undefined, mine)).status).toBe(200);
  });

  test('where a file is sent, needs none and is not heard; a file is taken nowhere else', async () => {
    const file = { 'content-type': 'text/csv', 'idempotency-key': key() };
    const { body: campaign } = await admin.send<{ id: string }>('POST', '/api/campaigns', { name: 'Filed' });
    const url = `/api/campaigns/${campaign.id}/contacts/file`;
    for (let sent = 0; sent < 2; sent++)
      expect((await admin.send('POST', url, 'name,phone\nA,+1 360 555 0111', file)).status).toBe(200);
    const elsewhere = await admin.send<Person>('POST', '/api/people', 'name\nAnn', {
      'content-type': 'text/csv',
    });
    expect(elsewhere).toMatchObject({ status: 400, body: { detail: 'Send JSON: no file is taken here.' } });
  });

  test('is forgotten after a day', async () => {
    const mine = key();
    const first = await make('A Day Old', mine);
    await database('replay')
      .where({ key: mine })
      .update({ at: database.raw(`now() - interval '25 hours'`) });
    await forgetOldReplays(database);
    expect((await make('A Day Old 2', mine)).body.id).not.toBe(first.body.id);
  });
});
