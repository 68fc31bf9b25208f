import fc from 'fast-check';
import { expect, test } from 'vitest';
import { shortened } from './shortened.ts';

test.each([
  ['rings Annika Holm', 12, 'rings…'],
  ['rings Annika Holm', 17, 'rings Annika Holm'],
  ['We are closed', 11, 'We are…'],
  ['Bookingsdesk', 8, 'Booking…'],
])('%s within %i is %s', (text, most, short) => {
  expect(shortened(text, most)).toBe(short);
});

test('never longer than it may be, and always the beginning of it', () => {
  fc.assert(
    fc.property(fc.string(), fc.integer({ min: 2, max: 40 }), (text, most) => {
      const short = shortened(text, most);
      expect(short.length).toBeLessThanOrEqual(most);
      expect(text.startsWith(short.replace(/…$/, ''))).toBe(true);
    }),
  );
});
