import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { registerRequest } from '@night-bell/core/sip/client';
import { digestSecret } from '@night-bell/core/sip/digest';
import { readSip, type SipRequest, type SipResponse, writeSip } from '@night-bell/core/sip/message';
import { answerOptions } from '@night-bell/core/sip/options';
import type { Codec, Transport } from '@night-bell/core/phones/catalogue';
import type { NightBell } from '../../app.ts';
import { realm } from '../../live/registrar.ts';
import { Browser, openNight, TestGateway, until } from '../../server.testing.ts';
import type { NewPerson } from '../people/create.ts';
import type { PersonView } from '../people/store.ts';
import type { Enrolment } from './enrolment.ts';
import type { PhoneHealth } from './health.ts';
import type { PhoneSecret } from './secrets.ts';
import type { PhoneView } from './store.ts';

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

const post = <T = Refusal>(url: string, body: unknown = {}, headers = {}) =>
  admin.send<T>('POST', url, body, headers);
const personOf = async (id: string) =>
  (await admin.send<{ person: PersonView }>('GET', `/api/people/${id}`)).body.person;
const health = async (phoneId: string) =>
  (await admin.send<PhoneHealth>('GET', `/api/phones/${phoneId}/health`)).body;

/** Somebody with one phone; and that phone, played by hand. */
async function someone(name: string, more = {}) {
  const made = (await post<NewPerson>('/api/people', { name, ...more })).body;
  const [phone] = (await personOf(made.id)).phones;
  return { made, phone: phone!, device: new Device(made.phone!) };
}

/** A device that says just what the test wants. */
class Device {
  account: string;
  secret: string;
  transport: Transport = 'tls';
  domain = realm;
  host = '192.0.2.44';
  source = '192.0.2.44';
  codecs: Codec[] = ['PCMU'];
  private readonly name: string;
  private sequence = 0;

  constructor({ account, registrationSecret }: PhoneSecret) {
    this.name = account;
    this.account = account;
    this.secret = registrationSecret;
  }

  async register(): Promise<number> {
    const first = await this.send(null);
    if (first.status !== 401) return first.status;
    const second = await this.send(first);
    if (second.status !== 200) return second.status;
    const asked = await gateway.wait(
      'sip',
      (message) => message.device === this.name && message.message.startsWith('OPTIONS'),
    );
    const answer = answerOptions(readSip(asked.message) as SipRequest, this.codecs, 't');
    gateway.say({ kind: 'sip', device: this.name, message: writeSip(answer), source: this.source });
    gateway.heard.length = 0;
    return 200;
  }

  private async send(challenge: SipResponse | null): Promise<SipResponse> {
    const phone = {
      account: this.account,
      domain: this.domain,
      transport: this.transport,
      contact: `sip:${this.account}@${this.host}`,
      secret: digestSecret(this.account, this.domain, this.secret),
      callId: this.account,
      expires: 600,
    };
    const request = registerRequest(phone, ++this.sequence, `b${this.sequence}`, challenge)!;
    const before = gateway.heard.length;
    gateway.say({ kind: 'sip', device: this.name, message: writeSip(request), source: this.source });
    const answer = await until(
      () =>
        gateway.heard
          .slice(before)
          .find(
            (each) => each.kind === 'sip' && each.device === this.name && each.message.startsWith('SIP/2.0'),
          ),
      'the registrar answers',
    );
    return readSip((answer as { message: string }).message) as SipResponse;
  }
}

const mend = (phoneId: string) =>
  post<{ said: string; secret: PhoneSecret | null }>(`/api/phones/${phoneId}/mend`);
const isState = (phoneId: string, registration: PhoneHealth['registration'], fault: string | null = null) =>
  until(async () => {
    const now = await health(phoneId);
    return now.registration === registration && now.fault === fault ? now : null;
  }, `the phone is ${registration} (${fault})`);

