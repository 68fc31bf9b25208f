import { describe, expect, test } from 'vitest';
import { ropeSteps } from '../story/describe.ts';
import {
  Bench,
  callerNumber,
  configuration,
  directNumber,
  mainNumber,
  person,
  queue,
  unroutedNumber,
} from './exchange.testing.ts';
import { brokenInvariants } from './snapshot.ts';

const two = configuration([person('a'), person('b')], [queue('q', ['a', 'b'])]);

describe('a call to a queue', () => {
  test('rings the agent idle longest, who answers, talks and wraps up', () => {
    const bench = new Bench(two);
    bench.register(0, 'b');
    bench.register(1, 'a');
    bench.call(5);
    expect(bench.rung()).toEqual(['b']);
    bench.at(9, { kind: 'legAnswered', leg: bench.lastLeg() });
    bench.at(69, { kind: 'callerHungUp', callId: 'c1' });
    expect(bench.ended()).toMatchObject([
      {
        personId: 'b',
        result: 'answered',
        endedBy: 'caller',
        waitedMs: 4_000,
        talkedMs: 60_000,
        offers: 1,
        queueId: 'q',
      },
    ]);
    const agent = bench.exchange.view().agents.get('b')!;
    expect(agent.wrapUpUntil).toBe(79_000);
    bench.at(79, { kind: 'clock' });
    expect(agent).toMatchObject({ wrapUpUntil: 0, idleSince: 79_000 });
  });

  test('explains the choice with every member and every reason against', () => {
    const people = ['a', 'b', 'c', 'd'].map((id) => person(id));
    const bench = new Bench(configuration(people, [queue('q', ['a', 'b', 'c', 'd'])]));
    bench.register(0, 'a', 'b');
    bench.at(1, { kind: 'agentSignedIn', personId: 'c' });
    bench.at(2, { kind: 'agentAway', personId: 'c', reason: 'lunch' });
    bench.call(3);
    const [decision] = bench.recordsOf('decision');
    expect(decision).toMatchObject({ chosen: 'a', chosenName: 'Person a', why: 'longestIdle' });
    expect(decision!.candidates).toMatchObject({ total: 4, eligible: 2, counts: { signedOut: 1, away: 1 } });
    expect(
      decision!.candidates.listed.map((each) => [each.personId, each.reasons.map((reason) => reason.code)]),
    ).toEqual([
      ['a', []],
      ['b', []],
      ['c', ['away', 'phoneUnregistered']],
      ['d', ['signedOut', 'phoneUnregistered']],
    ]);
  });

  test('in live traffic of a large queue names the chosen one and four more, and counts the rest', () => {
    const ids = Array.from({ length: 40 }, (_, index) => `p${String(index).padStart(2, '0')}`);
    const bench = new Bench(
      configuration(
        ids.map((id) => person(id)),
        [queue('q', ids)],
      ),
      'bounded',
    );
    bench.register(0, ...ids.slice(0, 30));
    bench.call(3);
    const { candidates } = bench.recordsOf('decision')[0]!;
    expect(candidates).toMatchObject({ total: 40, eligible: 30, counts: { signedOut: 10 } });
    expect(candidates.listed.map((each) => each.personId)).toEqual(['p00', 'p01', 'p02', 'p03', 'p04']);
  });

  test('waits when nobody is eligible and is served when a wrap-up ends, at exactly its end', () => {
    const bench = new Bench(configuration([person('a')], [queue('q', ['a'])]));
    bench.register(0, 'a');
    bench.call(1);
    bench.at(2, { kind: 'legAnswered', leg: bench.lastLeg() });
    bench.at(10, { kind: 'legEnded', leg: bench.lastLeg() });
    bench.call(15);
    expect(bench.recordsOf('decision').at(-1)).toMatchObject({ chosen: null, why: 'nobodyEligible' });
    bench.at(19.999, { kind: 'clock' });
    expect(bench.rung()).toEqual(['a']);
    bench.at(20, { kind: 'clock' });
    expect(bench.rung()).toEqual(['a', 'a']);
  });

  test('wrap-ups that end at one instant are all over before anybody is chosen', () => {
    const bench = new Bench(configuration([person('a'), person('b')], [queue('q', ['a', 'b'])]));
    bench.register(0, 'a', 'b');
    for (const second of [1, 2]) {
      bench.call(second);
      bench.at(second, { kind: 'legAnswered', leg: bench.lastLeg() });
    }
    bench.at(30, { kind: 'callerHungUp', callId: 'c2' });
    bench.at(30, { kind: 'callerHungUp', callId: 'c1' });
    bench.call(31);
    bench.at(40, { kind: 'clock' });
    const decision = bench.recordsOf('decision').at(-1)!;
    expect(decision).toMatchObject({ chosen: 'a', candidates: { eligible: 2 } });
  });

  test('a timer that the host reports late fires at its own instant', () => {
    const bench = new Bench(two);
    bench.register(0, 'a', 'b');
    bench.call(0);
    bench.at(60, { kind: 'clock' });
    expect(bench.recordsOf('notTaken').map((record) => [record.name, record.at])).toEqual([
      ['Person a', 15_000],
      ['Person b', 30_000],
      ['Person a', 60_000],
    ]);
  });

  test('serves larger priority first, then first come', () => {
    const bench = new Bench(configuration([person('a')], [queue('q', ['a'])]));
    bench.call(1);
    bench.call(2, mainNumber, 5);
    bench.call(3, mainNumber, 5);
    bench.register(4, 'a');
    bench.at(5, { kind: 'legAnswered', leg: bench.lastLeg() });
    expect(bench.effectsOf('ring').map((effect) => effect.callId)).toEqual(['c2']);
    bench.at(6, { kind: 'callerHungUp', callId: 'c2' });
    bench.at(16, { kind: 'clock' });
    expect(bench.effectsOf('ring').map((effect) => effect.callId)).toEqual(['c2', 'c3']);
  });
});

