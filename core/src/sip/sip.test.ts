import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { codecs } from '../phones/catalogue.ts';
import { isPrivateAddress, sipHost } from './addresses.ts';
import { type RegisteringPhone, registerRequest } from './client.ts';
import {
  answerHeader,
  challengeHeader,
  digestMatches,
  digestResponse,
  digestSecret,
  readAnswer,
  readChallenge,
} from './digest.ts';
import { readSip, type SipRequest, sipHeader, writeSip } from './message.ts';
import { faultWords, type RegistrationFault } from './faults.ts';
import { answerOptions, codecsInCommon, codecsOf, optionsRequest } from './options.ts';
import { type Account, answerRegister, type RegistrarContext } from './registrar.ts';

describe('digest', () => {
  // RFC 7616, section 3.9.1: the example with both algorithms.
  const example = {
    nonce: '7ypf/xlj9XXwfDPEoM4URrv/xwf94BcCAzFZH4GiTo0v',
    uri: '/dir/index.html',
    count: '00000001',
    clientNonce: 'f2/wE4q74E6zIJEtWaHKaf5wv/H5QzzpXusqGemxURZJ',
  };
  const secret = digestSecret('Mufasa', 'http-auth@example.org', 'Circle of Life');

  test('gives the responses of RFC 7616, section 3.9.1', () => {
    expect(digestResponse(secret, 'GET', { ...example, algorithm: 'MD5' })).toBe(
      '8ca523f5e9506fed4657c9700eebdbec',
    );
    expect(digestResponse(secret, 'GET', { ...example, algorithm: 'SHA-256' })).toBe(
      '753927fa0e85d155564e2e272a28d1802ca10daf4496794697cf8db5856cb6c1',
    );
  });

  test('headers come back as they were written, in either algorithm', () => {
    fc.assert(
      fc.property(
        fc.stringMatching(/^[A-Za-z0-9._-]{1,20}$/),
        fc.constantFrom('MD5' as const, 'SHA-256' as const),
        (word, algorithm) => {
          const challenge = { realm: 'night-bell', nonce: word, algorithm, stale: false };
          expect(readChallenge(challengeHeader(challenge))).toEqual(challenge);
          const answer = {
            username: word,
            realm: 'r',
            nonce: 'n',
            uri: 'sip:r',
            response: 'x',
            algorithm,
            count: '0000000a',
            clientNonce: 'c',
          };
          expect(readAnswer(answerHeader(answer))).toEqual(answer);
        },
      ),
    );
  });

  test('what is not a whole digest header is not read', () => {
    expect(readAnswer('Basic abc')).toBeNull();
    expect(readAnswer('Digest username="a"')).toBeNull();
    expect(readChallenge('Digest realm="a", nonce="b", algorithm=SHA-1')).toBeNull();
  });
});

describe('messages', () => {
  test('are read with folded lines and compact forms, and written back', () => {
    const text =
      'REGISTER sip:night-bell SIP/2.0\r\nv: SIP/2.0/UDP a;branch=z9hG4bK1\r\nt: <sip:s2001@night-bell>\r\nX-Long: one\r\n two\r\nl: 0\r\n\r\n';
    const message = readSip(text) as SipRequest;
    expect(message).toMatchObject({ method: 'REGISTER', uri: 'sip:night-bell' });
    expect(sipHeader(message, 'Via')).toBe('SIP/2.0/UDP a;branch=z9hG4bK1');
    expect(sipHeader(message, 'X-Long')).toBe('one two');
    expect(readSip(writeSip(message))).toEqual({ ...message, headers: message.headers });
  });

  test.each(['', 'HELLO\r\n\r\n', 'REGISTER sip:x SIP/2.0\r\nno colon\r\n\r\n', 'REGISTER sip:x SIP/2.0'])(
    'refuses %j',
    (text) => {
      expect(readSip(text)).toBeNull();
    },
  );

  test('never throws on anything', () => {
    fc.assert(fc.property(fc.string(), (text) => void readSip(`REGISTER sip:x SIP/2.0\r\n${text}\r\n\r\n`)));
  });
});

