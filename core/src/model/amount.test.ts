import fc from 'fast-check';
import { expect, test } from 'vitest';
import { costOfCall, readAmount, writeAmount } from './amount.ts';

test.each([
  ['0', '0.00'],
  ['12.5', '12.50'],
  ['0.0135', '0.0135'],
  ['-3.10', '-3.10'],
  ['1250.000001', '1250.000001'],
])('%s is written %s', (text, written) => {
  expect(writeAmount(readAmount(text)!)).toBe(written);
});

test.each(['', '1,5', '1.', '.5', '1e3', '0.1234567', 'NaN', '--1'])('%j is no amount', (text) => {
  expect(readAmount(text)).toBeNull();
});

test('what is written is read back, and sums are exact where floats are not', () => {
  fc.assert(
    fc.property(fc.bigInt({ min: -(10n ** 17n), max: 10n ** 17n }), (amount) => {
      expect(readAmount(writeAmount(amount))).toBe(amount);
    }),
  );
  const ten = Array.from({ length: 10 }, () => readAmount('0.1')!).reduce((sum, each) => sum + each, 0n);
  expect(writeAmount(ten)).toBe('1.00');
});

test('a call costs by the second, rounded up to a millionth', () => {
  expect(costOfCall(readAmount('0.012')!, 90)).toBe(readAmount('0.018'));
  expect(costOfCall(readAmount('0.01')!, 1)).toBe(167n);
  expect(costOfCall(readAmount('0.01')!, 0)).toBe(0n);
});
