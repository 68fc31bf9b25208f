import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import wavefile from 'wavefile';
import type { RecordingSettingsView, RecordingView } from '@night-bell/core/contracts/recordings';
import type { NightBell } from '../../app.ts';
import type { Database } from '../../database/connection.ts';
import { type Browser, openNight, personSignedIn, TestGateway, until } from '../../server.testing.ts';
import { newId } from '../../spine/items.ts';
import type { NewPerson } from '../people/create.ts';
import { RecordingFiles } from './files.ts';
import { forgetOldTalks } from './retention.ts';

let night: NightBell;
let database: Database;
let admin: Browser;
let supervisor: Browser;
let colleague: Browser;
let drop: () => Promise<void>;
let talker: { browser: Browser; made: NewPerson };
let queueId: string;
const gateway = new TestGateway();
const folder = mkdtempSync(join(tmpdir(), 'night-bell-'));

beforeAll(async () => {
  const opened = await openNight(gateway, [], { recordings: new RecordingFiles(folder) });
  ({ night, admin, database, drop } = opened);
  supervisor = (await personSignedIn(night, admin, 'Sue Super', 'supervisor')).browser;
  colleague = (await personSignedIn(night, admin, 'Cole League', 'agent')).browser;
  talker = await personSignedIn(night, admin, 'Tara Talker', 'agent');
  const prompt = { name: 'Notice', kind: 'announcement', language: 'en', personId: null };
  const { id: noticeId } = (
    await admin.send<{ id: string }>('POST', '/api/prompts', { ...prompt, words: 'Talks are recorded.' })
  ).body;
  await admin.send('POST', `/api/prompts/${noticeId}/publish`, {}, { 'if-match': '"1"' });
  const queue = {
    name: 'Bookings',
    extension: '5001',
    members: [talker.made.id],
    recording: 'always',
    wrapUpSeconds: 0,
  };
  const refused = await admin.send<{ detail: string }>('POST', '/api/queues', queue);
  expect(refused.body.detail).toContain('Choose the notice');
  queueId = (
    await admin.send<{ id: string }>('POST', '/api/queues', { ...queue, recordingNoticeId: noticeId })
  ).body.id;
  const { account, registrationSecret } = talker.made.phone!;
  await until(() => night.live.exchange.view().queues.has(queueId), 'the queue is known');
  expect(await gateway.register(account, registrationSecret)).toBe(200);
});
afterAll(async () => {
  await drop();
  rmSync(folder, { recursive: true, force: true });
});

const hum = (seconds: number) => {
  const wav = new wavefile.WaveFile();
  const samples = Array.from({ length: seconds * 8_000 }, (_, i) => Math.round(9_000 * Math.sin(i / 5)));
  wav.fromScratch(1, 8_000, '16', samples);
  return Buffer.from(wav.toBuffer()).toString('base64');
};

/** A caller hears the notice and talks with Tara. */
async function talk(ref: string): Promise<{ callId: string; agentLeg: string }> {
  gateway.say({ kind: 'call', ref, to: '5001', from: '+13605550117' });
  const { callId } = await gateway.wait('callAccepted', (message) => message.ref === ref);
  await gateway.wait('say', (message) => message.callId === callId);
  const ring = await gateway.wait('ring', (message) => message.callId === callId);
  gateway.say({ kind: 'answered', leg: ring.leg });
  await gateway.wait('recordTalk', (message) => message.callId === callId && message.does === 'start');
  return { callId, agentLeg: ring.leg };
}
const listed = async (who: Browser, callId: string) =>
  (await who.send<RecordingView[]>('GET', `/api/calls/${callId}/recordings`)).body;
const hear = (who: Browser, callId: string) =>
  night.app.inject({ url: `/api/calls/${callId}/recordings/1/sound`, headers: { cookie: who.cookieHeader } });

