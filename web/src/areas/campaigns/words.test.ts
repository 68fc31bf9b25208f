import { expect, test } from 'vitest';
import { startWords } from './words.ts';

const campaign = {
  name: 'Winter',
  contacts: 1_200,
  ratio: 1.5,
  mostInAir: null,
  hoursFrom: 540,
  hoursTo: 1_200,
};

test('starting says whom it calls, how many at a time, and when', () => {
  expect(startWords(campaign, 'Bookings')).toBe(
    'Winter calls its 1,200 contacts now: 1.5 calls for each free agent of Bookings, between 09:00 and 20:00 where the contact is.',
  );
  expect(startWords({ ...campaign, contacts: 1, ratio: 1, mostInAir: 8 }, 'Bookings')).toContain(
    'its 1 contact now: 1 call for each free agent of Bookings, at most 8 at once',
  );
});