describe('an offer that is not taken', () => {
  test('goes to the next agent, and the one who let it ring rests', () => {
    const bench = new Bench(two);
    bench.register(0, 'a', 'b');
    bench.call(1);
    bench.at(16, { kind: 'clock' });
    expect(bench.rung()).toEqual(['a', 'b']);
    expect(bench.recordsOf('notTaken')).toMatchObject([
      { personId: 'a', reason: 'noAnswer', rangMs: 15_000, backOffUntil: 46_000 },
    ]);
    expect(bench.exchange.view().agents.get('a')!.backOffUntil).toBe(46_000);
  });

  test.each(['declined', 'busy', 'unreachable'] as const)('%s tries the next at once', (cause) => {
    const bench = new Bench(two);
    bench.register(0, 'a', 'b');
    bench.call(1);
    bench.at(2, { kind: 'legFailed', leg: bench.lastLeg(), cause });
    expect(bench.rung()).toEqual(['a', 'b']);
    expect(bench.recordsOf('notTaken')).toMatchObject([
      { reason: cause, rangMs: 1_000, backOffUntil: 12_000 },
    ]);
  });

  test('is not made again to the same agent until all others eligible were tried', () => {
    const bench = new Bench({ ...two, settings: { ...two.settings, backOffAfterDeclineSeconds: 0 } });
    bench.register(0, 'a', 'b');
    bench.call(1);
    for (const second of [2, 3])
      bench.at(second, { kind: 'legFailed', leg: bench.lastLeg(), cause: 'declined' });
    expect(bench.rung()).toEqual(['a', 'b', 'a']);
    expect(bench.recordsOf('decision').at(-1)).toMatchObject({ why: 'triedAllOthers' });
  });

  test('an agent whose caller goes to somebody untried takes the next caller of another queue', () => {
    const both = configuration(
      [person('b'), person('c')],
      [queue('q0', ['c']), queue('q1', ['b', 'c'], { priority: 1, wrapUpSeconds: 5 })],
    );
    const bench = new Bench(both);
    const [q0, q1] = ['+12065550140', '+12065550151'];
    bench.register(0, 'b', 'c');
    const talk = bench.call(1, q1);
    bench.at(2, { kind: 'legAnswered', leg: bench.lastLeg() });
    bench.call(9, q1);
    bench.at(10, { kind: 'legFailed', leg: bench.lastLeg(), cause: 'declined' });
    bench.call(12, q0);
    bench.at(15, { kind: 'callerHungUp', callId: talk });
    // c's rest and b's wrap-up end at one instant: c is seen first, but b was not tried yet.
    bench.at(20, { kind: 'clock' });
    expect(bench.rung()).toEqual(['b', 'c', 'b', 'c']);
    expect(brokenInvariants(bench.exchange.view())).toEqual([]);
  });

  test('three unanswered in a row set the agent away as not answering', () => {
    const bench = new Bench(configuration([person('a')], [queue('q', ['a'])]));
    bench.register(0, 'a');
    bench.call(0);
    bench.at(200, { kind: 'clock' });
    expect(bench.rung()).toHaveLength(3);
    expect(bench.exchange.view().agents.get('a')).toMatchObject({
      presence: 'away',
      awayReason: 'not answering',
    });
    expect(bench.recordsOf('notTaken').map((record) => record.setAway)).toEqual([false, false, true]);
  });

  test('nobody is blamed for ringing while nobody hosted: each rang once, is set away by nothing, and rings again', () => {
    const bench = new Bench(two);
    bench.register(0, 'a', 'b');
    const call = bench.call(0);
    bench.at(36_000, { kind: 'clock', unattended: true });
    const state = bench.exchange.view();
    expect(['a', 'b'].map((id) => state.agents.get(id))).toMatchObject([
      { presence: 'available', misses: 0 },
      { presence: 'available', misses: 0 },
    ]);
    const notTaken = bench.recordsOf('notTaken');
    expect(notTaken.map(({ name, reason }) => [name, reason])).toEqual([
      ['Person a', 'unattended'],
      ['Person b', 'unattended'],
    ]);
    const [step] = ropeSteps(bench.records).filter(({ mark }) => mark === 'missed');
    expect(step!.reason).toMatch(/^Night Bell was not running, so that it rang nowhere\. /);
    // Who hosts now rings somebody, and the caller is still there.
    expect(state.calls.get(call)!.activity.kind).toBe('offered');
    expect(bench.rung()).toHaveLength(3);
    bench.at(36_200, { kind: 'clock' });
    expect(bench.recordsOf('notTaken').at(-1)).toMatchObject({ reason: 'noAnswer' });
  });

  test('signing out while ringing sends the caller on to the next agent', () => {
    const bench = new Bench(two);
    bench.register(0, 'a', 'b');
    bench.call(1);
    bench.at(2, { kind: 'agentSignedOut', personId: 'a' });
    expect(bench.rung()).toEqual(['a', 'b']);
    expect(bench.effectsOf('stopRinging')).toMatchObject([{ why: 'signedOut' }]);
  });
});

