import { afterAll, beforeAll, describe, expect, test } from 'vitest';

import { digestSecret } from '@night-bell/core/sip/digest';
import { readSip, respond, type SipRequest, writeSip } from '@night-bell/core/sip/message';
import { answerRegister } from '@night-bell/core/sip/registrar';
import type { NightBell } from '../../app.ts';
import { type Browser, openNight, personSignedIn, TestGateway, until } from '../../server.testing.ts';
import { checkCertificate, makeCertificate } from './certificate.ts';
import type { TrunkView } from '@night-bell/core/contracts/trunks';

interface Refusal {
  code: string;
  detail: string;
  errors: { path: string; detail: string }[];
}
interface State {
  registration: 'registered' | 'unregistered' | 'refused' | 'open';
  what: string;
  mend: string | null;
  button: string;
  messages: { from: string; start: string }[];
}

let night: NightBell;
let drop: () => Promise<void>;
let admin: Browser;
const gateway = new TestGateway();

beforeAll(async () => {
  ({ night, admin, drop } = await openNight(gateway, ['provider.test']));
});
afterAll(() => drop());

const post = <T = Refusal>(url: string, body: unknown = {}) => admin.send<T>('POST', url, body);
const makeTrunk = async (name: string, more = {}) => {
  const answer = await post<TrunkView>('/api/trunks', {
    ...{ name, host: 'provider.test', account: name.toLowerCase().replace(/ /g, '-'), channels: 5 },
    ...more,
  });
  expect(answer.body).toMatchObject({ name });
  return answer.body;
};
const state = async (id: string) => (await admin.send<State>('GET', `/api/trunks/${id}/state`)).body;

/** Answers REGISTERs for an account as a provider with this secret would. */
async function provider(account: string, secret: string, reply?: (request: SipRequest) => string) {
  gateway.heard.length = 0;
  for (let answered = 0; answered < 2; answered++) {
    const asked = await until(
      () => gateway.heard.filter((each) => each.kind === 'trunkSip' && each.account === account)[answered],
      `a REGISTER of ${account}`,
    );
    const request = readSip((asked as { message: string }).message) as SipRequest;
    const { response } = answerRegister(request, {
      realm: 'provider.test',
      accountOf: () => ({
        secret: digestSecret(account, 'provider.test', secret),
        transport: 'udp',
        behindRouter: true,
      }),
      source: null,
      freshNonce: () => 'nonce',
      nonceState: () => 'fresh',
      tag: 'p',
    });
    const message = reply === undefined ? writeSip(response) : reply(request);
    gateway.say({ kind: 'trunkSip', trunkHost: 'provider.test', account, message });
    if (reply !== undefined) return;
  }
}
const again = (id: string) => post(`/api/trunks/${id}/register`);

