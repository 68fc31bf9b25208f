import fc from 'fast-check';
import { expect, test } from 'vitest';
import { readAmount } from '@night-bell/core/model/amount';
import { money } from './money.ts';

test.each([
  ['1250.00', '$1,250.00'],
  ['-3.50', '-$3.50'],
  ['0.0135', '$0.0135'],
  ['1234567.1', '$1,234,567.1'],
  [12_000_000n, '$12.00'],
  [-1_500n, '-$0.0015'],
  [null, ''],
])('%s is shown as %s', (amount, shown) => {
  expect(money(amount)).toBe(shown);
});

test('no digit is lost or made', () => {
  fc.assert(
    fc.property(fc.bigInt({ min: -(10n ** 15n), max: 10n ** 15n }), (amount) => {
      expect(readAmount(money(amount).replace(/[$,]/g, ''))).toBe(amount);
    }),
  );
});
