import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { offerOf } from '@night-bell/core/exchange/calls/resting';
import type { LineKey } from '@night-bell/core/phones/line-keys';
import type { NightBell } from '../../app.ts';
import { type Browser, openNight, personSignedIn, TestGateway, until } from '../../server.testing.ts';
import type { NewPerson } from '../people/create.ts';
import type { PersonView } from '../people/store.ts';

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

const personOf = async (id: string) =>
  (await admin.send<{ person: PersonView }>('GET', `/api/people/${id}`)).body.person;

async function someone(name: string, phoneModel: string) {
  const made = (await admin.send<NewPerson>('POST', '/api/people', { name, phoneModel })).body;
  const person = await personOf(made.id);
  return { made, person, phoneId: person.phones[0]!.id };
}

const keyOf = (personId: string, change: Partial<LineKey> = {}): LineKey => ({
  position: 1,
  label: '',
  personId,
  alertAfter: 0,
  callerSeconds: null,
  press: { quiet: 'call', ringing: 'take', inCall: 'handOver' },
  ...change,
});

async function setKeys(phoneId: string, personId: string, lineKeys: unknown[]) {
  const phone = (await personOf(personId)).phones.find((each) => each.id === phoneId)!;
  const { model, transport, codecs, timeZone, numberId, dialTrunkId, home, emergencyAddress } = phone;
  const body = {
    model,
    transport,
    codecs,
    timeZone,
    numberId,
    dialTrunkId,
    home,
    emergencyAddress,
    lineKeys,
  };
  return admin.send<Refusal>('PUT', `/api/phones/${phoneId}`, body, { 'if-match': `"${phone.version}"` });
}