describe('limits of a queue', () => {
  const limited = (change: Parameters<typeof queue>[2]) =>
    configuration([person('a'), person('z')], [queue('q', ['a'], change), queue('other', ['z'])]);

  test('a full queue sends the next caller on', () => {
    const bench = new Bench(limited({ maxWaiting: 1, whenFull: { kind: 'voicemail', id: 'a.box' } }));
    bench.call(1);
    bench.call(2);
    expect(bench.recordsOf('sentOn')).toMatchObject([{ callId: 'c2', because: 'queueFull', limit: 1 }]);
    expect(bench.effectsOf('record')).toMatchObject([{ callId: 'c2', boxId: 'a.box' }]);
  });

  test('who waited too long is sent on at that instant', () => {
    const bench = new Bench(limited({ maxWaitSeconds: 60, whenTooLong: { kind: 'queue', id: 'other' } }));
    bench.call(1);
    bench.at(60.999, { kind: 'clock' });
    expect(bench.recordsOf('sentOn')).toEqual([]);
    bench.at(61, { kind: 'clock' });
    expect(bench.recordsOf('sentOn')).toMatchObject([{ because: 'waitedTooLong', limit: 60, at: 61_000 }]);
    expect(bench.recordsOf('enteredQueue').map((record) => record.queueId)).toEqual(['q', 'other']);
  });

  test('a wait that runs out while a phone rings counts only when the offer fails', () => {
    const bench = new Bench(limited({ maxWaitSeconds: 5, ringSeconds: 15 }));
    bench.register(0, 'a');
    bench.call(0);
    bench.at(10, { kind: 'clock' });
    expect(bench.ended()).toEqual([]);
    bench.at(15, { kind: 'clock' });
    expect(bench.ended()).toMatchObject([{ result: 'turnedAway', endedBy: 'exchange' }]);
  });

  test('nobody signed in: on entering, and when the last one leaves', () => {
    const bench = new Bench(limited({ whenNobody: { kind: 'voicemail', id: 'a.box' } }));
    bench.call(1);
    expect(bench.recordsOf('sentOn')).toMatchObject([{ because: 'nobodySignedIn' }]);
    bench.at(2, { kind: 'agentSignedIn', personId: 'a' });
    bench.call(3);
    expect(bench.recordsOf('sentOn')).toHaveLength(1);
    bench.at(4, { kind: 'agentSignedOut', personId: 'a' });
    expect(bench.recordsOf('sentOn')).toHaveLength(2);
  });

  test('queues that send callers round in circles end with the fallback after 100 steps', () => {
    const bench = new Bench(
      configuration(
        [person('a')],
        [
          queue('q', ['a'], { whenNobody: { kind: 'queue', id: 'r' } }),
          queue('r', ['a'], { whenNobody: { kind: 'queue', id: 'q' } }),
        ],
      ),
    );
    bench.call(1);
    expect(bench.recordsOf('tooManySteps')).toHaveLength(1);
    expect(bench.ended()).toMatchObject([{ result: 'turnedAway' }]);
  });
});