describe('registration at a provider', () => {
  test('REGISTER, 401, REGISTER, 200: registered, with the ladder; the secret is never read back', async () => {
    const answering = provider('main-line', 'a long secret of ours');
    const trunk = await makeTrunk('Main Line', { registers: true, secret: 'a long secret of ours' });
    expect(JSON.stringify(trunk)).not.toContain('a long secret');
    expect(trunk).toMatchObject({ hasSecret: true, secretWeak: false });
    await answering;
    const now = await until(async () => {
      const seen = await state(trunk.id);
      return seen.registration === 'registered' ? seen : null;
    }, 'the trunk is registered');
    expect(now.messages.map(({ from, start }) => `${from} ${start.replace(/ sip:.*/, '')}`)).toEqual([
      'here REGISTER',
      'there SIP/2.0 401 Unauthorized',
      'here REGISTER',
      'there SIP/2.0 200 OK',
    ]);
  });

  test('a wrong secret, a wrong transport, an overloaded provider: each in words with what mends it', async () => {
    const trunk = await makeTrunk('Bad Line', { registers: true, secret: 'guess' });
    expect(trunk.secretWeak).toBe(true);
    const tried = provider('bad-line', 'another secret');
    await again(trunk.id);
    await tried;
    const refused = await until(async () => {
      const now = await state(trunk.id);
      return now.registration === 'refused' ? now : null;
    }, 'the trunk is refused');
    expect([refused.mend, refused.what]).toEqual([
      'typeSecret',
      expect.stringContaining('account or its secret'),
    ]);
    const answers: [number, string, string | null, string][] = [
      [403, 'Use TLS', 'useTransport', 'takes TLS only'],
      [403, 'Certificate wanted', 'makeCertificate', 'certificate'],
      [503, '', 'tryAgain', 'overloaded'],
      [404, '', null, 'does not know this account'],
    ];
    for (const [status, warning, mend, words] of answers) {
      const answering = provider('bad-line', '', (request) =>
        writeSip(
          respond(request, status, 'No', 'p', warning === '' ? [] : [['Warning', `399 p "${warning}"`]]),
        ),
      );
      await again(trunk.id);
      await answering;
      const now = await until(async () => {
        const seen = await state(trunk.id);
        return seen.what.includes(words) ? seen : null;
      }, words);
      expect(now.mend).toBe(mend);
    }
  });

  test('without a secret it says so, and calls do not go out over it', async () => {
    const trunk = await makeTrunk('No Secret', { registers: true });
    const now = await until(async () => {
      const seen = await state(trunk.id);
      return seen.registration === 'refused' ? seen : null;
    }, 'the missing secret is told');
    expect(now.what).toContain('no secret yet');
    const refused = await post(`/api/trunks/${trunk.id}/ring`, { to: '+12065550170' });
    expect([refused.status, refused.body.detail]).toEqual([409, expect.stringContaining('not registered')]);
  });

  test('one secret for two trunks is told of both', async () => {
    const one = await makeTrunk('Share One', { secret: 'the same long secret' });
    await makeTrunk('Share Two', { secret: 'the same long secret' });
    const list = (await admin.send<TrunkView[]>('GET', '/api/trunks')).body;
    expect(list.filter((trunk) => trunk.secretShared).map((trunk) => trunk.name)).toEqual([
      'Share One',
      'Share Two',
    ]);
    expect(one.secretShared).toBe(false);
  });
});

describe('ring one number', () => {
  test('says each step, the digits by the rules, and the price; nobody here is rung', async () => {
    const trunk = await makeTrunk('Trial Line', {
      prices: [
        { prefix: '', perMinute: '0.02' },
        { prefix: '+1206', perMinute: '0.0075' },
      ],
    });
    const rule = (
      await post<{ id: string; version: number }>('/api/dialling-rules', {
        name: 'Plus off',
        pattern: '+1NxxNxxxxxx',
        strip: 1,
      })
    ).body;
    const ringing = post<{
      steps: { what: string; trade: string }[];
      digits: string;
      rule: string;
      perMinute: string;
    }>(`/api/trunks/${trunk.id}/ring`, { to: '206 555 0170' });
    const dialled = await gateway.wait('dial', (message) => message.party === 'trial');
    expect(dialled).toMatchObject({ digits: '12065550170', account: 'trial-line' });
    gateway.say({ kind: 'failed', leg: dialled.leg, cause: 'busy' });
    expect((await ringing).body).toMatchObject({
      digits: '12065550170',
      rule: 'Plus off',
      perMinute: '0.0075',
      steps: [{ what: 'dialled' }, { what: 'failed', trade: '486 Busy Here, cause 17' }],
    });
    const help = await post(`/api/trunks/${trunk.id}/ring`, { to: '+1911' });
    expect(help.status).toBe(422);
    await admin.send('POST', `/api/dialling-rules/${rule.id}/retire`, {}, { 'if-match': '"1"' });
    const foreign = await post(`/api/trunks/${trunk.id}/ring`, {
      to: '+12065550170',
      callerId: '+12065550199',
    });
    expect(foreign.body.errors[0]).toMatchObject({ path: '/callerId' });
  });
});

