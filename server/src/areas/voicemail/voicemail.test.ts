import wavefile from 'wavefile';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { PromptView } from '@night-bell/core/contracts/prompts';
import type { MessageView, VoicemailBoxView } from '@night-bell/core/contracts/voicemail-boxes';
import { readSip, type SipRequest } from '@night-bell/core/sip/message';
import { readMessageSummary } from '@night-bell/core/sip/message-summary';
import type { NightBell } from '../../app.ts';
import type { Database } from '../../database/connection.ts';
import { StorageWatch } from '../../live/storage-watch.ts';
import type { Letter } from '../../mail/mail.ts';
import { sendLetters } from '../../mail/outbox.ts';
import type { NewPerson } from '../people/create.ts';
import {
  type Browser,
  openNight,
  personSignedIn,
  seal,
  TestGateway,
  until,
  walkPages,
} from '../../server.testing.ts';
import { newId } from '../../spine/items.ts';
import { deleteWhatIsOver } from './retention.ts';

interface Refusal {
  code: string;
  detail: string;
  errors: { path: string; detail: string }[];
}

let night: NightBell;
let admin: Browser;
let database: Database;
let drop: () => Promise<void>;
const gateway = new TestGateway();
/** What the post office took; it refuses while it is shut. */
const letters: Letter[] = [];
let shut = false;
const mail = {
  send: (letter: Letter) => {
    if (shut) return Promise.reject(new Error('shut'));
    letters.push(letter);
    return Promise.resolve();
  },
};
let ben: Awaited<ReturnType<typeof personSignedIn>>;
/** A greeting of one second, so that nothing takes long. */
let greetings: VoicemailBoxView['greetings'];
let count = 0;

beforeAll(async () => {
  ({ night, admin, database, drop } = await openNight(gateway, [], { mail }));
  ben = await personSignedIn(night, admin, 'Ben Box', 'agent');
  const prompt = (
    await admin.send<PromptView>('POST', '/api/prompts', {
      ...{ name: 'Short', kind: 'voicemailGreeting', language: 'en', personId: null, words: 'Speak.' },
    })
  ).body;
  const path = `/api/prompts/${prompt.id}`;
  const brought = await admin.send<PromptView>('POST', `${path}/sound`, { file: recording(1) });
  await admin.send('POST', `${path}/publish`, undefined, { 'if-match': `"${brought.body.version}"` });
  greetings = {
    open: { outside: prompt.id, inside: null },
    closed: { outside: null, inside: null },
  };
});
afterAll(() => drop());

const boxes = async () => (await admin.send<VoicemailBoxView[]>('GET', '/api/voicemail-boxes')).body;
const boxOf = async (ownerId: string) => (await boxes()).find((box) => box.ownerId === ownerId)!;
const draftOf = ({
  name,
  extension,
  hoursId,
  greetings,
  maxMessageSeconds,
  mostMessages,
  keepDays,
  whenFull,
  listeners,
  mailTo,
}: VoicemailBoxView) => ({
  ...{
    name,
    extension,
    hoursId,
    greetings,
    maxMessageSeconds,
    mostMessages,
    keepDays,
    whenFull,
    listeners,
    mailTo,
  },
});
const change = async <T = VoicemailBoxView>(box: VoicemailBoxView, to: Partial<VoicemailBoxView>) =>
  admin.send<T>('PUT', `/api/voicemail-boxes/${box.id}`, draftOf({ ...box, ...to }), {
    'if-match': `"${box.version}"`,
  });
const shared = async (to: Partial<VoicemailBoxView> = {}) => {
  const blank = draftOf((await boxes())[0]!);
  const { body } = await admin.send<VoicemailBoxView>('POST', '/api/voicemail-boxes', {
    ...{ ...blank, name: `Shared ${++count}`, extension: `77${10 + count}`, listeners: [], mailTo: [] },
    greetings,
    ...to,
  });
  await until(() => night.live.exchange.view().boxes.has(body.id), 'the exchange knows the box');
  return body;
};
const messages = async (who: Browser, boxId: string) =>
  (await who.send<MessageView[]>('GET', `/api/voicemail-boxes/${boxId}/messages`)).body;