describe('other ends', () => {
  test('the caller may hang up while waiting, ringing, talking or leaving a message', () => {
    const bench = new Bench(two);
    bench.call(1);
    bench.at(3, { kind: 'callerHungUp', callId: 'c1' });
    bench.register(4, 'a');
    bench.call(5);
    bench.at(6, { kind: 'callerHungUp', callId: 'c2' });
    expect(bench.effectsOf('stopRinging')).toMatchObject([{ why: 'callerHungUp' }]);
    bench.call(7);
    bench.at(8, { kind: 'legAnswered', leg: bench.lastLeg() });
    bench.at(9, { kind: 'callerHungUp', callId: 'c3' });
    bench.call(10, directNumber);
    bench.at(11, { kind: 'legFailed', leg: bench.lastLeg(), cause: 'busy' });
    bench.at(20, { kind: 'callerHungUp', callId: 'c4' });
    bench.call(21, directNumber);
    bench.at(22, { kind: 'legFailed', leg: bench.lastLeg(), cause: 'busy' });
    bench.at(24, { kind: 'callerHungUp', callId: 'c5' });
    expect(bench.ended().map((facts) => [facts.result, facts.messageMs])).toEqual([
      ['abandoned', null],
      ['abandoned', null],
      ['answered', null],
      ['voicemail', 4_000],
      ['abandoned', null],
    ]);
  });

  test('a call to nobody: unknown number, unrouted number', () => {
    const bench = new Bench(two);
    bench.call(1, unroutedNumber);
    bench.call(2, '+12065550199');
    expect(bench.recordsOf('unroutable').map((record) => record.why)).toEqual([
      'unroutedNumber',
      'unknownNumber',
    ]);
    expect(bench.ended().map((facts) => facts.result)).toEqual(['unroutable', 'unroutable']);
  });

  test('a direct call rings also an agent who is away, and goes to voicemail when not answered', () => {
    const bench = new Bench(two);
    bench.register(0, 'a');
    bench.at(1, { kind: 'agentAway', personId: 'a', reason: 'lunch' });
    bench.call(2, directNumber);
    expect(bench.rung()).toEqual(['a']);
    bench.at(22, { kind: 'clock' });
    expect(bench.effectsOf('record')).toMatchObject([{ boxId: 'a.box' }]);
    expect(bench.exchange.view().agents.get('a')!.misses).toBe(0);
  });

  test('an extension is called like a number', () => {
    const bench = new Bench(configuration([person('a', { extension: '2041' })], []));
    bench.register(0, 'a');
    bench.call(1, '2041');
    expect(bench.rung()).toEqual(['a']);
  });

  test('an agent with a limit of two holds the first call while talking on the second', () => {
    const bench = new Bench(configuration([person('a', { callLimit: 2 })], [queue('q', ['a'])]));
    bench.register(0, 'a');
    bench.call(1);
    bench.at(2, { kind: 'legAnswered', leg: bench.lastLeg() });
    bench.call(3);
    bench.at(4, { kind: 'legAnswered', leg: bench.lastLeg() });
    expect(bench.effectsOf('hold')).toMatchObject([{ callId: 'c1' }]);
    bench.call(5);
    expect(bench.rung()).toEqual(['a', 'a']);
    bench.at(6, { kind: 'callerHungUp', callId: 'c2' });
    expect(bench.effectsOf('resume')).toMatchObject([{ callId: 'c1' }]);
  });
});

