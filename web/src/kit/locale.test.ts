// @vitest-environment happy-dom
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, expect, test } from 'vitest';
import { useSession } from '../shell/session.ts';
import { widthOf } from './ledger.ts';
import { figure, houseLocale, locale } from './locale.ts';
import { money } from './money.ts';
import { useClock } from './time.ts';

const at = Date.parse('2026-11-24T22:20:05Z');
/** Narrow and unbreakable spaces are what a reader sees as one. */
const seen = (text: string) => text.replace(/[\u202f\u00a0]/g, ' ');

beforeEach(() => setActivePinia(createPinia()));
afterEach(() => (locale.value = houseLocale));

function reads(reading: { locale: string | null; timeZone: string | null }, company: string | null = null) {
  const installation = {
    ...{ name: 'C', timeZone: 'America/Los_Angeles', demo: false, needsFirstAdministrator: false },
    locale: company,
  };
  useSession().take({
    ...{ installation, reading, person: null, token: null, mustSetPassword: false, elsewhere: [] },
  } as never);
  return useClock();
}

test.each([
  [null, '14:20', '14:20:05', 'Tue 24 Nov', '12,345.5', '$1,250.50'],
  ['en-US', '2:20 PM', '2:20:05 PM', 'Tue, Nov 24', '12,345.5', '$1,250.50'],
  ['de-DE', '14:20', '14:20:05', 'Di., 24. Nov.', '12.345,5', '$1.250,50'],
  ['fr-CA', '14 h 20', '14 h 20 min 05 s', 'mar. 24 nov.', '12 345,5', '$1 250,50'],
])('written as in %s', (own, clock, seconds, date, number, amount) => {
  const read = reads({ locale: own, timeZone: null });
  expect([
    ...[read.clock(at), read.clockSeconds(at), read.date(at), figure(12_345.5), money('1250.50')].map(seen),
  ]).toEqual([clock, seconds, date, number, amount]);
});

test('who chose nothing reads as the company does; the zone of a person comes before the company’s', () => {
  expect(seen(reads({ locale: null, timeZone: null }, 'en-US').clock(at))).toBe('2:20 PM');
  expect(reads({ locale: 'en-GB', timeZone: 'Europe/Berlin' }, 'en-US').clock(at)).toBe('23:20');
});

test('days are counted by the company’s clock, whatever the reader’s', () => {
  reads({ locale: null, timeZone: 'Europe/Berlin' });
  expect([useSession().timeZone, useSession().readerZone]).toEqual(['America/Los_Angeles', 'Europe/Berlin']);
});

test('columns of times are 20 px wider where the clock has twelve hours, others are not', () => {
  const times = { key: 'at', title: 'At', width: '128px', time: true as const };
  expect(widthOf(times)).toBe('128px');
  reads({ locale: 'en-US', timeZone: null });
  expect([widthOf(times), widthOf({ key: 'n', title: 'N', width: '64px' })]).toEqual(['148px', '64px']);
});
