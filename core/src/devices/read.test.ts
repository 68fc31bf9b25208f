import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { FromGateway } from './protocol.ts';
import { messageSchemas } from './protocol.schema.ts';
import { readFromGateway } from './read.ts';

const read = (message: unknown) => readFromGateway(JSON.stringify(message));
const call = { kind: 'call', ref: 'r1', to: '+12065550140', from: '+13605550117' };

/** One accepted sample of every kind. */
const samples: { [Kind in FromGateway['kind']]: Extract<FromGateway, { kind: Kind }> } = {
  hello: { kind: 'hello', gateway: 'test', legs: ['c.1'], calls: ['c'], trunkHosts: ['provider.example'] },
  sip: { kind: 'sip', device: 's2001', message: 'REGISTER sip:x SIP/2.0\r\n\r\n', source: '192.0.2.1:5060' },
  trunkSip: { kind: 'trunkSip', trunkHost: 'provider.example', account: 'ours', message: 'SIP/2.0 200 OK' },
  answered: { kind: 'answered', leg: 'c.2' },
  failed: { kind: 'failed', leg: 'c.2', cause: 'busy' },
  hungUp: { kind: 'hungUp', leg: 'c.2' },
  key: { kind: 'key', leg: 'c.1', key: '#' },
  greeted: { kind: 'greeted', leg: 'c.1', by: 'machine' },
  call: { ...call, kind: 'call', callerName: 'Åse Ødegård', trunkHost: 'provider.example', device: 's2001' },
  callerHungUp: { kind: 'callerHungUp', callId: 'c' },
  faxPart: { kind: 'faxPart', callId: 'c', file: 'JVBERg==' },
  fax: { kind: 'fax', callId: 'c', pages: 2, file: 'JVBERi0=' },
  recordingPart: { kind: 'recordingPart', callId: 'c', file: 'UklGRg==' },
  recording: { kind: 'recording', callId: 'c', file: 'UklGRg==' },
  greetingPart: { kind: 'greetingPart', callId: 'c', file: 'UklGRg==' },
  greeting: { kind: 'greeting', callId: 'c', file: 'UklGRg==' },
  talkPart: { kind: 'talkPart', callId: 'c', part: 1, file: 'UklGRg==' },
  talk: { kind: 'talk', callId: 'c', part: 2, file: 'UklGRg==' },
  spoken: { kind: 'spoken', leg: 'c.1', words: 'Sailing times, please' },
  text: { kind: 'text', ref: 't', to: '+1', from: '+2', body: 'two\nlines', price: '0.0079' },
  textSent: { kind: 'textSent', ref: 't', price: '0.01' },
  textFailed: { kind: 'textFailed', ref: 't', why: 'no such number' },
  trafficState: {
    ...{ kind: 'trafficState', on: true, speed: 1.5, frontDesk: ['help'] },
    devices: [{ account: 's2001', misbehaves: null, newMessages: 2, display: ['Bookings'] }],
    letters: [{ to: 'a@b.example', subject: 'New', text: 'one\ntwo', at: 1 }],
  },
  enrolled: { kind: 'enrolled', code: 'AAAAA', account: null },
};

describe('what a gateway sends', () => {
  test.each(Object.values(samples))('is read as it is: $kind', (message) =>
    expect(read(message)).toEqual({ message, cleaned: [] }),
  );

  test('is known in every kind the protocol has, and no other', () =>
    expect([...messageSchemas.keys()].sort()).toEqual(Object.keys(samples).sort()));

  test('odd but usable is cleaned, and said so', () => {
    const odd = read({ ...call, callerName: 'Eve\u0000 \u001b[31m', later: 'unknown fields are left out' });
    expect(odd).toEqual({
      message: { ...call, callerName: 'Eve   [31m' },
      cleaned: ['callerName held what cannot be kept; it was cleaned'],
    });
    const long = read({ ...call, from: '9'.repeat(70), callerName: '\ud800' }) as { message: typeof call };
    expect(long.message).toMatchObject({ from: '9'.repeat(64), callerName: '\uFFFD' });
  });

  test.each([
    ['no JSON', 'call', 'This is not JSON.'],
    ['a kind that is none', '{"kind":"constructor"}', 'There is no message of this kind.'],
    ['no object', '[]', 'There is no message of this kind.'],
    ['null', 'null', 'There is no message of this kind.'],
    ['a leg that is no string', '{"kind":"answered","leg":7}', '"leg" must be a string.'],
    ['a cause of its own', '{"kind":"failed","leg":"c.2","cause":"mood"}', /"cause" must be one of/],
    ['an id with a NUL', '{"kind":"callerHungUp","callId":"c\\u0000"}', /fails to match/],
    ['pages without end', '{"kind":"fax","callId":"c","pages":1e9,"file":""}', /less than or equal to 1000/],
    ['no number', '{"kind":"trafficState","on":true,"speed":"fast","devices":[],"frontDesk":[]}', /a number/],
  ])('is refused with a reason: %s', (_what, text, fault) => {
    const answer = readFromGateway(text) as { fault: string };
    if (typeof fault === 'string') expect(answer.fault).toBe(fault);
    else expect(answer.fault).toMatch(fault);
  });

  test('whatever it is, what is read can be kept: no control character, bounded, of the right types', () => {
    const value = fc.oneof(
      fc.string({ unit: 'binary', maxLength: 200 }),
      fc.constantFrom('\0', '\ud800', '', 'c.1'),
      fc.double(),
      fc.jsonValue(),
    );
    const fields = fc.dictionary(
      fc.constantFrom(
        'ref',
        'to',
        'from',
        'callerName',
        'leg',
        'callId',
        'body',
        'price',
        'why',
        'pages',
        'file',
      ),
      value,
    );
    fc.assert(
      fc.property(fc.constantFrom(...Object.values(samples)), fields, (sample, changed) => {
        const answer = read({ ...sample, ...changed, kind: sample.kind });
        if ('fault' in answer) {
          expect(answer.fault).toMatch(/\S/);
          return;
        }
        const text = JSON.stringify(answer.message);
        expect(text).not.toContain('\\u0000');
        expect(text).not.toMatch(/\\ud[89a-f]/);
        expect(text.length).toBeLessThan(70_000);
      }),
      { numRuns: 2_000 },
    );
  });
});