describe('changes of the set-up', () => {
  test('retiring the agent who rings sends the caller on; a talking one finishes', () => {
    const bench = new Bench(two);
    bench.register(0, 'a', 'b');
    bench.call(1);
    bench.at(2, {
      kind: 'configurationChanged',
      changes: { queues: [queue('q', ['b'])], gone: ['a', 'a.phone'] },
    });
    expect(bench.rung()).toEqual(['a', 'b']);
    bench.at(3, { kind: 'legAnswered', leg: bench.lastLeg() });
    bench.at(4, { kind: 'configurationChanged', changes: { queues: [queue('q', [])], gone: ['b'] } });
    bench.at(9, { kind: 'callerHungUp', callId: 'c1' });
    expect(bench.ended()).toMatchObject([{ personId: 'b', result: 'answered' }]);
    expect(bench.exchange.view().agents.size).toBe(0);
    expect(brokenInvariants(bench.exchange.view())).toEqual([]);
  });

  test('a new member is rung for a caller who waits', () => {
    const bench = new Bench(configuration([person('a'), person('b')], [queue('q', ['a'])]));
    bench.register(0, 'b');
    bench.call(1);
    bench.at(2, { kind: 'configurationChanged', changes: { queues: [queue('q', ['a', 'b'])] } });
    expect(bench.rung()).toEqual(['b']);
  });
});

test('events out of order throw, events that do not fit are refused with a reason', () => {
  const bench = new Bench(two);
  expect(bench.at(1, { kind: 'legAnswered', leg: 'c9.2' }).refusal).toBe('unknownLeg');
  expect(bench.at(1, { kind: 'agentAway', personId: 'a', reason: 'x' }).refusal).toBe('notSignedIn');
  expect(bench.at(1, { kind: 'callerHungUp', callId: 'c9' }).refusal).toBe('unknownCall');
  expect(() => bench.exchange.handle({ seq: 99, at: 2_000, kind: 'clock' })).toThrow(/without gaps/);
  expect(
    bench.at(1, { kind: 'callArrived', callId: 'x', to: mainNumber, from: callerNumber }).refusal,
  ).toBeNull();
  expect(bench.at(1, { kind: 'callArrived', callId: 'x', to: mainNumber, from: callerNumber }).refusal).toBe(
    'callExists',
  );
});
