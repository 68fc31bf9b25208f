import { describe, expect, test } from 'vitest';
import { Bench, configuration, person, queue } from '../exchange/exchange.testing.ts';
import type { OpeningHours } from '../hours/opening-hours.ts';
import { utcClock } from '../hours/zone-clock.ts';
import type { ServiceCodeItem } from '../model/configuration.ts';
import { ropeSteps } from '../story/describe.ts';
import { pinHash } from './steps/room.ts';

const set = (id: string, name: string, storm: OpeningHours['storm'] = null): OpeningHours => ({
  ...{ id, name, clock: utcClock, days: {}, storm },
  weekly: Array.from({ length: 7 }, () => [[0, 1440] as const]),
});
const code = (change: Partial<ServiceCodeItem> = {}): ServiceCodeItem => ({
  ...{ id: 'x', name: 'Storm day', digits: '*86', does: 'storm', hoursIds: ['h', 'k'], forHours: 6 },
  ...{ pinHash: pinHash('x', '4711'), pinLength: 4, teamIds: [] },
  ...change,
});
function dial(
  change: Partial<ServiceCodeItem> = {},
  hours = [set('h', 'Bookings'), set('k', 'Freight')],
): Bench {
  const base = configuration([person('a', { extension: '2001', teamId: 't' })], [queue('q', ['a'])]);
  const day = new Bench({ ...base, hours, codes: [code(change)] });
  day.register(0, 'a');
  day.at(1, { kind: 'callArrived', callId: 'c', to: '*86', from: '2001', fromPhoneId: 'a.phone' });
  return day;
}
const type = (day: Bench, at: number, keys: string) =>
  [...keys].forEach((key) => day.at(at, { kind: 'keyPressed', leg: 'c.1', key }));
const heard = (day: Bench) => day.effectsOf('say').map(({ words }) => words);

describe('a code for a storm day', () => {
  test('asks for the PIN, reads back, and holds once 1 is pressed', () => {
    const day = dial();
    expect(day.effectsOf('play')).toMatchObject([{ prompt: 'enterPin' }]);
    type(day, 3, '4711');
    expect(heard(day)).toEqual(['This closes Bookings and Freight for 6 hours. Press 1 to close.']);
    expect(day.effectsOf('storm')).toEqual([]);
    type(day, 8, '1');
    expect(day.effectsOf('storm')).toEqual([
      { kind: 'storm', callId: 'c', hoursIds: ['h', 'k'], until: 8_000 + 6 * 3_600_000, personId: 'a' },
    ]);
    expect(heard(day).at(-1)).toBe('Closed.');
    day.at(20, { kind: 'clock' });
    expect(day.exchange.view().calls.size).toBe(0);
    expect(ropeSteps(day.records).map(({ title }) => title)).toContain('Closed by storm, by code');
  });

  test('opens again what it closed', () => {
    const storm = { since: 0, until: 9_000_000 };
    const day = dial({}, [set('h', 'Bookings', storm), set('k', 'Freight', storm)]);
    type(day, 3, '4711');
    expect(heard(day)).toEqual(['Bookings and Freight are closed by storm. Press 1 to open again.']);
    type(day, 8, '1');
    expect(day.effectsOf('storm')).toMatchObject([{ until: null }]);
  });

  test('does nothing for who hangs up after the reading, presses another key, or waits', () => {
    const left = dial();
    type(left, 3, '4711');
    left.at(5, { kind: 'callerHungUp', callId: 'c' });
    const other = dial();
    type(other, 3, '4711');
    type(other, 5, '2');
    other.at(90, { kind: 'clock' });
    expect([...left.effectsOf('storm'), ...other.effectsOf('storm')]).toEqual([]);
    expect(other.exchange.view().calls.size).toBe(0);
  });

  test('gives up after three wrong PINs', () => {
    const day = dial();
    for (let i = 0; i < 3; i++) type(day, 3 + i, '0000');
    expect(day.recordsOf('wrongPin').map(({ tries }) => tries)).toEqual([1, 2, 3]);
    expect(day.effectsOf('callEnded')).toHaveLength(1);
    expect(heard(day)).toEqual([]);
  });

  test('without a PIN does nothing, and says so', () => {
    const day = dial({ pinHash: null, pinLength: 0 });
    expect(heard(day)).toEqual(['This code has no PIN yet.']);
  });

  test('is nothing to who may not use it, and to callers from outside', () => {
    expect(dial({ teamIds: ['other'] }).effectsOf('play')).toEqual([]);
    expect(dial({ teamIds: ['t'] }).effectsOf('play')).toHaveLength(1);
    const day = dial();
    day.at(2, { kind: 'callArrived', callId: 'o', to: '*86', from: '+13605550117' });
    expect(day.effectsOf('callEnded')[0]?.facts).toMatchObject({ callId: 'o', result: 'unroutable' });
  });
});