function recording(seconds: number): string {
  const wav = new wavefile.WaveFile();
  const samples = Array.from({ length: seconds * 8_000 }, (_, i) => Math.round(9_000 * Math.sin(i / 3)));
  wav.fromScratch(1, 8_000, '16', samples);
  return Buffer.from(wav.toBuffer()).toString('base64');
}

/** Calls the extension, waits for the tone, speaks, hangs up. */
async function leaveMessage(extension: string, from = '+13605550117'): Promise<string> {
  const ref = `call ${++count}`;
  gateway.say({ kind: 'call', ref, to: extension, from });
  const { callId } = await gateway.wait('callAccepted', (message) => message.ref === ref);
  const { greetingSeconds } = await gateway.wait('record', (message) => message.callId === callId);
  await until(() => {
    const activity = night.live.exchange.view().calls.get(callId)?.activity;
    return activity?.kind === 'recording' && Date.now() > activity.since + greetingSeconds * 1_000 + 20;
  }, 'the greeting is over');
  gateway.say({ kind: 'callerHungUp', callId });
  await until(() => !night.live.exchange.view().calls.has(callId), 'the call is over');
  await night.live.committed();
  return callId;
}

describe('a message', () => {
  test('is in the box with its sound, lights the lamp, is told by mail, and is heard by who may', async () => {
    // The server looks for letters of its own accord, too: it finds the post office shut until it is opened here.
    shut = true;
    const box = await shared({ listeners: [ben.made.id], mailTo: ['desk@example.com'] });
    const callId = await leaveMessage(box.extension!);
    gateway.say({ kind: 'recordingPart', callId, file: recording(2).slice(0, 8_000) });
    gateway.say({ kind: 'recording', callId, file: recording(2).slice(8_000) });
    const message = await until(async () => {
      const [latest] = await messages(ben.browser, box.id);
      return latest?.sound == null ? undefined : latest;
    }, 'the sound is there');
    expect(message).toMatchObject({ from: '+13605550117', state: 'new', callId, heardBy: null });
    expect(message.sound!.seconds).toBeCloseTo(2, 1);
    expect(Math.max(...message.sound!.peaks)).toBeGreaterThan(15);

    await sendLetters(database, mail, seal);
    expect(letters).toEqual([]);
    shut = false;
    await database('letter').update({ next_try: database.fn.now() });
    await sendLetters(database, mail, seal);
    expect(letters.find(({ to }) => to === 'desk@example.com')).toMatchObject({
      to: 'desk@example.com',
      subject: 'New message from +1 360 555 0117',
    });
    expect(await database('letter')).toEqual([]);

    const sound = await night.app.inject({
      url: `/api/messages/${message.id}/sound`,
      headers: { cookie: ben.browser.cookieHeader },
    });
    expect(new wavefile.WaveFile(sound.rawPayload).fmt).toMatchObject({ audioFormat: 7, sampleRate: 8_000 });
    await ben.browser.send('POST', '/api/messages/mark', { ids: [message.id], state: 'heard' });
    expect((await messages(ben.browser, box.id))[0]).toMatchObject({ state: 'heard', heardBy: 'Ben Box' });
    const history = await admin.send<{ what: string; by: string }[]>('GET', `/api/items/${box.id}/history`);
    expect(history.body.map(({ what, by }) => `${what} ${by}`)).toContain('heard Ben Box');
    // Twice heard is one line.
    await night.app.inject({
      url: `/api/messages/${message.id}/sound`,
      headers: { cookie: ben.browser.cookieHeader },
    });
    const again = await admin.send<{ what: string }[]>('GET', `/api/items/${box.id}/history`);
    expect(again.body.filter(({ what }) => what === 'heard')).toHaveLength(1);
  });

  test('for a person lights the lamp of their phone, which goes out when it is heard', async () => {
    const { id, extension, phone } = (
      await admin.send<NewPerson>('POST', '/api/people', { name: 'Lena Lamp' })
    ).body;
    const { account, registrationSecret } = phone!;
    await until(() => night.live.exchange.view().agents.has(id), 'the exchange knows her');
    expect(await gateway.register(account, registrationSecret)).toBe(200);
    const box = (await change(await boxOf(id), { greetings })).body;
    await night.live.settled();
    const lamps = () =>
      gateway.heard.flatMap((message) => {
        if (message.kind !== 'sip' || message.device !== account) return [];
        const read = readSip(message.message);
        const summary = read !== null && 'method' in read ? readMessageSummary(read as SipRequest) : null;
        return summary === null ? [] : [summary];
      });
    await until(() => lamps().length > 0, 'the phone hears that nothing waits');
    expect(lamps().at(-1)).toEqual({ fresh: 0, old: 0 });
    // Her phone rings; she declines, and the call goes to her box.
    const declined = gateway
      .wait('ring')
      .then(({ leg }) => gateway.say({ kind: 'failed', leg, cause: 'declined' }));
    await leaveMessage(extension);
    await declined;
    await until(() => lamps().at(-1)?.fresh === 1, 'the lamp is lit');
    const [message] = await database('message').where({ box_id: box.id });
    await database.transaction(async (trx) => {
      await trx('message').where({ id: message!.id }).update({ state: 'heard' });
      await trx.raw(`select pg_notify('night_bell_items', ?)`, [`voicemail ${box.id}`]);
    });
    await until(() => lamps().at(-1)?.fresh === 0 && lamps().at(-1)?.old === 1, 'the lamp goes out');
    // What is in her box is hers alone.
    const refused = await admin.send<Refusal>('GET', `/api/voicemail-boxes/${box.id}/messages`);
    expect([refused.status, refused.body.detail]).toEqual([
      403,
      'These messages are heard by others. An administrator can name you for that box.',
    ]);
    expect(
      (await ben.browser.send('POST', '/api/messages/delete', { ids: [message!.id], deleted: true })).status,
    ).toBe(403);
  });

  test('is deleted and brought back, sent on, kept; and the exchange counts with it', async () => {
    const one = await shared({ mostMessages: 1 });
    const two = await shared();
    await leaveMessage(one.extension!);
    const [message] = await messages(admin, one.id);
    expect(night.live.exchange.view().messages.get(one.id)).toBe(1);
    // Full: the next caller is told and turned away.
    gateway.say({ kind: 'call', ref: 'full', to: one.extension!, from: '+13605550119' });
    await gateway.wait('play', ({ prompt }) => prompt === 'boxFull');

    await admin.send('POST', '/api/messages/delete', { ids: [message!.id], deleted: true });
    await until(() => night.live.exchange.view().messages.get(one.id) === 0, 'the exchange heard of it');
    expect((await messages(admin, one.id))[0]!.deletedAt).not.toBeNull();
    await admin.send('POST', '/api/messages/delete', { ids: [message!.id], deleted: false });
    await until(() => night.live.exchange.view().messages.get(one.id) === 1, 'and of that');

    const sent = await admin.send<{ came: number }>('POST', '/api/messages/forward', {
      ...{ ids: [message!.id], boxId: two.id },
    });
    const twice = await admin.send<{ came: number }>('POST', '/api/messages/forward', {
      ...{ ids: [message!.id], boxId: two.id },
    });
    expect([sent.body, twice.body]).toEqual([{ came: 1 }, { came: 0 }]);
    expect((await messages(admin, two.id))[0]).toMatchObject({ state: 'new', forwardedBy: 'Ada Admin' });
    const noRoom = await admin.send<Refusal>('POST', '/api/messages/forward', {
      ids: [(await messages(admin, two.id))[0]!.id],
      boxId: one.id,
    });
    expect([noRoom.status, noRoom.body.detail]).toEqual([
      409,
      `${one.name} has no room for 1 more. Choose another.`,
    ]);

    await admin.send('POST', '/api/messages/mark', { ids: [message!.id], state: 'kept' });
    await database('message').update({ at: database.raw(`now() - interval '90 days'`) });
    expect(await deleteWhatIsOver(database)).toBeGreaterThan(0);
    expect((await messages(admin, one.id)).map(({ state }) => state)).toEqual(['kept']);
    expect(await messages(admin, two.id)).toEqual([]);
    await until(() => night.live.exchange.view().messages.get(two.id) === 0, 'retention is counted too');
  });

  test('deleted yesterday is gone; deleted today is there until the day is over', async () => {
    const box = await shared();
    const callIds = [await leaveMessage(box.extension!), await leaveMessage(box.extension!)];
    await database('message')
      .where({ call_id: callIds[0]! })
      .update({ deleted_at: database.raw(`now() - interval '25 hours'`) });
    await database('message').where({ call_id: callIds[1]! }).update({ deleted_at: database.fn.now() });
    await deleteWhatIsOver(database);
    expect((await messages(admin, box.id)).map(({ callId }) => callId)).toEqual([callIds[1]]);
  });
});