describe('what is wrong with a phone is said in words, and mended', () => {
  test('a wrong secret: the ladder shows the messages, a new set-up mends it', async () => {
    const { phone, device } = await someone('Wrong Secret');
    const right = device.secret;
    device.secret = 'typed wrongly';
    expect(await device.register()).toBe(403);
    const refused = await isState(phone.id, 'refused', 'wrong secret');
    expect(
      refused.messages.map((message) => [message.from, message.start.split(' ').slice(0, 2).join(' ')]),
    ).toEqual([
      ['there', `REGISTER sip:${realm}`],
      ['here', 'SIP/2.0 401'],
      ['there', `REGISTER sip:${realm}`],
      ['here', 'SIP/2.0 403'],
    ]);
    expect(refused).toMatchObject({ mend: 'newSetUp', button: 'Make a new set-up' });
    const { secret } = (await mend(phone.id)).body;
    device.secret = right;
    expect(await device.register()).toBe(403);
    device.secret = secret!.registrationSecret;
    expect(await device.register()).toBe(200);
    await isState(phone.id, 'registered');
  });

  test('a wrong transport is allowed by one press', async () => {
    const { phone, device } = await someone('Wrong Transport');
    device.transport = 'udp';
    expect(await device.register()).toBe(403);
    expect((await isState(phone.id, 'refused', 'wrong transport')).what).toContain('UDP; TLS is expected');
    expect((await mend(phone.id)).body.said).toBe('UDP is allowed for this phone.');
    await gateway.wait('askAgain', (message) => message.device === device.account);
    expect(await device.register()).toBe(200);
    await isState(phone.id, 'registered');
  });

  test('an address nobody reaches becomes the one it sends from', async () => {
    const { phone, device } = await someone('Behind Router');
    Object.assign(device, { host: '192.168.1.7', source: '198.51.100.7' });
    expect(await device.register()).toBe(403);
    await isState(phone.id, 'refused', 'behind a router');
    await mend(phone.id);
    expect(await device.register()).toBe(200);
    expect((await isState(phone.id, 'registered')).address).toBe(`sip:${device.account}@198.51.100.7`);
  });

  test('without a codec in common it counts as refused until its codecs are allowed', async () => {
    const { phone, device } = await someone('Odd Codecs');
    await admin.send(
      'PUT',
      `/api/phones/${phone.id}`,
      { model: 'softphone', codecs: ['G722'] },
      { 'if-match': '"1"' },
    );
    device.codecs = ['opus', 'PCMA'];
    expect(await device.register()).toBe(200);
    const refused = await isState(phone.id, 'refused', 'no codec in common');
    expect(refused.what).toContain('opus, PCMA');
    expect((await mend(phone.id)).body.said).toBe('opus, PCMA allowed for this phone.');
    expect(await device.register()).toBe(200);
    await isState(phone.id, 'registered');
  });

  test('a wrong account and a wrong server are told of the device that used them', async () => {
    const { phone, device } = await someone('Wrong Account');
    const right = device.account;
    device.account = `${right}x`;
    expect(await device.register()).toBe(403);
    await isState(phone.id, 'refused', 'unknown account');
    device.account = right;
    device.domain = 'old.example';
    expect(await device.register()).toBe(404);
    expect((await isState(phone.id, 'refused', 'wrong server')).what).toContain('old.example');
  });

  test('nothing wrong, nothing mended', async () => {
    const { phone, device } = await someone('All Well');
    expect(await device.register()).toBe(200);
    await isState(phone.id, 'registered');
    expect((await mend(phone.id)).status).toBe(409);
  });
});