test('a talk is recorded, paused by whoever talks, kept as a file, and heard by those who may', async () => {
  const { callId } = await talk('one');
  const pause = (who: Browser, paused: boolean) =>
    who.send<{ detail: string }>('POST', `/api/calls/${callId}/recording`, { paused });
  expect((await pause(colleague, true)).status).toBe(403);
  expect((await pause(talker.browser, true)).status).toBe(204);
  await gateway.wait('recordTalk', ({ does }) => does === 'pause');
  expect((await pause(talker.browser, true)).body.detail).toContain('as you ask already');
  expect((await pause(supervisor, false)).status).toBe(204);
  await gateway.wait('recordTalk', ({ does }) => does === 'resume');
  gateway.say({ kind: 'callerHungUp', callId });
  await gateway.wait('recordTalk', ({ does }) => does === 'stop');
  // Its sound comes in two parts.
  const file = hum(3);
  const half = Math.floor(file.length / 8) * 4;
  gateway.say({ kind: 'talkPart', callId, part: 1, file: file.slice(0, half) });
  gateway.say({ kind: 'talk', callId, part: 1, file: file.slice(half) });
  const [mine] = await until(async () => {
    const talks = await listed(admin, callId);
    return talks[0]?.sound == null ? null : talks;
  }, 'the sound is there');
  expect(mine).toMatchObject({ part: 1, personName: 'Tara Talker', mayHear: true });
  expect(mine!.sound!.seconds).toBeCloseTo(3, 1);

  const heard = await hear(supervisor, callId);
  expect(new wavefile.WaveFile(heard.rawPayload).fmt).toMatchObject({ audioFormat: 7, sampleRate: 8_000 });
  await hear(supervisor, callId);
  const history = await admin.send<{ what: string; by: string }[]>(
    'GET',
    `/api/items/${talker.made.id}/history`,
  );
  expect(history.body.filter(({ what }) => what === 'heard')).toMatchObject([{ by: 'Sue Super' }]);
  expect((await hear(talker.browser, callId)).statusCode).toBe(200);
  expect(await listed(colleague, callId)).toEqual([]);
  expect((await hear(colleague, callId)).statusCode).toBe(403);
});

test('a supervisor hears whom they look after; agents their own only where the company lets them', async () => {
  const { callId } = await talk('two');
  gateway.say({ kind: 'callerHungUp', callId });
  await gateway.wait('recordTalk', (message) => message.callId === callId && message.does === 'stop');
  gateway.say({ kind: 'talk', callId, part: 1, file: hum(1) });
  await until(async () => (await listed(admin, callId))[0]?.sound, 'the sound is there');
  const settings = (body: object) =>
    admin.send<RecordingSettingsView>('PUT', '/api/recording-settings', body);
  const kept = await settings({ keepDays: 30, agentsHearOwn: false });
  expect(kept.body).toMatchObject({ settings: { keepDays: 30 }, held: { count: 2, isKept: true } });
  expect((await hear(talker.browser, callId)).statusCode).toBe(403);
  expect((await listed(talker.browser, callId))[0]).toMatchObject({ mayHear: false, sound: null });
  await settings({ keepDays: 30, agentsHearOwn: true });
  expect((await settings({ keepDays: 0, agentsHearOwn: true })).status).toBe(422);
  expect((await supervisor.send('PUT', '/api/recording-settings', kept.body.settings)).status).toBe(403);

  const { id: teamId } = (await admin.send<{ id: string }>('POST', '/api/teams', { name: 'Others' })).body;
  const sue = (await database('item').where({ name: 'Sue Super' }).first('id'))!;
  await database('supervised_team').insert({ person_id: sue.id, team_id: teamId });
  const refused = await hear(supervisor, callId);
  expect([refused.statusCode, refused.json<{ detail: string }>().detail]).toEqual([
    403,
    'Talks of Tara Talker are heard by others. Ask a supervisor.',
  ]);
  await database('supervised_team').where({ person_id: sue.id }).delete();
});

test('what nobody recorded, what is no sound, and what comes twice are not taken, and it is said', async () => {
  const remarks = () =>
    gateway.heard.flatMap((message) => (message.kind === 'remark' && !message.taken ? [message.why] : []));
  gateway.say({ kind: 'talk', callId: newId(), part: 1, file: hum(1) });
  await until(() => remarks().some((why) => why.startsWith('Nothing was recorded')), 'the first is refused');
  const { callId } = await talk('three');
  gateway.say({ kind: 'callerHungUp', callId });
  await gateway.wait('recordTalk', (message) => message.callId === callId && message.does === 'stop');
  gateway.say({ kind: 'talk', callId, part: 1, file: Buffer.from('Not a sound').toString('base64') });
  await until(() => remarks().includes('A recording comes as WAV.'), 'text is refused');
  expect((await listed(admin, callId))[0]).toMatchObject({ sound: null });
  expect((await hear(admin, callId)).statusCode).toBe(404);
  expect((await hear(admin, newId())).statusCode).toBe(404);
});

test('what is older than the company keeps is deleted, file and all', async () => {
  const rows = await database('recording_sound').select('call_id', 'file');
  expect(rows.length).toBeGreaterThan(1);
  const [old] = rows;
  expect(existsSync(join(folder, old!.file))).toBe(true);
  await database('recording')
    .where({ call_id: old!.call_id })
    .update({ at: new Date(Date.now() - 31 * 86_400_000) });
  expect(await forgetOldTalks(database, new RecordingFiles(folder))).toBe(1);
  expect(existsSync(join(folder, old!.file))).toBe(false);
  expect(await listed(admin, old!.call_id)).toEqual([]);
  expect(await forgetOldTalks(database, new RecordingFiles(folder))).toBe(0);
});