test('boxes with new messages come first, the longest waiting on top, and are counted', async () => {
  const lost = (await shared()).id;
  const lighthouse = (await shared()).id;
  const ropes = (await shared()).id;
  const call = { call_id: newId(), caller: '', seconds: 3 };
  await database('message').insert([
    { ...call, id: newId(), box_id: ropes, at: new Date('2020-01-01'), state: 'new' },
    { ...call, id: newId(), box_id: lighthouse, at: new Date('2020-01-02'), state: 'new' },
    { ...call, id: newId(), box_id: lost, at: new Date('2019-01-01'), state: 'heard' },
  ]);
  const ids = async (asked: string) =>
    (await walkPages<VoicemailBoxView>(night, admin, `/api/voicemail-boxes?${asked}`)).map(({ id }) => id);
  for (const stretch of [1, 2, 1_000])
    expect((await ids(`limit=${stretch}&withRetired=false`)).slice(0, 2)).toEqual([ropes, lighthouse]);
  expect((await ids('limit=5&down=true')).slice(-2)).toEqual([lighthouse, ropes]);
  expect((await ids('only=new')).slice(0, 2)).toEqual([ropes, lighthouse]);
  expect(await ids('only=new')).not.toContain(lost);
  expect((await ids('only=shared&sort=since&down=true')).slice(0, 2)).toEqual([lighthouse, ropes]);
  const held = await ids('only=shared&sort=held');
  expect(held.indexOf(lost)).toBeGreaterThan(-1);
  expect(await ids('only=person')).toContain((await boxOf(ben.made.id)).id);
  expect(await ids('only=queue')).not.toContain(lost);
});

