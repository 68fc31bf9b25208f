import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import WebSocket from 'ws';
import type { NightBell } from '../../app.ts';
import type { PageMessage } from '../../live/pages.ts';
import { type Browser, openNight, personSignedIn, TestGateway, until } from '../../server.testing.ts';
import type { Database } from '../../database/connection.ts';
import { type Text, writeTextOfCall } from './store.ts';

interface Refusal {
  detail: string;
  errors: { path: string; detail: string }[];
}
interface Ledger {
  balance: string;
  entries: { kind: string; amount: string; what: string; numberId: string | null }[];
}

let night: NightBell;
let address: string;
let drop: () => Promise<void>;
let database: Database;
let admin: Browser;
let agent: { browser: Browser; id: string };
let other: { browser: Browser; id: string };
let numberId: string;
const gateway = new TestGateway();
const ours = '+12065550140';
const theirs = '+13605550117';

beforeAll(async () => {
  ({ night, admin, address, database, drop } = await openNight(gateway, ['provider.example']));
  const [one, two] = [
    await personSignedIn(night, admin, 'Reads Texts', 'agent'),
    await personSignedIn(night, admin, 'Reads Nothing', 'agent'),
  ];
  agent = { browser: one.browser, id: one.made.id };
  other = { browser: two.browser, id: two.made.id };
  await admin.send('POST', '/api/balance/top-ups', { amount: '5' });
  const made = await admin.send<{ id: string }>('POST', '/api/numbers', {
    e164: ours,
    label: 'Main line',
    textsTo: { kind: 'person', id: agent.id },
  });
  numberId = made.body.id;
});
afterAll(() => drop());

const texts = async (who: Browser, query = '') => (await who.send<Text[]>('GET', `/api/texts${query}`)).body;
const arrives = async (ref: string, body: string, to = ours) => {
  gateway.say({ kind: 'text', ref, to, from: theirs, body, price: '0.0079' });
  return gateway.wait('textTaken', (taken) => taken.ref === ref);
};
const send = (who: Browser, change: object = {}) =>
  who.send<{ id: string } & Refusal>('POST', '/api/texts', { numberId, to: theirs, body: 'Aye.', ...change });
const ledger = async () => (await admin.send<Ledger>('GET', '/api/balance')).body;

describe('a text that comes in', () => {
  test('is kept and charged once, and read by whom it is for, whose page is told at once', async () => {
    const socket = new WebSocket(`${address.replace('http', 'ws')}/api/live`, {
      headers: { cookie: agent.browser.cookieHeader },
    });
    const heard: PageMessage[] = [];
    socket.on('message', (data: Buffer) => heard.push(JSON.parse(data.toString()) as PageMessage));
    await until(() => heard.some((message) => message.kind === 'all'), 'the page is greeted');
    expect((await arrives('t1', 'Does the 16:40 take a camper? <b>24 ft</b>')).why).toBeNull();
    await until(() => heard.some((each) => each.kind === 'changes' && each.texts), 'the page is told');
    socket.close();
    gateway.heard.length = 0;
    expect((await arrives('t1', 'the same again')).why).toBeNull();
    expect(await texts(agent.browser)).toMatchObject([
      {
        other: theirs,
        direction: 'in',
        body: 'Does the 16:40 take a camper? <b>24 ft</b>',
        label: 'Main line',
      },
    ]);
    expect(await texts(other.browser)).toEqual([]);
    expect(await texts(other.browser, `?numberId=${numberId}`)).toEqual([]);
    expect(await texts(admin)).toHaveLength(1);
    expect(await texts(admin, '?mine=true')).toEqual([]);
    const { balance, entries } = await ledger();
    expect(entries[0]).toMatchObject({ kind: 'text', amount: '-0.0079', what: theirs, numberId });
    expect(balance).toBe('4.9921');
  });

  test('to a number whose texts nobody reads is refused, and costs nothing', async () => {
    await admin.send('POST', '/api/numbers', { e164: '+12065550141', label: 'Voice' });
    expect((await arrives('t2', 'hello', '+12065550141')).why).toBe('This number takes no texts.');
    expect((await arrives('t3', 'hello', '+12065550149')).why).toBe('This number takes no texts.');
    expect((await ledger()).balance).toBe('4.9921');
  });
});