describe('certificates', () => {
  test('are made here for the account, and pass their own check', async () => {
    const trunk = await makeTrunk('Tls Line', { transport: 'tls' });
    const made = await post<{ subject: string; until: string; selfSigned: boolean }>(
      `/api/trunks/${trunk.id}/certificate`,
    );
    expect(made.body).toMatchObject({ subject: 'CN=tls-line, O=Test Ferries', selfSigned: true });
    expect(Date.parse(made.body.until)).toBeGreaterThan(Date.now());
  });

  test('brought ones are checked for match, name, and being one at all', async () => {
    const mine = await makeCertificate('tls-line', 'Co');
    const other = await makeCertificate('somebody-else', 'Co');
    expect(() => checkCertificate(mine, 'tls-line')).not.toThrow();
    expect(() => checkCertificate({ ...mine, key: other.key }, 'tls-line')).toThrow(/does not belong/);
    expect(() => checkCertificate(other, 'tls-line')).toThrow(/made out to CN=somebody-else/);
    expect(() => checkCertificate({ ...mine, certificate: 'no' }, 'tls-line')).toThrow(
      /no certificate in PEM/,
    );
    expect(() => checkCertificate({ ...mine, key: 'no' }, 'tls-line')).toThrow(/no private key/);
    const trunk = await makeTrunk('Bring Line');
    const half = await post(`/api/trunks/${trunk.id}/certificate`, { certificate: mine.certificate });
    expect(half.body.detail).toContain('together');
  });
});

describe('dialling rules', () => {
  const rule = (name: string, pattern: string, more = {}) =>
    post<{ id: string; version: number } & Refusal>('/api/dialling-rules', { name, pattern, ...more });
  const trial = async (dialled: string, more = {}) =>
    (
      await post<{
        kind: string;
        digits: string | null;
        trunks: { name: string; perMinute: string | null }[];
        others: { name: string; why: string }[];
      }>('/api/dialling-rules/try', { dialled, ...more })
    ).body;

  test('the tester says what wins, why others do not, what is sent, over which trunk, at what price', async () => {
    const cheap = await makeTrunk('Cheap', { prices: [{ prefix: '+44', perMinute: '0.011' }] });
    const dear = await makeTrunk('Dear');
    await rule('All abroad', '011x.', { strip: 3, prepend: '+' });
    await rule('Britain', '01144x.', { strip: 3, prepend: '+', trunkIds: [cheap.id, dear.id] });
    const tried = await trial('011 44 20 7946 0123');
    expect(tried).toMatchObject({
      kind: 'rule',
      digits: '+442079460123',
      trunks: [
        { name: 'Cheap', perMinute: '0.011' },
        { name: 'Dear', perMinute: null },
      ],
    });
    expect(tried.others.slice(0, 2)).toMatchObject([
      { name: 'Britain', why: 'wins' },
      { name: 'All abroad', why: 'lessSpecific' },
    ]);
    const { id: _draft, ...draft } = { id: '', name: 'Try', pattern: '0114420x.', strip: 3, prepend: '+' };
    expect((await trial('011442079460123', { draft })).others[0]).toMatchObject({ name: 'Try', why: 'wins' });
    expect(await trial('911')).toMatchObject({ kind: 'emergency', digits: '911' });
  });

  test('a pattern that is none, more left out than is sure: refused at the field', async () => {
    const bad = await rule('Bad', '[12');
    expect(bad.body.errors[0]).toEqual({ path: '/pattern', detail: 'The bracket [ is not closed.' });
    const greedy = await rule('Greedy', '9x.', { strip: 2 });
    expect(greedy.body.detail).toContain('sure of 1 symbols only');
  });

  test('warnings name the rule, and countries of contacts that no rule carries', async () => {
    await rule('Hidden', '01144x.', { strip: 3, prepend: '+' });
    const campaign = (await post<{ id: string }>('/api/campaigns', { name: 'Abroad' })).body;
    await post(`/api/campaigns/${campaign.id}/contacts`, {
      text: 'phone\n+4930901820\n',
      mapping: ['phone'],
    });
    const { warnings } = (
      await admin.send<{ warnings: { kind: string }[]; countries: { country: string }[] }>(
        'GET',
        '/api/dialling-rule-warnings',
      )
    ).body;
    expect(warnings.map((warning) => warning.kind)).toContain('shadowed');
  });

  test('supervisors try, only administrators change', async () => {
    const { browser } = await personSignedIn(night, admin, 'Try Er', 'supervisor');
    expect((await browser.send('POST', '/api/dialling-rules/try', { dialled: '911' })).status).toBe(200);
    expect((await browser.send('POST', '/api/dialling-rules', {})).status).toBe(403);
  });
});

