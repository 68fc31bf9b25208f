import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { passwordFault } from './passwords.ts';

const common = new Set(['password1234', 'qwertyuiopas', 'letmein']);
const fault = (password: string, login = 'ines.calloway') =>
  passwordFault(password, login, (each) => common.has(each));

describe('a password of one’s own', () => {
  test.each([
    ['eight bells and all is well'],
    ['correct horse battery staple'],
    ['Überfahrt um 7 nach Gull'],
    ['ines.calloway rides the night boat'],
  ])('may be %s', (password) => expect(fault(password)).toBeNull());

  test.each([
    ['aaaaaaaaaaaa', /over and over/],
    ['abababababab', /over and over/],
    ['a b a b a b a b a b', /over and over/],
    ['shipshipshipship', /repeats itself/],
    ['1234567123456712345671234567', /repeats itself/],
    ['ines.calloway', /login is no password/],
    ['Ines.Calloway1', /login is no password/],
    ['PASSWORD1234', /tries first/],
    ['qwertyuiopas2026!', /tries first/],
    ['letmein 12345', /tries first/],
  ])('may not be %s', (password, why) => expect(fault(password)).toMatch(why));

  test('of no login is not held against it', () =>
    expect(passwordFault('a bell in the night', '', () => false)).toBeNull());

  test('made of one piece again and again is always refused', () =>
    fc.assert(
      fc.property(
        fc.string({ minLength: 1, maxLength: 6 }),
        fc.integer({ min: 4, max: 9 }),
        (piece, times) => {
          expect(fault(piece.repeat(times))).not.toBeNull();
        },
      ),
    ));
});