describe('several phones', () => {
  test('are tried in their order; a second one has an account of its own', async () => {
    const { made, phone } = await someone('Two Phones');
    const second = (
      await post<{ phoneId: string; secret: PhoneSecret }>(`/api/people/${made.id}/phones`, {
        model: 'desk6',
      })
    ).body;
    expect(second.secret.account).toBe(`${made.phone!.account}-2`);
    expect((await personOf(made.id)).phones.map((each) => each.model)).toEqual(['softphone', 'desk6']);
    expect(
      (await admin.send('PUT', `/api/people/${made.id}/phone-order`, { ids: [second.phoneId, phone.id] }))
        .status,
    ).toBe(204);
    expect((await personOf(made.id)).phones[0]!.id).toBe(second.phoneId);
    const partly = await admin.send<Refusal>('PUT', `/api/people/${made.id}/phone-order`, {
      ids: [phone.id],
    });
    expect(partly.body.code).toBe('notNow');
  });

  test('settings are checked against the model, kept in history and taken back', async () => {
    const { phone } = await someone('Cordless User', { phoneModel: 'cordless' });
    const put = (body: object, version: number) =>
      admin.send<Refusal & PhoneView>(
        'PUT',
        `/api/phones/${phone.id}`,
        { model: 'cordless', ...body },
        {
          'if-match': `"${version}"`,
        },
      );
    const refused = await put({ transport: 'tls' }, phone.version);
    expect(refused.body.errors).toEqual([
      { path: '/transport', detail: 'A cordless phone speaks UDP or TCP only.' },
    ]);
    expect((await put({ transport: 'udp', timeZone: 'Moon/Base' }, phone.version)).body.errors[0]!.path).toBe(
      '/timeZone',
    );
    const nowhere = await put({ transport: 'udp', dialTrunkId: phone.id }, phone.version);
    expect(nowhere.body.errors[0]!.path).toBe('/dialTrunkId');
    const { body: trunk } = await post<{ id: string }>('/api/trunks', {
      ...{ name: 'Island lines', host: 'provider.example', account: 'island', channels: 2 },
      ...{ prices: [], registers: false },
    });
    const settings = { transport: 'udp', timeZone: 'America/Denver', dialTrunkId: trunk.id };
    const changed = await put(settings, phone.version);
    expect(changed.body).toMatchObject(settings);
    await night.live.settled();
    expect(night.live.exchange.view().phones.get(phone.id)!.item.dialTrunkId).toBe(trunk.id);
    const { body: used } = await admin.send<{ usedBy: { how: string }[] }>('GET', `/api/trunks/${trunk.id}`);
    expect(used.usedBy).toMatchObject([{ how: 'dials out over it' }]);
    const history = (await admin.send<{ id: number }[]>('GET', `/api/items/${phone.id}/history`)).body;
    expect((await post(`/api/changes/${history[0]!.id}/take-back`)).status).toBe(204);
  });

  test('administrators and auditors have none unless one is asked for', async () => {
    const auditor = (await post<NewPerson>('/api/people', { name: 'Au Ditor', role: 'auditor' })).body;
    expect(auditor.phone).toBeNull();
    const asked = (
      await post<NewPerson>('/api/people', { name: 'Au Desk', role: 'auditor', phoneModel: 'desk4' })
    ).body;
    expect(asked.phone).not.toBeNull();
  });
});

describe('enrolment', () => {
  const visitor = () => new Browser(night);
  const look = (code: string) =>
    visitor().send<Enrolment & Refusal>('POST', '/api/enrolments/look', { code });

  test('asks only for what is missing, keeps each answer, and ends in a registered phone', async () => {
    const { made, phone, device } = await someone('At Home', { home: true });
    const code = made.phone!.enrolmentCode;
    expect((await look(code)).body).toMatchObject({
      name: 'At Home',
      fetched: false,
      missing: ['timeZone', 'emergencyAddress'],
    });
    const answer = (body: object) =>
      visitor().send<Refusal>('PUT', '/api/enrolments/answers', { code, ...body });
    expect((await answer({ timeZone: 'America/Denver' })).status).toBe(200);
    expect((await look(code.toLowerCase())).body.missing).toEqual(['emergencyAddress']);
    const address = { street: '4 Quay Lane', unit: '', city: 'Tacoma', region: 'WA', postalCode: '98401' };
    const partly = await answer({ emergencyAddress: { ...address, street: '' } });
    expect(partly.body.errors.map((error) => error.path)).toContain('/emergencyAddress/street');
    expect((await answer({ emergencyAddress: { ...address, country: 'us' } })).status).toBe(200);
    const setUp = await visitor().send<{ secret: string; timeZone: string; home: boolean }>(
      'POST',
      '/api/enrolments',
      { code },
    );
    expect(setUp.body).toMatchObject({
      secret: made.phone!.registrationSecret,
      timeZone: 'America/Denver',
      home: true,
    });
    expect((await look(code)).body).toMatchObject({ fetched: true, registered: false, missing: [] });
    expect((await visitor().send('POST', '/api/enrolments', { code })).status).toBe(401);
    expect((await answer({ timeZone: 'America/Chicago' })).body.code).toBe('notNow');
    expect(await device.register()).toBe(200);
    await isState(phone.id, 'registered');
    expect((await look(code)).body.registered).toBe(true);
  });

  test('an unknown code says who can help', async () => {
    const { status, body } = await look('AAAAA-BBBBB-CCCCC-DDDDD');
    expect([status, body.detail]).toEqual([401, expect.stringContaining('administrator can make a new one')]);
  });

  test('a new set-up makes the code before useless', async () => {
    const { made, phone } = await someone('New Set Up');
    const fresh = (await post<PhoneSecret>(`/api/phones/${phone.id}/set-up`)).body;
    expect((await look(made.phone!.enrolmentCode)).status).toBe(401);
    expect((await look(fresh.enrolmentCode)).status).toBe(200);
  });
});
