import { noGreetings } from '../voicemail/greeting.ts';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { formatNumber } from '../numbers/format.ts';
import { doubtOf, readNumber } from '../numbers/e164.ts';
import { emptyConfiguration } from './configuration.ts';
import { configurationDifference } from './configuration-difference.ts';
import { extensionFault, nextExtension } from './extension.ts';
import { freeLogin, loginFrom } from './login.ts';
import { personDraft } from './people.schema.ts';
import { objectSchema } from '../contracts/item.ts';
import { completeQueue, queues } from '../contracts/queues.ts';

const queueRequest = objectSchema(queues.draft);

describe('extensions', () => {
  test.each(['1', '1234567', 'abc', '', '12a'])('%j is refused for its shape', (digits) => {
    expect(extensionFault(digits)).toMatch(/2 to 6 digits/);
  });
  test.each(['911', '91', '11', '112', '9110'])('%s is refused for an emergency number', (digits) => {
    expect(extensionFault(digits)).toMatch(/emergency/);
  });
  test('the next free one follows the neighbours, steps over taken ones, and is always good', () => {
    expect(nextExtension(new Set(['2001', '2002', '3001']), ['2001', '2002'])).toBe('2003');
    expect(nextExtension(new Set(['2001', '2002', '2003']), ['2001', '2002'])).toBe('2004');
    expect(nextExtension(new Set(), [])).toBe('2001');
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 10, max: 999_990 })), (numbers) => {
        const taken = new Set(numbers.map(String));
        const next = (() => {
          try {
            return nextExtension(taken, []);
          } catch {
            return null;
          }
        })();
        if (next === null) return;
        expect(taken.has(next)).toBe(false);
        expect(extensionFault(next)).toBeNull();
      }),
    );
  });
});

test('logins come from names, without accents, and never twice', () => {
  expect(loginFrom('Inès Müller-Straße')).toBe('ines.muller-strasse');
  expect(loginFrom('Søren  Ødegård')).toBe('soren.odegard');
  expect(loginFrom('王')).toBe('person');
  expect(freeLogin('Ann Lee', new Set(['ann.lee', 'ann.lee2']))).toBe('ann.lee3');
});

describe('public numbers', () => {
  test.each([
    ['(360) 555-0117', '+13605550117'],
    ['+1 360 555 0117', '+13605550117'],
    ['1-360-555-0117', '+13605550117'],
    ['+44 20 7946 0000', '+442079460000'],
    ['tel:+1-360-555-0117', '+13605550117'],
    ['TEL:+1(360)555-0117;ext=3;isub=1', '+13605550117'],
    ['tel:555-0117;phone-context=+1-360', '+13605550117'],
    ['tel:360-555-0117;phone-context=example.com', '+13605550117'],
  ])('%s reads as %s', (typed, e164) => {
    expect(readNumber(typed)).toEqual({ ok: true, e164 });
  });
  test.each(['', '12', 'call me', '+1 360 555', '360-555-011x'])('%j is refused with a sentence', (typed) => {
    expect(readNumber(typed)).toMatchObject({ ok: false });
  });
  test.each(['+1 112 555 0142', '(360) 155-0142', '1 060 555 0100'])(
    '%s cannot be: area code or exchange',
    (typed) => {
      expect(readNumber(typed)).toEqual({
        ...{ ok: false, reason: `"${typed}" is no number: area code and exchange begin with 2 to 9.` },
      });
    },
  );
  test('any text at all is read or refused, tel: or not', () => {
    fc.assert(
      fc.property(fc.string(), fc.boolean(), (text, isUri) => {
        const reading = readNumber((isUri ? 'tel:' : '') + text);
        if (reading.ok) expect(reading.e164).toMatch(/^\+[1-9]\d{4,14}$/);
        else expect(reading.reason).not.toBe('');
      }),
    );
  });
  test('a number nobody is known to have is taken, with a word', () => {
    expect(doubtOf('+13605550117')).toBeNull();
    expect(doubtOf('+442079460000')).toBeNull();
    expect(doubtOf('+19995550117')).toContain('No numbering plan knows');
  });
  test('what is shown reads back as the same number', () => {
    fc.assert(
      fc.property(fc.integer({ min: 200, max: 999 }), fc.integer({ min: 0, max: 99 }), (area, line) => {
        const e164 = `+1${area}55501${String(line).padStart(2, '0')}`;
        expect(readNumber(formatNumber(e164))).toEqual({ ok: true, e164 });
      }),
    );
  });
});

describe('schemas', () => {
  test('a person needs a name of one line', () => {
    expect(personDraft.validate({ name: 'Ann' }).error).toBeUndefined();
    expect(personDraft.validate({ name: '  ' }).error?.message).toBe('A name is needed.');
    expect(personDraft.validate({ name: 'a\nb' }).error?.message).toMatch(/one line/);
    expect(personDraft.validate({ name: 'Ann', extension: '911' }).error?.message).toMatch(/emergency/);
    expect(personDraft.validate({ name: 'Ann', login: 'A b' }).error).toBeDefined();
  });
  test('a queue left open leads to its own voicemail box', () => {
    const { error, value } = queueRequest.validate({ name: 'Bookings' });
    expect(error).toBeUndefined();
    expect(completeQueue(value!, 'box')).toMatchObject({
      ringSeconds: 15,
      wrapUpSeconds: 20,
      whenNobody: { kind: 'voicemail', id: 'box' },
    });
    expect(queueRequest.validate({ name: 'x', ringSeconds: 2 }).error?.message).toBe(
      'Whole seconds from 5 to 120.',
    );
    expect(queueRequest.validate({ name: 'x', whenFull: { kind: 'queue' } }).error?.message).toBe(
      'Choose where the call goes.',
    );
  });
});

test('the difference of two configurations turns one into the other, and is null for none', () => {
  const box = (id: string, name: string) => ({
    ...{ id, name, extension: null, hoursId: null, greetings: noGreetings, whenFull: null },
    ...{ maxMessageSeconds: 60, mostMessages: 100 },
  });
  const before = { ...emptyConfiguration, voicemailBoxes: [box('a', 'A'), box('b', 'B')] };
  expect(configurationDifference(before, structuredClone(before))).toBeNull();
  expect(
    configurationDifference(before, { ...before, voicemailBoxes: [box('b', 'C'), box('d', 'D')] }),
  ).toEqual({
    voicemailBoxes: [box('b', 'C'), box('d', 'D')],
    gone: ['a'],
  });
});
