import { describe, expect, test } from 'vitest';
import type { BlockedItem } from '../../blocking/blocked.ts';
import type { OpeningHours } from '../../hours/opening-hours.ts';
import { utcClock } from '../../hours/zone-clock.ts';
import type { QueueItem } from '../../model/configuration.ts';
import {
  anythingGoes,
  Bench,
  callerNumber,
  configuration,
  mainNumber,
  person,
  queue,
} from '../exchange.testing.ts';
import { Exchange } from '../exchange.ts';
import { brokenInvariants } from '../snapshot.ts';

const entry = (change: Partial<BlockedItem> = {}): BlockedItem => ({
  ...{ id: 'x', name: 'Nuisance', kind: 'number', digits: callerNumber, until: null },
  ...change,
});
function bench(more: object = {}): Bench {
  const base = configuration([person('a', { extension: '2001' })], [queue('q', ['a'])]);
  const day = new Bench({ ...base, rules: [anythingGoes], ...more });
  day.register(0, 'a');
  return day;
}
const results = (day: Bench) => day.effectsOf('callEnded').map(({ facts }) => facts.result);

describe('a caller of the blocked list', () => {
  test('is turned away before anything rings, counted, and told in the story', () => {
    const day = bench({ blocked: [entry()] });
    day.call(1);
    expect([results(day), day.effectsOf('blockedCaller')]).toEqual([
      ['turnedAway'],
      [{ kind: 'blockedCaller', callId: 'c1', blockedId: 'x' }],
    ]);
    expect(day.recordsOf('blocked')).toMatchObject([{ name: 'Nuisance', how: 'number' }]);
    expect(day.effectsOf('play')).toEqual([]);
  });

  test('is let in again when the entry ends, and when it is taken off', () => {
    const day = bench({ blocked: [entry({ until: 10_000 })] });
    day.call(11);
    expect(results(day)).toEqual([]);
    const other = bench({ blocked: [entry()] });
    other.at(1, { kind: 'configurationChanged', changes: { blocked: [] } });
    other.call(2);
    expect(results(other)).toEqual([]);
  });

  test('is never a number of ours, a colleague, or whoever calls back within an hour of a call for help', () => {
    const day = bench({
      blocked: [entry({ kind: 'prefix', digits: '+1' }), entry({ id: 'y', kind: 'prefix', digits: '2' })],
    });
    day.at(1, { kind: 'callArrived', callId: 'ours', to: mainNumber, from: mainNumber });
    day.at(1, { kind: 'callArrived', callId: 'colleague', to: mainNumber, from: '2001' });
    expect(day.recordsOf('blocked')).toEqual([]);
    day.call(2);
    expect(day.recordsOf('blocked')).toHaveLength(1);
    day.at(3, { kind: 'callArrived', callId: 'help', to: '911', from: '2001', fromPhoneId: 'a.phone' });
    day.call(60);
    expect(day.recordsOf('blocked')).toHaveLength(1);
    // Kept over a restart, and over after an hour.
    const again = Exchange.restore(day.exchange.snapshot());
    const call = (at: number) =>
      again.handle({
        ...{ seq: again.seq + 1, at: at * 1000, kind: 'callArrived', callId: `r${at}` },
        ...{ to: mainNumber, from: callerNumber },
      }).effects;
    expect(call(100).some(({ kind }) => kind === 'blockedCaller')).toBe(false);
    expect(call(3_700).some(({ kind }) => kind === 'blockedCaller')).toBe(true);
  });
});

test('a number that takes two calls at once says busy to the third, until one has ended', () => {
  const base = configuration([person('a')], [queue('q', ['a'])]);
  const day = bench({ numbers: base.numbers.map((number) => ({ ...number, mostCalls: 2 })) });
  day.call(1);
  day.call(2);
  day.call(3);
  expect(results(day)).toEqual(['busy']);
  expect(day.effectsOf('release').at(-1)).toMatchObject({ callId: 'c3', cause: 'busy' });
  expect(day.recordsOf('numberBusy')).toMatchObject([{ most: 2 }]);
  day.at(4, { kind: 'callerHungUp', callId: 'c1' });
  day.call(5);
  expect(results(day)).toEqual(['busy', 'abandoned']);
});

describe('a queue that follows opening hours', () => {
  /** Open in the first minute. */
  const hours: OpeningHours = {
    ...{ id: 'h', name: 'First minute', clock: utcClock, days: {}, storm: null },
    weekly: Array.from({ length: 7 }, () => [[0, 1] as const]),
  };
  const following = (change: Partial<QueueItem>) => {
    const base = configuration([person('a')], [queue('q', ['a'], { hoursId: 'h', ...change })]);
    return new Bench({ ...base, hours: [hours] });
  };
  const closed = { whenClosed: { kind: 'voicemail', id: 'a.box' } } as const;

  test('lets nobody in while it is closed', () => {
    const day = following(closed);
    day.call(61);
    expect(day.recordsOf('sentOn')).toMatchObject([{ because: 'closed' }]);
    expect(day.effectsOf('record')).toHaveLength(1);
  });

  test('sends on who waits at closing, or serves them, as is set', () => {
    const sending = following({ ...closed, atClosing: 'sendOn' });
    sending.call(50);
    sending.at(60, { kind: 'clock' });
    expect(sending.effectsOf('record')).toHaveLength(1);
    const serving = following({ ...closed, atClosing: 'serve' });
    serving.call(50);
    serving.at(70, { kind: 'clock' });
    expect(serving.recordsOf('sentOn')).toEqual([]);
    serving.register(71, 'a');
    serving.at(71, { kind: 'agentSignedIn', personId: 'a' });
    expect(serving.rung()).toEqual(['a']);
  });

  test('who rings at closing may still be taken, and is sent on when they are not', () => {
    const day = following({ ...closed, atClosing: 'sendOn', ringSeconds: 20 });
    day.register(0, 'a');
    day.at(0, { kind: 'agentSignedIn', personId: 'a' });
    day.call(55);
    day.at(65, { kind: 'clock' });
    expect(day.effectsOf('record')).toEqual([]);
    day.at(76, { kind: 'clock' });
    expect(day.effectsOf('record')).toHaveLength(1);
    expect(brokenInvariants(day.exchange.view())).toEqual([]);
  });

  test('closes at once by storm', () => {
    const day = following({ ...closed, atClosing: 'sendOn' });
    day.call(10);
    const storm = { since: 20_000, until: 3_600_000 };
    day.at(20, { kind: 'configurationChanged', changes: { hours: [{ ...hours, storm }] } });
    expect(day.recordsOf('sentOn')).toMatchObject([{ because: 'closed' }]);
  });

  test('waits on past a closing that was moved', () => {
    const day = following({ ...closed, atClosing: 'sendOn' });
    day.call(10);
    day.at(20, {
      kind: 'configurationChanged',
      changes: { hours: [{ ...hours, weekly: Array.from({ length: 7 }, () => [[0, 2] as const]) }] },
    });
    day.at(70, { kind: 'clock' });
    expect(day.recordsOf('sentOn')).toEqual([]);
    day.at(121, { kind: 'clock' });
    expect(day.recordsOf('sentOn')).toHaveLength(1);
  });
});