test('what only claims to be a recording, or belongs to no message, is refused with a reason', async () => {
  const box = await shared();
  const callId = await leaveMessage(box.extension!);
  gateway.say({ kind: 'recording', callId, file: Buffer.from('RIFF, or so it says').toString('base64') });
  await gateway.wait('remark', ({ why }) => why.startsWith('This is no WAV, MP3 or Ogg file'));
  gateway.say({ kind: 'recording', callId: 'unheard-of', file: recording(1) });
  await gateway.wait('remark', ({ why }) => why === 'This call left no message, or its sound is there.');
  expect((await messages(admin, box.id))[0]!.sound).toBeNull();
});

test('a box takes only what exists, and one of an owner is called after them', async () => {
  const box = await shared();
  const unknown = '00000000-0000-4000-8000-000000000000';
  const said = async (to: Partial<VoicemailBoxView>) => {
    const { status, body } = await change<Refusal>(box, to);
    return [status, body.errors[0]!.path, body.errors[0]!.detail];
  };
  expect(await said({ hoursId: unknown })).toEqual([
    ...[422, '/hoursId', 'What is named here does not exist. Choose another.'],
  ]);
  expect(await said({ listeners: [box.id] })).toEqual([
    ...[422, '/listeners', 'What is named here does not exist. Choose another.'],
  ]);
  expect(await said({ whenFull: { kind: 'voicemail', id: box.id } })).toEqual([
    ...[422, '/whenFull', 'A full box cannot send callers to itself. Choose another.'],
  ]);
  expect(await said({ mailTo: ['nobody'] })).toEqual([
    ...[422, '/mailTo/0', 'An address looks like name@example.com.'],
  ]);
  const own = await boxOf(ben.made.id);
  expect((await change<Refusal>(own, { name: 'Mine' })).body.errors[0]!.path).toBe('/name');
  const retired = await admin.send<Refusal>('POST', `/api/voicemail-boxes/${own.id}/retire`, undefined, {
    'if-match': `"${own.version}"`,
  });
  expect(retired.body.detail).toContain('goes with its person');
});