describe('registrar', () => {
  const secret = digestSecret('s2001', 'night-bell', 'right');
  const context = (
    state: ReturnType<RegistrarContext['nonceState']> = 'fresh',
    settings: Partial<Account> = {},
  ): RegistrarContext => ({
    realm: 'night-bell',
    accountOf: (account) =>
      account === 's2001' ? { secret, transport: 'tls', behindRouter: false, ...settings } : null,
    source: '192.0.2.9',
    freshNonce: () => 'nonce',
    nonceState: () => state,
    tag: 'tag',
  });
  const phone = (password: string, expires = 600, account = 's2001') => ({
    account,
    domain: 'night-bell',
    transport: 'tls' as const,
    contact: 'sip:s2001@192.0.2.9',
    secret: digestSecret(account, 'night-bell', password),
    callId: 'c',
    expires,
  });
  const answer = (
    who: RegisteringPhone,
    state?: ReturnType<RegistrarContext['nonceState']>,
    settings: Partial<Account> = {},
  ) => {
    const challenge = answerRegister(registerRequest(who, 1, 'b')!, context()).response;
    return answerRegister(registerRequest(who, 2, 'b2', challenge)!, context(state, settings));
  };

  test('REGISTER, 401, REGISTER, 200', () => {
    const first = answerRegister(registerRequest(phone('right'), 1, 'b')!, context());
    expect(first.response.status).toBe(401);
    expect(first.outcome).toEqual({ kind: 'challenged' });
    expect(
      first.response.headers
        .filter(([name]) => name === 'WWW-Authenticate')
        .map(([, value]) => /algorithm=([\w-]+)/.exec(value)![1]),
    ).toEqual(['SHA-256', 'MD5']);
    const second = answer(phone('right'));
    expect(second.response.status).toBe(200);
    expect(second.outcome).toEqual({
      kind: 'registered',
      account: 's2001',
      contact: 'sip:s2001@192.0.2.9',
      expires: 600,
    });
    expect(sipHeader(second.response, 'Contact')).toBe('<sip:s2001@192.0.2.9>;expires=600');
    expect(sipHeader(second.response, 'To')).toContain(';tag=tag');
  });

  test('a wrong secret and an unknown account look alike from outside', () => {
    const wrong = answer(phone('wrong'));
    const unknown = answer(phone('right', 600, 'nobody'));
    expect([wrong.response.status, unknown.response.status]).toEqual([403, 403]);
    expect([wrong.outcome, unknown.outcome]).toMatchObject([
      { why: 'wrong secret' },
      { why: 'unknown account' },
    ]);
  });

  test('a stale nonce is challenged again with stale=TRUE, a replayed one without', () => {
    const stale = answer(phone('right'), 'stale').response;
    expect(stale.status).toBe(401);
    expect(sipHeader(stale, 'WWW-Authenticate')).toContain('stale=TRUE');
    expect(sipHeader(answer(phone('right'), 'replayed').response, 'WWW-Authenticate')).not.toContain('stale');
  });

  test('too brief is 423 with Min-Expires, zero unregisters, too long is cut', () => {
    const brief = answer(phone('right', 30));
    expect([brief.response.status, sipHeader(brief.response, 'Min-Expires')]).toEqual([423, '60']);
    expect(answer(phone('right', 0)).outcome).toEqual({ kind: 'unregistered', account: 's2001' });
    expect(answer(phone('right', 99_999)).outcome).toMatchObject({ expires: 3_600 });
  });

  test('another transport than expected is refused, and the answer says which to use', () => {
    const { response, outcome } = answer({ ...phone('right'), transport: 'udp' });
    expect(response.status).toBe(403);
    expect(sipHeader(response, 'Warning')).toBe('399 night-bell "Use TLS"');
    expect(outcome).toMatchObject({ why: 'wrong transport', detail: 'UDP; TLS is expected' });
    expect(
      answer({ ...phone('right'), transport: 'udp' }, 'fresh', { transport: 'udp' }).response.status,
    ).toBe(200);
  });

  test('another server than this one is not found', () => {
    const { response, outcome } = answerRegister(
      registerRequest({ ...phone('right'), domain: 'old.example' }, 1, 'b')!,
      context(),
    );
    expect([response.status, outcome]).toEqual([
      404,
      { kind: 'refused', account: 's2001', why: 'wrong server', detail: 'old.example' },
    ]);
  });

  test('an address nobody reaches is refused, unless the phone is known to be behind a router', () => {
    const hidden = { ...phone('right'), contact: 'sip:s2001@192.168.1.20:5060' };
    expect(answer(hidden).outcome).toMatchObject({ why: 'behind a router' });
    expect(answer(hidden, 'fresh', { behindRouter: true }).outcome).toMatchObject({
      kind: 'registered',
      contact: 'sip:s2001@192.0.2.9',
    });
  });

  test('the wrong answer does not match, whatever part of it was changed', () => {
    const parts = {
      nonce: 'n',
      uri: 'sip:night-bell',
      algorithm: 'SHA-256' as const,
      count: '00000001',
      clientNonce: 'c',
    };
    const response = digestResponse(secret, 'REGISTER', parts);
    const good = { username: 's2001', realm: 'night-bell', response, ...parts };
    expect(digestMatches(secret, 'REGISTER', good)).toBe(true);
    for (const change of [
      { nonce: 'm' },
      { uri: 'sip:x' },
      { count: '00000002' },
      { clientNonce: 'd' },
      { response: response.slice(1) },
    ]) {
      expect(digestMatches(secret, 'REGISTER', { ...good, ...change })).toBe(false);
    }
  });
});

