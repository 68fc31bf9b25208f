import { afterAll, beforeAll, expect, test } from 'vitest';
import type { CodeDraft, CodeView } from '@night-bell/core/contracts/codes';
import type { HoursView } from '@night-bell/core/contracts/opening-hours';
import type { NightBell } from '../../app.ts';
import type { NewPerson } from '../people/create.ts';
import { type Browser, openNight, TestGateway, until } from '../../server.testing.ts';

interface Refusal {
  detail: string;
  errors: { path: string; detail: string }[];
}
let night: NightBell;
let admin: Browser;
let drop: () => Promise<void>;
let set: HoursView;
const gateway = new TestGateway();

beforeAll(async () => {
  ({ night, admin, drop } = await openNight(gateway));
  const weekly = Array.from({ length: 7 }, () => [[0, 1440]]);
  const hours = { name: 'Bookings', zone: 'America/Los_Angeles', weekly, days: [] };
  set = (await admin.send<HoursView>('POST', '/api/opening-hours', hours)).body;
});
afterAll(() => drop());

const make = <T = CodeView>(draft: Partial<CodeDraft> = {}) =>
  admin.send<T>('POST', '/api/service-codes', {
    ...{ name: 'Storm day', digits: '*86', does: 'storm', hoursIds: [set.id], forHours: 6, teamIds: [] },
    ...draft,
  });

test('a storm is called from a phone: dialled, PIN, read back, pressed; it stands in the history under who did', async () => {
  const person = (await admin.send<NewPerson>('POST', '/api/people', { name: 'Pia Porter' })).body;
  const code = (await make()).body;
  expect(code).toMatchObject({ hasPin: false, insteadOf: null });
  await admin.send('POST', `/api/service-codes/${code.id}/pin`, { pin: '4711' });
  await night.live.settled();
  const { account, registrationSecret } = person.phone!;
  expect(await gateway.register(account, registrationSecret)).toBe(200);
  gateway.say({ kind: 'call', ref: 'storm', to: '*86', from: account, device: account });
  const { callId } = await gateway.wait('callAccepted', ({ ref }) => ref === 'storm');
  await gateway.wait('play', (message) => message.callId === callId && message.prompt === 'enterPin');
  for (const key of '4711') gateway.say({ kind: 'key', leg: `${callId}.1`, key });
  const { words } = await gateway.wait('say', (message) => message.callId === callId);
  expect(words).toBe('This closes Bookings for 6 hours. Press 1 to close.');
  gateway.say({ kind: 'key', leg: `${callId}.1`, key: '1' });
  const closed = await until(async () => {
    const [now] = (await admin.send<HoursView[]>('GET', '/api/opening-hours')).body;
    return now!.state === 'storm' ? now : null;
  }, 'the set is closed');
  expect(closed.storm).toMatchObject({ by: 'Pia Porter' });
  expect(closed.storm!.until - Date.now()).toBeGreaterThan(5.9 * 3_600_000);
  const history = await admin.send<{ what: string; by: string }[]>('GET', `/api/items/${set.id}/history`);
  expect(history.body[0]).toMatchObject({ what: 'storm', by: 'Pia Porter' });
  await until(() => night.live.exchange.view().hours.get(set.id)?.storm !== null, 'the exchange knows of it');
});

test('one code never begins like another, names what exists, and closes something', async () => {
  const said = async (draft: Partial<CodeDraft>) =>
    (await make<Refusal>({ name: 'Other', ...draft })).body.errors[0];
  expect(await said({ digits: '*8' })).toMatchObject({ path: '/digits' });
  expect(await said({ digits: '*865' })).toMatchObject({
    path: '/digits',
    detail: '*86 is Storm day; one begins like the other.',
  });
  expect(await said({ digits: '*90', hoursIds: [] })).toMatchObject({ path: '/hoursIds' });
  expect(await said({ digits: '*90', teamIds: [set.id] })).toMatchObject({ path: '/teamIds' });
});

test('says which dialling rule would have taken it out', async () => {
  const rule = {
    name: 'Stars',
    pattern: '*xx',
    strip: 0,
    prepend: '',
    trunkIds: [],
    use: 'everybody',
    teamIds: [],
  };
  expect((await admin.send('POST', '/api/dialling-rules', rule)).status).toBe(200);
  const [code] = (await admin.send<CodeView[]>('GET', '/api/service-codes')).body;
  expect(code).toMatchObject({ insteadOf: 'Stars' });
});
