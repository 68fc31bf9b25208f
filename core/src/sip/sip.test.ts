import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { registerRequest } from './client.ts';
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
import { answerRegister, type RegistrarContext } from './registrar.ts';

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
  const context = (state: ReturnType<RegistrarContext['nonceState']> = 'fresh'): RegistrarContext => ({
    realm: 'night-bell',
    secretOf: (account) => (account === 's2001' ? secret : null),
    freshNonce: () => 'nonce',
    nonceState: () => state,
    tag: 'tag',
  });
  const phone = (password: string, expires = 600, account = 's2001') => ({
    account,
    domain: 'night-bell',
    contact: 'sip:s2001@192.0.2.9',
    secret: digestSecret(account, 'night-bell', password),
    callId: 'c',
    expires,
  });
  const answer = (who: ReturnType<typeof phone>, state?: ReturnType<RegistrarContext['nonceState']>) => {
    const challenge = answerRegister(registerRequest(who, 1, 'b')!, context()).response;
    return answerRegister(registerRequest(who, 2, 'b2', challenge)!, context(state));
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