describe('addresses', () => {
  test.each([
    ['sip:s2001@192.0.2.9:5061;transport=tls', '192.0.2.9'],
    ['<sips:night-bell>', 'night-bell'],
    ['sip:s@[2001:db8::1]:5060', '[2001:db8::1]'],
    ['tel:+12065550140', null],
  ])('the host of %s is %s', (uri, host) => {
    expect(sipHost(uri)).toBe(host);
  });

  // RFC 1918, section 3, first and last of each block and their neighbours; RFC 6598; RFC 3927.
  test.each([
    ['10.0.0.0', true],
    ['10.255.255.255', true],
    ['11.0.0.0', false],
    ['172.15.255.255', false],
    ['172.16.0.0', true],
    ['172.31.255.255', true],
    ['172.32.0.0', false],
    ['192.168.0.1', true],
    ['192.169.0.1', false],
    ['100.64.0.1', true],
    ['100.128.0.1', false],
    ['169.254.9.9', true],
    ['192.0.2.9', false],
    ['night-bell', false],
  ])('%s is private: %s', (host, is) => {
    expect(isPrivateAddress(host)).toBe(is);
  });
});

describe('OPTIONS', () => {
  const request = optionsRequest({
    account: 's2001',
    contact: 'sip:s2001@192.0.2.9',
    domain: 'night-bell',
    callId: 'o',
    sequence: 1,
    transport: 'tls',
  });

  test('codecs come back as they were offered, through text', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray([...codecs], { minLength: 1 }), (offered) => {
        const text = writeSip(answerOptions(request, offered, 't'));
        expect(codecsOf(readSip(text)!.body)).toEqual(offered);
      }),
    );
  });

  test('static payload types need no rtpmap (RFC 3551), unknown ones are passed over', () => {
    expect(codecsOf('v=0\r\nm=audio 4000 RTP/AVP 0 8 101\r\na=rtpmap:101 telephone-event/8000\r\n')).toEqual([
      'PCMU',
      'PCMA',
    ]);
    expect(codecsOf('v=0\r\n')).toBeNull();
  });

  test('none allowed by name means any', () => {
    expect(codecsInCommon([], ['opus', 'G722'])).toEqual(['opus', 'G722']);
    expect(codecsInCommon(['PCMU', 'G722'], ['opus', 'G722'])).toEqual(['G722']);
    expect(codecsInCommon(['PCMU'], ['opus'])).toEqual([]);
  });
});

test('every fault has a sentence that ends, and a button where it can be mended from here', () => {
  const faults: RegistrationFault[] = [
    ...(['unknown account', 'wrong secret', 'malformed', 'too brief', 'wrong transport'] as const),
    ...(['wrong server', 'behind a router', 'no codec in common', 'registration expired'] as const),
  ];
  for (const fault of faults) {
    const { what, mend, button } = faultWords(fault, 'detail');
    expect(what).toMatch(/[.]$/);
    expect(mend === null).toBe(button === '');
  }
});
