import { afterAll, beforeAll, expect, test } from 'vitest';
import wavefile from 'wavefile';
import type { MessageView, VoicemailBoxView } from '@night-bell/core/contracts/voicemail-boxes';
import type { NightBell } from '../../app.ts';
import type { Database } from '../../database/connection.ts';
import { type Browser, openNight, personSignedIn, TestGateway, until } from '../../server.testing.ts';
import { newId } from '../../spine/items.ts';
import type { NewPerson } from '../people/create.ts';

let night: NightBell;
let database: Database;
let admin: Browser;
let owner: { browser: Browser; made: NewPerson };
let box: VoicemailBoxView;
let drop: () => Promise<void>;
const gateway = new TestGateway();

beforeAll(async () => {
  ({ night, admin, database, drop } = await openNight(gateway));
  owner = await personSignedIn(night, admin, 'Olive Owner', 'agent');
  const boxes = (await admin.send<VoicemailBoxView[]>('GET', '/api/voicemail-boxes')).body;
  box = boxes.find(({ ownerId }) => ownerId === owner.made.id)!;
  const code = {
    name: 'Voicemail',
    digits: '*97',
    does: 'voicemail',
    hoursIds: [],
    forHours: 1,
    teamIds: [],
  };
  expect((await admin.send('POST', '/api/service-codes', code)).status).toBe(200);
  const pin = { pin: '4711', send: false };
  await owner.browser.send('POST', `/api/voicemail-boxes/${box.id}/pin`, pin);
  for (const [caller, hoursAgo] of [
    ['+13605550117', 1],
    ['', 3],
  ] as const)
    await database('message').insert({
      ...{ id: newId(), box_id: box.id, call_id: newId(), caller, caller_name: null },
      ...{ at: new Date(Date.now() - hoursAgo * 3_600_000), seconds: 4 },
    });
  await until(() => night.live.exchange.view().boxes.get(box.id)?.pinHash != null, 'the PIN is known');
  await until(() => night.live.exchange.view().codes.size === 1, 'the code is known');
});
afterAll(() => drop());

let calls = 0;
/** Dialled on the owner's own phone. */
async function dial(): Promise<{ leg: string; said: (part: string) => Promise<unknown> }> {
  const { account, registrationSecret } = owner.made.phone!;
  expect(await gateway.register(account, registrationSecret)).toBe(200);
  const ref = `menu ${++calls}`;
  gateway.say({ kind: 'call', ref, to: '*97', from: account, device: account });
  const { callId } = await gateway.wait('callAccepted', (message) => message.ref === ref);
  const said = (part: string) =>
    gateway.wait('say', (message) => message.callId === callId && message.words.includes(part));
  return { leg: `${callId}.1`, said };
}
const press = (leg: string, keys: string) => {
  for (const key of keys) gateway.say({ kind: 'key', leg, key });
};
const held = async () =>
  (await owner.browser.send<MessageView[]>('GET', `/api/voicemail-boxes/${box.id}/messages`)).body;

test('messages are heard and deleted by phone, and stand so at the desk', async () => {
  const { leg, said } = await dial();
  await said('Type the PIN of Olive Owner');
  press(leg, '4711#');
  await said('2 new messages, 0 others. Message 1 of 2, new, from +1 360 555 0117.');
  const [latest] = await held();
  await gateway.wait('playMessage', ({ messageId }) => messageId === latest!.id);
  await until(async () => (await held())[0]!.state === 'heard', 'it counts as heard');
  press(leg, '3');
  await said('Deleted.');
  await until(async () => (await held())[0]!.deletedAt, 'it is deleted');
  expect((await held())[0]).toMatchObject({ heardBy: 'Olive Owner' });
  press(leg, '2');
  await said('Message 2 of 2, new, from a withheld number.');
  press(leg, '*');
  const history = await admin.send<{ what: string; by: string }[]>('GET', `/api/items/${box.id}/history`);
  expect(history.body.map(({ what, by }) => `${what} ${by}`)).toContain('deleted Olive Owner');
});

test('a greeting recorded by phone is what callers hear from then on; a file without sound changes nothing', async () => {
  const { leg, said } = await dial();
  await said('Type the PIN');
  press(leg, '4711#');
  await said('Message 1 of');
  press(leg, '4');
  await gateway.wait('recordGreeting', ({ does }) => does === 'start');
  press(leg, '#');
  await gateway.wait('recordGreeting', ({ does }) => does === 'stop');
  const callId = leg.slice(0, -2);
  gateway.say({ kind: 'greeting', callId, file: Buffer.from('RIFF no sound').toString('base64') });
  await gateway.wait('remark', ({ of, taken }) => of === 'greeting' && !taken);
  const wav = new wavefile.WaveFile();
  wav.fromScratch(
    1,
    8_000,
    '16',
    Array.from({ length: 16_000 }, (_, i) => Math.round(9_000 * Math.sin(i / 5))),
  );
  const file = Buffer.from(wav.toBuffer()).toString('base64');
  gateway.say({ kind: 'greetingPart', callId, file: file.slice(0, 20_000) });
  gateway.say({ kind: 'greeting', callId, file: file.slice(20_000) });
  const promptId = await until(
    () => night.live.exchange.view().boxes.get(box.id)?.greetings.open.outside,
    'callers hear it',
  );
  expect(night.live.exchange.view().prompts.get(promptId)).toMatchObject({ seconds: 2 });
  const prompt = await admin.send<{ item: { name: string; personId: string } }>(
    'GET',
    `/api/prompts/${promptId}`,
  );
  expect(prompt.body.item).toMatchObject({
    name: expect.stringContaining('by phone'),
    personId: owner.made.id,
  });
  press(leg, '*');
});

test('nobody sends a greeting who has not opened the box', async () => {
  const { leg, said } = await dial();
  await said('Type the PIN');
  gateway.say({ kind: 'greeting', callId: leg.slice(0, -2), file: 'UklGRg==' });
  const { why } = await gateway.wait('remark', (message) => message.why.startsWith('Nobody records'));
  expect(why).toBe('Nobody records a greeting in this call.');
  for (let tries = 0; tries < 5; tries++) press(leg, '0000#');
  await said('That is not the PIN. Goodbye.');
});
