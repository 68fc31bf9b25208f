import { afterAll, beforeAll, expect, test } from 'vitest';
import type { NightBell } from '../../app.ts';
import { type Browser, openNight, personSignedIn, TestGateway, until } from '../../server.testing.ts';
import type { NumberView } from '../numbers/store.ts';

interface Refusal {
  code: string;
  detail: string;
  errors: { path: string; detail: string }[];
}

let night: NightBell;
let drop: () => Promise<void>;
let admin: Browser;
const gateway = new TestGateway();

beforeAll(async () => {
  ({ night, admin, drop } = await openNight(gateway));
});
afterAll(() => drop());

const post = <T = Refusal>(url: string, body: unknown = {}) => admin.send<T>('POST', url, body);
const call = async (to: string) => {
  const ref = `${to}-${Math.random()}`;
  gateway.say({ kind: 'call', ref, to, from: '+13605550117' });
  return (await gateway.wait('callAccepted', (message) => message.ref === ref)).callId;
};
const resultOf = (callId: string) =>
  until(async () => {
    const { calls } = (await admin.send<{ calls: { id: string; result: string }[] }>('GET', '/api/calls'))
      .body;
    return calls.find((each) => each.id === callId)?.result;
  }, 'the call is over');

test('a conference room asks for its PIN, which nobody can read back', async () => {
  const room = (
    await post<{ id: string; version: number; hasPin: boolean }>('/api/rooms', {
      ...{ name: 'Briefing', extension: '5001', pin: '4711' },
    })
  ).body;
  expect(room).toMatchObject({ hasPin: true });
  expect(JSON.stringify(room)).not.toContain('4711');
  expect((await post('/api/rooms', { name: 'Short', pin: '12' })).body.errors).toEqual([
    { path: '/pin', detail: 'A PIN has 4 to 10 digits.' },
  ]);
  await until(() => night.live.exchange.view().rooms.get(room.id)?.pinHash, 'the exchange knows the room');
  const callId = await call('5001');
  await gateway.wait('play', (message) => message.callId === callId && message.prompt === 'enterPin');
  for (const key of '4711') gateway.say({ kind: 'key', leg: `${callId}.1`, key });
  await gateway.wait('joinRoom', (message) => message.callId === callId);
  gateway.say({ kind: 'callerHungUp', callId });
  expect(await resultOf(callId)).toBe('conference');
});

test('a fax box keeps what comes in as a file, once; agents do not open it', async () => {
  const box = (await post<{ id: string }>('/api/fax-boxes', { name: 'Papers', extension: '6001' })).body;
  await until(() => night.live.exchange.view().faxBoxes.has(box.id), 'the exchange knows the box');
  const callId = await call('6001');
  await gateway.wait('receiveFax', (message) => message.callId === callId);
  const fax = (file: string) =>
    gateway.say({ kind: 'fax', callId, pages: 2, file: Buffer.from(file).toString('base64') });
  // What is no PDF is not kept, and the call goes on.
  fax('<html>');
  fax('%PDF-1.4 two pages');
  fax('%PDF-1.4 two pages');
  expect(await resultOf(callId)).toBe('fax');
  const faxes = (
    await admin.send<{ id: string; pages: number; sender: string }[]>('GET', `/api/fax-boxes/${box.id}/faxes`)
  ).body;
  expect(faxes).toMatchObject([{ pages: 2, sender: '+13605550117' }]);
  const file = await night.app.inject({
    method: 'GET',
    url: `/api/faxes/${faxes[0]!.id}/file`,
    headers: { cookie: admin.cookieHeader },
  });
  expect([file.headers['content-type'], file.headers['content-disposition'], file.body]).toEqual([
    'application/pdf',
    expect.stringContaining('attachment'),
    '%PDF-1.4 two pages',
  ]);
  const { browser } = await personSignedIn(night, admin, 'No Fax', 'agent');
  expect((await browser.send('GET', `/api/faxes/${faxes[0]!.id}/file`)).status).toBe(403);
});

test('a number leads to another of ours; never round in a circle', async () => {
  const make = async (e164: string, label: string, destination: object | null = null) =>
    (await post<NumberView & Refusal>('/api/numbers', { e164, label, destination })).body;
  const end = await make('+12065550171', 'Last', { kind: 'end' });
  const middle = await make('+12065550172', 'Middle', { kind: 'number', id: end.id });
  const first = await make('+12065550173', 'First', { kind: 'number', id: middle.id });
  expect(first.destinationName).toBe('Middle');
  const lead = (number: NumberView, to: string) =>
    admin.send<Refusal>(
      'PUT',
      `/api/numbers/${number.id}`,
      { e164: number.e164, label: number.label, destination: { kind: 'number', id: to }, sourceId: null },
      { 'if-match': `"${number.version}"` },
    );
  expect((await lead(end, first.id)).body.errors[0]).toEqual({
    path: '/destination',
    detail: 'This would go round in a circle: First, Middle lead back here.',
  });
  expect((await lead(end, end.id)).body.errors[0]!.detail).toBe('A number cannot lead to itself.');
  const given = await admin.send<Refusal>(
    'POST',
    `/api/numbers/${end.id}/give-up`,
    {},
    { 'if-match': '"1"' },
  );
  expect([given.status, given.body.code]).toEqual([409, 'inUse']);
});