test('a PIN is set by its owner or sent, and shown to nobody', async () => {
  const own = await boxOf(ben.made.id);
  expect(
    (await ben.browser.send('POST', `/api/voicemail-boxes/${own.id}/pin`, { pin: '4711', send: false }))
      .status,
  ).toBe(204);
  expect(await boxOf(ben.made.id)).toMatchObject({ hasPin: true });
  const bad = await ben.browser.send<Refusal>('POST', `/api/voicemail-boxes/${own.id}/pin`, {
    pin: '12',
    send: false,
  });
  expect(bad.body.errors[0]!.detail).toBe('A PIN has 4 to 10 digits.');
  const nowhere = await admin.send<Refusal>('POST', `/api/voicemail-boxes/${own.id}/pin`, {
    pin: null,
    send: true,
  });
  expect(nowhere.body.errors[0]!.path).toBe('/mailTo');
  await change(await boxOf(ben.made.id), { mailTo: ['ben@example.com'] });
  await admin.send('POST', `/api/voicemail-boxes/${own.id}/pin`, { pin: null, send: true });
  const pin = /PIN of Ben Box's voicemail is (\d{6})/.exec(
    letters.findLast(({ to }) => to === 'ben@example.com')!.text,
  )![1]!;
  const everything = JSON.stringify([
    await database('change').where({ item_id: own.id }),
    await database('voicemail_box').where({ id: own.id }),
    await database('letter'),
    await boxOf(ben.made.id),
  ]);
  expect(everything).not.toContain(pin);
  shut = true;
  const refused = await admin.send<Refusal>('POST', `/api/voicemail-boxes/${own.id}/pin`, {
    pin: null,
    send: true,
  });
  shut = false;
  expect(refused.status).toBe(409);
  const { browser } = await personSignedIn(night, admin, 'Ola Other', 'agent');
  expect(
    (await browser.send('POST', `/api/voicemail-boxes/${own.id}/pin`, { pin: '0000', send: false })).status,
  ).toBe(403);
});

test('without room for recordings callers are told, and served again when there is', async () => {
  const box = await shared();
  let free = 10;
  const watch = new StorageWatch({ free: () => Promise.resolve(free), least: 100 }, night.live);
  await watch.look();
  gateway.say({ kind: 'call', ref: 'no room', to: box.extension!, from: '+13605550117' });
  const { callId } = await gateway.wait('callAccepted', ({ ref }) => ref === 'no room');
  await gateway.wait('play', (message) => message.callId === callId && message.prompt === 'boxFull');
  free = 1_000;
  await watch.look();
  watch.close();
  await leaveMessage(box.extension!);
  expect(await messages(admin, box.id)).toHaveLength(1);
});
