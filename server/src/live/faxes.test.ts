import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { NightBell } from '../app.ts';
import { type Browser, openNight, TestGateway, until } from '../server.testing.ts';
import { FileParts, incomingFax } from './file-parts.ts';

const megabyte = 1024 * 1024;

describe('the parts of a fax', () => {
  const part = (bytes: number, begin = '') =>
    Buffer.concat([Buffer.from(begin), Buffer.alloc(bytes - begin.length, 7)]).toString('base64');

  test('make one file, in the order they came', () => {
    const parts = new FileParts(incomingFax);
    expect(parts.add('c', Buffer.from('%PDF-one ').toString('base64'))).toBeNull();
    expect(String(parts.take('c', Buffer.from('two').toString('base64')))).toBe('%PDF-one two');
    // Taken: what comes now begins anew.
    expect(parts.take('c', Buffer.from('three').toString('base64'))).toBe('A fax comes as a PDF.');
  });

  test('are at most 20 MB, and all faxes together four times that; who is refused is forgotten', () => {
    const parts = new FileParts(incomingFax);
    for (let i = 0; i < 20; i++) expect(parts.add('c', part(megabyte, '%PDF-'))).toBeNull();
    expect(parts.take('c', part(1))).toBe('A fax has at most 20 MB.');
    for (const call of ['d', 'e', 'f', 'g'])
      for (let i = 0; i < 20; i++) expect(parts.add(call, part(megabyte))).toBeNull();
    expect(parts.add('h', part(megabyte))).toMatch(/Too many files/);
    parts.drop('d');
    expect(parts.add('h', part(megabyte))).toBeNull();
  });
});

let night: NightBell;
let admin: Browser;
let drop: () => Promise<void>;
const gateway = new TestGateway();

beforeAll(async () => {
  ({ night, admin, drop } = await openNight(gateway));
});
afterAll(() => drop());

test('a fax of twenty megabytes arrives whole, and one of more is refused with a reason', async () => {
  const box = (
    await admin.send<{ id: string }>('POST', '/api/fax-boxes', { name: 'Papers', extension: '6001' })
  ).body;
  await until(() => night.live.exchange.view().faxBoxes.has(box.id), 'the exchange knows the box');
  const send = async (bytes: number) => {
    const ref = `fax ${bytes}`;
    gateway.say({ kind: 'call', ref, to: '6001', from: '+13605550117' });
    const { callId } = await gateway.wait('callAccepted', (message) => message.ref === ref);
    await gateway.wait('receiveFax', (message) => message.callId === callId);
    const file = Buffer.alloc(bytes, 'x');
    file.write('%PDF-1.4 ');
    const step = 512 * 1024;
    for (let at = 0; at < bytes - step; at += step)
      gateway.say({ kind: 'faxPart', callId, file: file.subarray(at, at + step).toString('base64') });
    const last = Math.floor((bytes - 1) / step) * step;
    gateway.say({ kind: 'fax', callId, pages: 500, file: file.subarray(last).toString('base64') });
    return { callId, file };
  };
  const { callId, file } = await send(20 * megabyte);
  await until(() => !night.live.exchange.view().calls.has(callId), 'the call is over');
  const [kept] = (await admin.send<{ id: string; pages: number }[]>('GET', `/api/fax-boxes/${box.id}/faxes`))
    .body;
  const read = await night.app.inject({
    url: `/api/faxes/${kept!.id}/file`,
    headers: { cookie: admin.cookieHeader },
  });
  expect(read.rawPayload.equals(file)).toBe(true);
  const tooLong = await send(21 * megabyte);
  expect(await gateway.wait('remark', (remark) => !remark.taken)).toMatchObject({
    why: 'A fax has at most 20 MB.',
  });
  expect(gateway.closed).toBe(false);
  gateway.say({ kind: 'callerHungUp', callId: tooLong.callId });
});