describe('keys that watch extensions', () => {
  test('faults are told at their key: no such key, one’s own phone, twice the same place, too late an alert', async () => {
    const watched = await someone('Watched One', 'desk4');
    const desk = await someone('Four Keys', 'desk4');
    const soft = await someone('Soft Phone', 'softphone');
    const refused = async (who: typeof desk, ...keys: unknown[]) => {
      const { status, body } = await setKeys(who.phoneId, who.made.id, keys);
      return [status, body.errors[0]?.path, body.errors[0]?.detail];
    };
    expect(await refused(desk, keyOf(watched.made.id, { position: 5 }))).toEqual([
      422,
      '/lineKeys/0/position',
      'A desk phone with 4 keys has no key 5.',
    ]);
    expect(await refused(soft, keyOf(watched.made.id))).toMatchObject([
      422,
      '/lineKeys/0/position',
      'A softphone has no keys to programme.',
    ]);
    expect(await refused(desk, keyOf(desk.made.id))).toEqual([
      422,
      '/lineKeys/0/personId',
      'This is whose phone it is. A key watches somebody else.',
    ]);
    expect(await refused(desk, keyOf(watched.made.id), keyOf(watched.made.id))).toEqual([
      422,
      '/lineKeys/1',
      'Two keys are at the same place.',
    ]);
    expect(await refused(desk, keyOf(watched.made.id, { alertAfter: 61 }))).toEqual([
      422,
      '/lineKeys/0/alertAfter',
      'Seconds, from 0 to 60.',
    ]);
    expect((await personOf(desk.made.id)).phones[0]!.lineKeys).toEqual([]);
  });

  test('watched, pressed while it rings, and pressed again to hand the caller back', async () => {
    const one = await someone('Rung First', 'desk4');
    const two = await someone('Takes It', 'desk6');
    expect((await setKeys(two.phoneId, two.made.id, [keyOf(one.made.id)])).status).toBe(200);
    await night.live.settled();
    for (const { made } of [one, two])
      await gateway.register(made.phone!.account, made.phone!.registrationSecret);
    const faces = async () =>
      (
        await admin.send<{ light: string; caller: string; press: string }[]>(
          'GET',
          `/api/phones/${two.phoneId}/line-keys`,
        )
      ).body;
    expect(await faces()).toMatchObject([{ light: 'off', press: 'call', caller: null, alerts: false }]);
    const pressed = () =>
      admin.send<{ said: string } & Refusal>('POST', `/api/phones/${two.phoneId}/line-keys/1/press`);
    expect((await pressed()).body.detail).toContain('no stand-in plays this one');

    gateway.say({ kind: 'call', ref: 'r', to: one.person.extension, from: '+13605550117' });
    await gateway.wait('ring', (ring) => ring.device === one.made.phone!.account);
    expect(await faces()).toMatchObject([
      { light: 'blinking', press: 'take', caller: '+13605550117', alerts: true },
    ]);
    expect((await pressed()).body.said).toBe('The call of Rung First is taken.');
    const ring = await gateway.wait('ring', (each) => each.device === two.made.phone!.account);
    expect(ring.answerBySelf).toBe(true);
    gateway.say({ kind: 'answered', leg: ring.leg });
    await until(
      () => night.live.exchange.view().calls.get(ring.callId)?.activity.kind === 'bridged',
      'they talk',
    );
    expect(await faces()).toMatchObject([{ press: 'handOver', light: 'off' }]);
    expect((await pressed()).body.said).toBe('The caller goes on to Rung First.');
    await until(
      () =>
        gateway.heard.filter((each) => each.kind === 'ring' && each.device === one.made.phone!.account)
          .length === 2,
      'the first rings again',
    );
    gateway.say({ kind: 'callerHungUp', callId: ring.callId });
    await until(() => !night.live.exchange.view().calls.has(ring.callId), 'the call is over');
  });

  test('announced with the key: the caller is taken back, announced again, and put through', async () => {
    const tells = await someone('Tells With Key', 'desk4');
    const hears = await someone('Hears By Key', 'desk4');
    const press = { quiet: 'call', ringing: 'take', inCall: 'announce' } as const;
    expect((await setKeys(tells.phoneId, tells.made.id, [keyOf(hears.made.id, { press })])).status).toBe(200);
    await night.live.settled();
    for (const { made } of [tells, hears])
      await gateway.register(made.phone!.account, made.phone!.registrationSecret);
    const key = `/api/phones/${tells.phoneId}`;
    const pressed = () => admin.send<{ said: string } & Refusal>('POST', `${key}/line-keys/1/press`);
    const takenBack = () => admin.send<{ said: string } & Refusal>('POST', `${key}/take-back`);
    const face = async () =>
      (await admin.send<{ press: string; light: string }[]>('GET', `${key}/line-keys`)).body[0]!;
    expect((await takenBack()).body.detail).toBe('Nobody talks on this phone.');
    const { body: team } = await admin.send<{ id: string }>('POST', '/api/teams', { name: 'Another team' });
    const looksAfter = [team.id];
    const { browser } = await personSignedIn(night, admin, 'Other Chief', 'supervisor', { looksAfter });
    for (const what of ['line-keys/1/press', 'take-back']) {
      const refused = await browser.send<Refusal>('POST', `${key}/${what}`);
      expect([refused.status, refused.body.detail]).toEqual([
        403,
        expect.stringContaining('do not look after'),
      ]);
    }

    gateway.say({ kind: 'call', ref: 'announced', to: tells.person.extension, from: '+13605550117' });
    const { leg, callId } = await gateway.wait('ring', (ring) => ring.device === tells.made.phone!.account);
    gateway.say({ kind: 'answered', leg });
    await until(() => night.live.exchange.view().calls.get(callId)?.activity.kind === 'bridged', 'they talk');
    expect(await face()).toMatchObject({ press: 'announce' });
    expect((await pressed()).body.said).toContain('Hears By Key rings');
    expect(await face()).toMatchObject({ press: 'handOver', light: 'blinking' });
    expect((await takenBack()).body.said).toBe('The caller is back.');
    expect((await takenBack()).body.detail).toBe('That does nothing at this moment.');

    await pressed();
    const second = await gateway.wait('ring', (ring) => ring.leg === `${callId}.4`);
    gateway.say({ kind: 'answered', leg: second.leg });
    await until(() => {
      const call = night.live.exchange.view().calls.get(callId);
      return call !== undefined && offerOf(call) === null;
    }, 'the colleague hears');
    expect((await pressed()).body.said).toBe('The caller is put through to Hears By Key.');
    expect(await face()).toMatchObject({ press: 'call', light: 'steady' });
    gateway.say({ kind: 'callerHungUp', callId });
    await until(() => !night.live.exchange.view().calls.has(callId), 'the call is over');
  });

  test('copied to many, all or none; one’s own key is left out; used by is told, and a change is taken back', async () => {
    const watched = await someone('Much Watched', 'desk6');
    const from = await someone('Model Phone', 'desk6');
    const six = await someone('Six Keys', 'desk6');
    const four = await someone('Other Four Keys', 'desk4');
    const keys = [keyOf(watched.made.id), keyOf(six.made.id, { position: 6 })];
    expect((await setKeys(from.phoneId, from.made.id, keys)).status).toBe(200);
    const copy = (...to: string[]) =>
      admin.send<{ copied: number } & Refusal>('POST', `/api/phones/${from.phoneId}/line-keys/copy`, { to });
    const refused = (await copy(six.phoneId, four.phoneId)).body;
    expect(refused.errors).toEqual([
      {
        path: '/to/1',
        detail: 'The phone of Other Four Keys has 4 keys; this one uses key 6. Nothing was copied.',
      },
    ]);
    expect((await personOf(six.made.id)).phones[0]!.lineKeys).toEqual([]);
    expect((await copy(six.phoneId)).body.copied).toBe(1);
    expect((await personOf(six.made.id)).phones[0]!.lineKeys).toEqual([keys[0]]);
    const { usedBy } = (
      await admin.send<{ usedBy: { how: string }[] }>('GET', `/api/people/${watched.made.id}`)
    ).body;
    expect(usedBy.filter(({ how }) => how === 'line key')).toHaveLength(2);
    const [last] = (await admin.send<{ id: number }[]>('GET', `/api/items/${six.phoneId}/history`)).body;
    expect((await admin.send('POST', `/api/changes/${last!.id}/take-back`)).status).toBe(204);
    expect((await personOf(six.made.id)).phones[0]!.lineKeys).toEqual([]);
  });
});
