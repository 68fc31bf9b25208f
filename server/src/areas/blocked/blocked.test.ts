import { afterAll, beforeAll, expect, test } from 'vitest';
import type { BlockedDraft, BlockedView } from '@night-bell/core/contracts/blocked';
import type { NightBell } from '../../app.ts';
import { type Browser, openNight, personSignedIn, TestGateway, until } from '../../server.testing.ts';

interface Refusal {
  detail: string;
  errors: { path: string; detail: string }[];
}
let night: NightBell;
let admin: Browser;
let drop: () => Promise<void>;
const gateway = new TestGateway();
const ours = '+12065550140';
const nuisance = '+13605550117';

beforeAll(async () => {
  ({ night, admin, drop } = await openNight(gateway));
  await admin.send('POST', '/api/numbers', { e164: ours, label: 'Main', destination: { kind: 'end' } });
  await night.live.settled();
});
afterAll(() => drop());

const block = <T = BlockedView>(draft: Partial<BlockedDraft>) =>
  admin.send<T>('POST', '/api/blocked', {
    name: 'N',
    kind: 'number',
    digits: nuisance,
    until: null,
    why: '',
    ...draft,
  });
async function call(from: string): Promise<string> {
  const ref = `${from} ${Math.random()}`;
  gateway.say({ kind: 'call', ref, to: ours, from });
  const { callId } = await gateway.wait('callAccepted', (message) => message.ref === ref);
  await gateway.wait('released', (message) => message.callId === callId);
  await night.live.committed();
  return callId;
}

test('a caller is turned away from their call on in one press, is counted, and is let in when it is taken back', async () => {
  const first = await call(nuisance);
  const supervisor = (await personSignedIn(night, admin, 'Sue Super', 'supervisor')).browser;
  const made = (await supervisor.send<BlockedView>('POST', `/api/calls/${first}/block`, { why: 'sings' }))
    .body;
  expect(made).toMatchObject({
    name: '+1 360 555 0117',
    kind: 'number',
    digits: nuisance,
    why: 'sings',
    hits: 0,
  });
  expect(made.until! - Date.now()).toBeGreaterThan(89 * 86_400_000);
  await night.live.settled();
  const again = await call(nuisance);
  const entry = await until(async () => {
    const { item } = (await admin.send<{ item: BlockedView }>('GET', `/api/blocked/${made.id}`)).body;
    return item.hits === 1 ? item : null;
  }, 'it is counted');
  expect(entry.lastHit).not.toBeNull();
  const story = (await admin.send<{ story: { kind: string }[] }>('GET', `/api/calls/${again}`)).body.story;
  expect(story.map(({ kind }) => kind)).toContain('blocked');
  const twice = await supervisor.send<Refusal>('POST', `/api/calls/${again}/block`, {});
  expect(twice.status).toBe(409);

  await admin.send('POST', `/api/blocked/${made.id}/retire`, undefined, { 'if-match': `"${made.version}"` });
  await night.live.settled();
  const let_in = await call(nuisance);
  const after = (await admin.send<{ story: { kind: string }[] }>('GET', `/api/calls/${let_in}`)).body.story;
  expect(after.map(({ kind }) => kind)).not.toContain('blocked');
});

test('never a number of ours, one for help, a beginning too short, or digits that are none', async () => {
  const said = async (draft: Partial<BlockedDraft>) => (await block<Refusal>(draft)).body.errors[0]!.detail;
  expect(await said({ digits: ours })).toBe(`${ours} is a number of ours. It is never blocked.`);
  expect(await said({ kind: 'prefix', digits: '+1' })).toContain('at least 3 digits');
  expect(await said({ digits: '0800' })).toContain('country code');
  expect(await said({ kind: 'withheld', digits: '+1360' })).toContain('have no digits');
});

test('withheld callers are turned away together; agents may not see the list', async () => {
  const made = await block({ name: 'Withheld', kind: 'withheld', digits: '' });
  expect(made.status).toBe(200);
  await night.live.settled();
  await call('anonymous');
  await until(
    async () =>
      (await admin.send<BlockedView[]>('GET', '/api/blocked')).body.find(({ id }) => id === made.body.id)!
        .hits === 1,
    'it is counted',
  );
  const agent = (await personSignedIn(night, admin, 'Al Agent', 'agent')).browser;
  expect((await agent.send('GET', '/api/blocked')).status).toBe(403);
});
