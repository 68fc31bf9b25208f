import { describe, expect, test } from 'vitest';
import type { Destination } from '../../model/destination.ts';
import { planOf } from '../../plan/compile.ts';
import { Bench, configuration, mainNumber, person, queue, unroutedNumber } from '../exchange.testing.ts';
import { pinHash } from '../../plan/steps/room.ts';

function bench(destination: Destination): Bench {
  const base = configuration([person('a')], [queue('q', ['a'])]);
  return new Bench({
    ...base,
    numbers: base.numbers.map((number) =>
      number.e164 === mainNumber ? { ...number, plan: planOf(number.id, 1, destination) } : number,
    ),
    rooms: [
      { id: 'open', name: 'Open', extension: '5001', pinHash: null, pinLength: 0, joinTone: true },
      {
        id: 'shut',
        name: 'Shut',
        extension: '5002',
        pinHash: pinHash('shut', '4711'),
        pinLength: 4,
        joinTone: false,
      },
    ],
    faxBoxes: [{ id: 'fax', name: 'Fax', extension: '6001' }],
  });
}
const type = (day: Bench, at: number, keys: string, leg = 'c1.1') =>
  [...keys].forEach((key) => day.at(at, { kind: 'keyPressed', leg, key }));

describe('a conference room', () => {
  test('takes callers in with a tone, says who is there, and the call counts as a conference', () => {
    const day = bench({ kind: 'room', id: 'open' });
    day.call(1);
    day.call(3, '5001');
    expect(day.effectsOf('joinRoom')).toMatchObject([
      { callId: 'c1', tone: true },
      { callId: 'c2', tone: true },
    ]);
    expect(day.recordsOf('joinedRoom').map((record) => record.others)).toEqual([0, 1]);
    day.at(63, { kind: 'callerHungUp', callId: 'c1' });
    expect(day.ended()).toMatchObject([{ result: 'conference', talkedMs: 62_000, waitedMs: 0 }]);
  });

  test('with a PIN lets in who knows it, by the last digit or by #', () => {
    const day = bench({ kind: 'room', id: 'shut' });
    day.call(1);
    expect(day.effectsOf('joinRoom')).toEqual([]);
    type(day, 3, '4711');
    expect(day.effectsOf('joinRoom')).toHaveLength(1);
    day.call(4);
    type(day, 5, '47#', 'c2.1');
    expect(day.recordsOf('wrongPin')).toMatchObject([{ callId: 'c2', tries: 1 }]);
    type(day, 6, '4711', 'c2.1');
    expect(day.effectsOf('joinRoom')).toHaveLength(2);
  });

  test('three wrong PINs, or none within 30 s, and the caller is told and released', () => {
    const day = bench({ kind: 'room', id: 'shut' });
    day.call(1);
    type(day, 2, '0000');
    type(day, 3, '1111');
    type(day, 4, '2222');
    day.call(10);
    day.at(40, { kind: 'clock' });
    expect(day.ended()).toMatchObject([{ result: 'turnedAway' }, { result: 'turnedAway' }]);
  });

  test('no PIN can be read from what is kept', () => {
    expect(pinHash('shut', '4711')).toMatch(/^[0-9a-f]{64}$/);
    expect(pinHash('open', '4711')).not.toBe(pinHash('shut', '4711'));
  });
});

describe('a fax box', () => {
  test('takes the pages and the call is a fax; a caller who sends none has given up', () => {
    const day = bench({ kind: 'fax', id: 'fax' });
    day.call(1);
    day.at(20, { kind: 'faxReceived', callId: 'c1', pages: 3 });
    day.call(30, '6001');
    day.at(35, { kind: 'callerHungUp', callId: 'c2' });
    day.call(40);
    day.at(640, { kind: 'clock' });
    expect(day.ended().map((call) => call.result)).toEqual(['fax', 'abandoned', 'abandoned']);
    expect(day.recordsOf('faxReceived')).toMatchObject([{ pages: 3 }]);
  });
});

test('a number that leads to another of ours leads where that one does', () => {
  const day = bench({ kind: 'number', id: 'nd' });
  day.register(0, 'a');
  day.call(1);
  expect(day.rung()).toEqual(['a']);
  const nowhere = bench({ kind: 'number', id: 'nu' });
  nowhere.call(1);
  expect(nowhere.ended()).toMatchObject([{ result: 'unroutable' }]);
  expect(unroutedNumber).toMatch(/^\+1/);
});