describe('a text of ours', () => {
  test('goes out over a trunk that is open, and is charged when the provider has it', async () => {
    const lost = await send(agent.browser);
    expect(lost.status).toBe(200);
    await until(async () => (await texts(agent.browser))[0]!.state === 'failed', 'it is known to be lost');
    expect((await texts(agent.browser))[0]).toMatchObject({ why: 'No trunk is open that could carry it.' });
    await admin.send('POST', '/api/trunks', {
      name: 'Sound',
      host: 'provider.example',
      account: 'sound',
      channels: 2,
      prices: [],
      registers: false,
    });
    await until(() => night.live.exchange.view().trunks.size === 1, 'the trunk is known');
    const { body } = await send(agent.browser, { body: 'It does.' });
    const asked = await gateway.wait('sendText', (text) => text.ref === body.id);
    expect(asked).toMatchObject({ to: theirs, from: ours, body: 'It does.', trunkHost: 'provider.example' });
    expect((await texts(agent.browser))[0]).toMatchObject({ state: 'waiting', by: 'Reads Texts' });
    gateway.say({ kind: 'textSent', ref: body.id, price: '0.0158' });
    gateway.say({ kind: 'textSent', ref: body.id, price: '0.0158' });
    await until(async () => (await texts(agent.browser))[0]!.state === 'sent', 'it is sent');
    await arrives('t4', 'Thanks');
    expect((await ledger()).balance).toBe('4.9684');
  });

  test('a provider that does not take it says why, and it costs nothing', async () => {
    const { body } = await send(admin);
    await gateway.wait('sendText', (text) => text.ref === body.id);
    gateway.say({ kind: 'textFailed', ref: body.id, why: 'The provider is overloaded.' });
    await until(async () => (await texts(admin))[0]!.state === 'failed', 'it is known to have failed');
    expect((await texts(admin))[0]).toMatchObject({ why: 'The provider is overloaded.' });
    expect((await ledger()).balance).toBe('4.9684');
  });

  test('is refused at its field, or for whoever may not', async () => {
    const fault = async (answer: ReturnType<typeof send>) => {
      const { status, body } = await answer;
      return [status, body.errors[0]?.path ?? null, body.errors[0]?.detail ?? body.detail];
    };
    expect(await fault(send(agent.browser, { body: ' ' }))).toEqual([422, '/body', 'Write something first.']);
    expect(await fault(send(agent.browser, { body: 'x'.repeat(671) }))).toEqual([
      422,
      '/body',
      'A text has at most 670 characters.',
    ]);
    expect((await fault(send(agent.browser, { to: '12' }))).slice(0, 2)).toEqual([422, '/to']);
    expect((await send(other.browser)).status).toBe(403);
    const { body: voice } = await admin.send<{ id: string }>('POST', '/api/numbers', {
      e164: '+12065550142',
      label: 'Voice only',
    });
    expect((await fault(send(admin, { numberId: voice.id }))).slice(0, 2)).toEqual([422, '/numberId']);
    await arrives('t5', 'STOP');
    expect(await fault(send(admin))).toEqual([422, '/to', 'This number asked for no more calls and texts.']);
    const { body: list } = await admin.send<{ e164: string; how: string }[]>('GET', '/api/opt-outs');
    expect(list).toMatchObject([{ e164: theirs, how: 'text' }]);
  });

  test('nobody texts on an empty balance', async () => {
    const price = '100';
    gateway.say({ kind: 'text', ref: 't6', to: ours, from: '+13605550118', body: 'dear', price });
    await gateway.wait('textTaken', (taken) => taken.ref === 't6');
    const refused = await send(admin, { to: '+13605550118' });
    expect([refused.status, refused.body.detail]).toEqual([409, expect.stringContaining('Pay in')]);
  });
});

test('a text of a plan is written down with the call, or with why it cannot go out', async () => {
  const to = '+13605550188';
  await writeTextOfCall(database, { numberId, to, body: 'Nobody pays for this.' });
  await admin.send('POST', '/api/balance/top-ups', { amount: '1000' });
  await writeTextOfCall(database, { numberId, to, body: 'Your boat sails at 9:40.' });
  await database('opt_out').insert({ e164: to, how: 'list' });
  await writeTextOfCall(database, { numberId, to, body: 'It does not.' });
  const rows = await database('text_message')
    .where({ other_side: to })
    .orderBy('at')
    .select('body', 'why', 'by_person');
  expect(rows).toEqual([
    { body: 'Nobody pays for this.', why: 'The balance is used up.', by_person: null },
    { body: 'Your boat sails at 9:40.', why: null, by_person: null },
    { body: 'It does not.', why: 'This number asked for no more calls and texts.', by_person: null },
  ]);
});

test('who reads its texts is checked, brought by list, changed for many, and told where it is used', async () => {
  const wrong = await admin.send<Refusal>('POST', '/api/numbers', {
    e164: '+12065550143',
    label: 'Wrong reader',
    textsTo: { kind: 'queue', id: agent.id },
  });
  expect(wrong.body.errors[0]).toMatchObject({ path: '/textsTo' });
  const brought = (texts_: string) =>
    admin.send<{ made: number; rows: { faults: Record<string, string> }[] }>('POST', '/api/numbers/list', {
      text: `number,label,texts\n+12065550144,Listed,${texts_}`,
      dryRun: false,
    });
  expect((await brought('Nobody Known')).body.rows[0]!.faults).toEqual({
    texts: 'No person and no queue is called Nobody Known.',
  });
  expect((await brought('reads texts')).body.made).toBe(1);
  const { body: person } = await admin.send<{ usedBy: { name: string; how: string }[] }>(
    'GET',
    `/api/people/${agent.id}`,
  );
  expect(person.usedBy).toContainEqual(expect.objectContaining({ name: 'Listed', how: 'reads its texts' }));
  const change = { textsTo: null };
  expect((await admin.send('POST', '/api/numbers/bulk', { ids: [numberId], change })).status).toBe(200);
  expect((await arrives('t7', 'anybody?')).why).toBe('This number takes no texts.');
});