test('a call for help is kept with its address and seen by name', async () => {
  const team = (await post<{ id: string; version: number }>('/api/teams', { name: 'Quay' })).body;
  const emergencyAddress = {
    ...{ street: '14 Freight Quay', unit: 'Gate house', city: 'Tacoma', region: 'WA' },
    ...{ postalCode: '98421', country: 'US' },
  };
  await admin.send('PUT', `/api/teams/${team.id}`, { name: 'Quay', emergencyAddress }, { 'if-match': '"1"' });
  const made = (
    await post<{ phone: { account: string; registrationSecret: string } }>('/api/people', {
      name: 'In Need',
      teamId: team.id,
    })
  ).body;
  await makeTrunk('Help Line');
  await until(
    () =>
      [...night.live.exchange.view().phones.values()].some(
        (phone) => phone.item.account === made.phone.account && phone.item.emergencyAddress !== null,
      ) && [...night.live.exchange.view().trunks.values()].some((trunk) => trunk.item.name === 'Help Line'),
    'the exchange knows the phone and a line',
  );
  await gateway.register(made.phone.account, made.phone.registrationSecret);
  gateway.say({ kind: 'call', ref: 'help', to: '911', from: made.phone.account, device: made.phone.account });
  await gateway.wait('dial', (message) => message.digits === '911');
  const [call] = await until(async () => {
    const list = (
      await admin.send<{ callId: string; address: string; personName: string }[]>(
        'GET',
        '/api/emergency-calls',
      )
    ).body;
    return list.length > 0 ? list : null;
  }, 'the call for help is kept');
  expect(call).toMatchObject({
    personName: 'In Need',
    address: '14 Freight Quay, Gate house, Tacoma, WA 98421, US',
  });
  expect((await post(`/api/emergency-calls/${call!.callId}/seen`)).status).toBe(204);
  const [seen] = (await admin.send<{ seenBy: string }[]>('GET', '/api/emergency-calls')).body;
  expect(seen!.seenBy).toBe('Ada Admin');
});

test('a number is sent on to an outside number made for it; never to one of our own', async () => {
  const number = (
    await post<{ id: string; version: number }>('/api/numbers', { e164: '+12065550160', label: 'Night' })
  ).body;
  const own = await post('/api/outside-numbers', { name: 'Own', e164: '+12065550160' });
  expect(own.body.errors[0]!.path).toBe('/e164');
  const outside = (
    await post<{ id: string }>('/api/outside-numbers', {
      ...{ name: 'Answering service', e164: '+14255550111' },
      trunkId: (await makeTrunk('Night line')).id,
    })
  ).body;
  const routed = await admin.send(
    'PUT',
    `/api/numbers/${number.id}`,
    {
      e164: '+12065550160',
      label: 'Night',
      destination: { kind: 'outside', id: outside.id },
      sourceId: null,
    },
    { 'if-match': `"${number.version}"` },
  );
  expect(routed.status).toBe(200);
  await until(
    () => night.live.exchange.view().numberByDigits.get('+12065550160')?.plan,
    'the exchange knows where the number leads',
  );
  gateway.say({ kind: 'call', ref: 'on', to: '+12065550160', from: '+13605550117' });
  const dialled = await gateway.wait('dial', (message) => message.digits === '+14255550111');
  gateway.say({ kind: 'answered', leg: dialled.leg });
  await gateway.wait('connected', (message) => message.leg === dialled.leg);
  gateway.say({ kind: 'hungUp', leg: dialled.leg });
  const call = await until(async () => {
    const { calls } = (
      await admin.send<{ calls: { result: string; dialled: string }[] }>('GET', '/api/calls')
    ).body;
    return calls.find((each) => each.dialled === '+12065550160');
  }, 'the call is over');
  expect(call.result).toBe('forwarded');
});
