import { expect, test } from 'vitest';
import {
  Bench,
  callerNumber,
  configuration,
  directNumber,
  mainNumber,
  person,
  queue,
} from './exchange.testing.ts';
import { ropeSteps } from '../story/describe.ts';

test('the rope tells a call as it went: queue, missed ring, wait, answer, talk, end', () => {
  const bench = new Bench(configuration([person('a')], [queue('q', ['a'], { maxWaitSeconds: 300 })]));
  bench.register(0, 'a');
  const call = bench.call(0);
  // Rings 15 s, rests 30 s, is rung again at 0:45.
  bench.at(50, { kind: 'legAnswered', leg: `${call}.3` });
  bench.at(110, { kind: 'callerHungUp', callId: call });
  const steps = ropeSteps(bench.records);
  expect(steps.map((step) => [step.mark, step.title])).toEqual([
    ['knot', 'Came in on +1 206 555 0140'],
    ['hitch', 'Queue Queue q'],
    ['missed', 'Rang Person a 15 s'],
    ['coil', 'Waited 0:30 in Queue q'],
    ['lifted', 'Rang Person a 5 s'],
    ['sally', 'Person a answered'],
    ['loop', 'The caller hung up'],
  ]);
  expect(steps[1]!.slack).toEqual(['after 5:00: the end of the call']);
  expect(steps[5]).toMatchObject({ ms: 60_000, reason: 'Talked 1:00' });
});

test('a caller who hangs up while it rings frays, and who was rung is told', () => {
  const bench = new Bench(configuration([person('a')], [queue('q', ['a'])]));
  bench.register(0, 'a');
  bench.at(1, { kind: 'callArrived', callId: 'x', to: mainNumber, from: callerNumber });
  bench.at(5, { kind: 'callerHungUp', callId: 'x' });
  expect(ropeSteps(bench.records).map((step) => step.mark)).toEqual(['knot', 'hitch', 'missed', 'fray']);
});

test('a call taken by a colleague and handed back is told as that', () => {
  const bench = new Bench(configuration([person('a'), person('b')], [queue('q', ['a'])]));
  bench.register(0, 'a', 'b');
  const call = bench.call(0);
  bench.at(4, { kind: 'callPickedUp', callId: call, phoneId: 'b.phone' });
  bench.at(5, { kind: 'legAnswered', leg: `${call}.3` });
  bench.at(15, { kind: 'callTransferred', leg: `${call}.3`, to: { kind: 'person', id: 'a' } });
  bench.at(18, { kind: 'legAnswered', leg: `${call}.4` });
  bench.at(28, { kind: 'callerHungUp', callId: call });
  const steps = ropeSteps(bench.records);
  expect(steps.map((step) => step.title)).toEqual([
    'Came in on +1 206 555 0140',
    'Queue Queue q',
    'Rang Person a 4 s',
    'Rang Person b 1 s',
    'Person b answered',
    'Person b handed the caller over to Person a',
    'Rang Person a 3 s',
    'Person a answered',
    'The caller hung up',
  ]);
  expect(steps[2]!.reason).toContain('Person b took it');
});

test('a caller announced, taken back, announced to another and put through', () => {
  const bench = new Bench(configuration([person('a'), person('b'), person('c')], [queue('q', ['a'])]));
  bench.register(0, 'a', 'b', 'c');
  const call = bench.call(0);
  const leg = `${call}.2`;
  bench.at(2, { kind: 'legAnswered', leg });
  bench.at(12, { kind: 'consultationAsked', leg, personId: 'b' });
  bench.at(17, { kind: 'legFailed', leg: `${call}.3`, cause: 'declined' });
  bench.at(20, { kind: 'consultationAsked', leg, personId: 'c' });
  bench.at(23, { kind: 'legAnswered', leg: `${call}.4` });
  bench.at(30, { kind: 'legEnded', leg });
  bench.at(50, { kind: 'callerHungUp', callId: call });
  const steps = ropeSteps(bench.records);
  expect(steps.slice(4).map((step) => step.title)).toEqual([
    'Person a announces the caller to Person b',
    'Rang Person b 5 s',
    'Person a has the caller back',
    'Person a announces the caller to Person c',
    'Rang Person c 3 s',
    'Person a tells Person c who is there',
    'Person a put the caller through to Person c',
    'The caller hung up',
  ]);
  expect(steps.at(-2)).toMatchObject({ mark: 'sally', ms: 20_000 });
});

test('a call straight to somebody tells what would have followed', () => {
  const noAnswer = [{ kind: 'otherPhones' as const }, { kind: 'person' as const, id: 'b' }];
  const bench = new Bench(configuration([person('a', { noAnswer }), person('b')], []));
  bench.register(0, 'a', 'b');
  bench.call(1, directNumber);
  bench.at(3, { kind: 'legAnswered', leg: 'c1.2' });
  expect(ropeSteps(bench.records).find((step) => step.mark === 'lifted')!.slack).toEqual([
    "not lifted in 20 s: their other phones, then Person b, then Person a's voicemail",
  ]);
});
