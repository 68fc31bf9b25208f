import { describe, expect, test } from 'vitest';
import type { QueueItem } from '../../model/configuration.ts';
import { ropeSteps } from '../../story/describe.ts';
import {
  Bench,
  callerNumber,
  configuration,
  mainNumber,
  outsideNumber,
  person,
  queue,
  trunk,
} from '../exchange.testing.ts';
import { Exchange } from '../exchange.ts';
import type { ExchangeEventBody } from '../kernel/events.ts';
import type { State } from '../kernel/state.ts';
import { brokenInvariants } from '../snapshot.ts';

const four = ['a', 'b', 'c', 'd'];

function bench(change: Partial<QueueItem>, ids = four, others: QueueItem[] = []): Bench {
  const made = new Bench(
    configuration(
      ids.map((id) => person(id)),
      [queue('q', ids, { wrapUpSeconds: 0, ...change }), ...others],
    ),
  );
  made.register(0, ...ids);
  return made;
}
const state = ({ exchange }: Bench) => exchange.view() as State;
const ringing = (of: Bench) =>
  [...state(of).agents.values()].flatMap(({ ringing: call, person: { id } }) => (call === null ? [] : [id]));

/** A call comes, whoever rings first answers, and both hang up: who it was. */
function served(of: Bench, at: number): string {
  const call = of.call(at);
  const [who] = ringing(of);
  const leg = [...state(of).calls.values()].find(({ id }) => id === call)!.legs.at(-1)!.id;
  of.at(at + 1, { kind: 'legAnswered', leg });
  of.at(at + 2, { kind: 'callerHungUp', callId: call });
  return who!;
}

describe('round robin', () => {
  test('goes on behind who answered last; who is away is passed over and moves nothing', () => {
    const of = bench({ distribution: 'roundRobin' });
    expect([10, 20, 30].map((at) => served(of, at))).toEqual(['a', 'b', 'c']);
    of.at(35, { kind: 'agentAway', personId: 'd', reason: 'lunch' });
    expect(served(of, 40)).toBe('a');
    of.at(45, { kind: 'agentSignedIn', personId: 'd' });
    expect(served(of, 50)).toBe('b');
  });

  test('who does not lift is not who answered; and it goes on where it was after a restart', () => {
    const of = bench({ distribution: 'roundRobin', ringSeconds: 5 });
    expect(served(of, 10)).toBe('a');
    of.call(20);
    expect(ringing(of)).toEqual(['b']);
    of.at(26, { kind: 'clock' });
    expect(ringing(of)).toEqual(['c']);
    of.at(27, { kind: 'callerHungUp', callId: [...state(of).calls.keys()][0]! });
    const again = Exchange.restore(JSON.parse(JSON.stringify(of.exchange.snapshot())));
    expect((again.view() as State).queues.get('q')!.lastAnswered).toBe(0);
    expect(brokenInvariants(again.view())).toEqual([]);
    expect(served(of, 90)).toBe('b');
  });

  test('members who come and go leave the round where it was', () => {
    const of = bench({ distribution: 'roundRobin' });
    expect([10, 20].map((at) => served(of, at))).toEqual(['a', 'b']);
    const now = queue('q', ['d', 'b', 'c', 'a'], { wrapUpSeconds: 0, distribution: 'roundRobin' });
    of.at(25, { kind: 'configurationChanged', changes: { queues: [now] } });
    expect(served(of, 30)).toBe('c');
    const without = queue('q', ['d', 'b', 'a'], { wrapUpSeconds: 0, distribution: 'roundRobin' });
    of.at(35, { kind: 'configurationChanged', changes: { queues: [without] } });
    expect(served(of, 40)).toBe('a');
  });
});

describe('fewest calls', () => {
  test('counts what somebody answered in any queue since midnight, and begins anew then', () => {
    const other = queue('q2', ['a'], { wrapUpSeconds: 0 });
    const of = bench({ distribution: 'fewestCalls' }, ['a', 'b'], [other]);
    of.call(10, '+12065550151');
    of.at(11, { kind: 'legAnswered', leg: 'c1.2' });
    of.at(12, { kind: 'callerHungUp', callId: 'c1' });
    expect(served(of, 20)).toBe('b');
    expect(served(of, 30)).toBe('a');
    expect(served(of, 40)).toBe('b');
    // Two each: as listed. Then a has three, until the day is over.
    expect(served(of, 50)).toBe('a');
    expect(served(of, 60)).toBe('b');
    expect(served(of, 70)).toBe('a');
    expect(state(of).agents.get('a')!.answeredSince(0)).toBe(4);
    expect(served(of, 86_400)).toBe('a');
    expect(served(of, 86_410)).toBe('b');
    expect(brokenInvariants(state(of))).toEqual([]);
    expect(of.recordsOf('decision').at(-1)).toMatchObject({
      why: 'fewestCalls',
      candidates: { listed: [{ answeredToday: 0 }, { answeredToday: 1 }] },
    });
  });
});

describe('best skill', () => {
  test('the highest level of what is asked for first; when they are busy the next', () => {
    const levels = { a: 2, b: 5, c: 4 };
    const skills = [{ skillId: 's', name: 'Refunds', minimum: 2 }];
    const people = Object.entries(levels).map(([id, level]) => person(id, { skills: { s: level } }));
    const of = new Bench(
      configuration(people, [queue('q', ['a', 'b', 'c'], { skills, distribution: 'bestSkill' })]),
    );
    of.register(0, 'a', 'b', 'c');
    for (const at of [10, 11, 12]) of.call(at);
    expect(of.recordsOf('decision').map(({ chosen }) => chosen)).toEqual(['b', 'c', 'a']);
    expect(of.recordsOf('decision')[0]).toMatchObject({ why: 'bestSkill', skills: ['Refunds'] });
    const steps = ropeSteps(of.recordsOf('decision').slice(0, 1), 30_000);
    expect(steps.some(({ reason }) => reason.includes('Best at Refunds of 3 free'))).toBe(true);
  });
});

describe('all at once', () => {
  test('rings all of the turn up to the bound; the next caller gets who is not rung; the first to lift has it', () => {
    const of = bench({ distribution: 'allAtOnce', ringsAtMost: 3 });
    of.call(10);
    expect(ringing(of)).toEqual(['a', 'b', 'c']);
    of.call(11);
    expect(ringing(of)).toEqual(four);
    expect(of.recordsOf('decision').map(({ together }) => together!.map(({ personId }) => personId))).toEqual(
      [['a', 'b', 'c'], ['d']],
    );
    const { effects } = of.at(14, { kind: 'legAnswered', leg: 'c1.3' });
    expect(effects.filter(({ kind }) => kind === 'stopRinging')).toHaveLength(2);
    expect(ringing(of)).toEqual(['d']);
    for (const agent of state(of).agents.values()) expect([agent.misses, agent.backOffUntil]).toEqual([0, 0]);
  });

  test('nobody lifts: nobody rests, and after five seconds they ring again; so also after a restart', () => {
    const of = bench({ distribution: 'allAtOnce', ringSeconds: 10 });
    of.call(10);
    of.at(20, { kind: 'clock' });
    expect(ringing(of)).toEqual([]);
    for (const agent of state(of).agents.values()) expect([agent.misses, agent.backOffUntil]).toEqual([0, 0]);
    const again = Exchange.restore(JSON.parse(JSON.stringify(of.exchange.snapshot())));
    expect(again.nextTimerAt()).toBe(25_000);
    expect(brokenInvariants(again.view())).toEqual([]);
    of.at(25, { kind: 'clock' });
    expect(ringing(of)).toEqual(four);
    const missed = ropeSteps(of.records, 30_000).find(({ mark }) => mark === 'missed');
    expect(missed?.title).toBe('Rang Person a and 3 others 10 s');
    expect(missed?.reason).toContain('Nobody lifted; nobody rests for it');
  });

  test('a caller who waits to ring again may hang up, wait too long, or find nobody signed in', () => {
    const end = { kind: 'end' } as const;
    const of = bench({
      ...{ distribution: 'allAtOnce', ringSeconds: 10, maxWaitSeconds: 12, whenTooLong: end },
      whenNobody: end,
    });
    of.call(10);
    of.at(20, { kind: 'clock' });
    of.at(21, { kind: 'callerHungUp', callId: 'c1' });
    of.call(30);
    of.at(42, { kind: 'clock' });
    expect(of.recordsOf('sentOn')).toMatchObject([{ because: 'waitedTooLong' }]);
    of.call(50);
    of.at(60, { kind: 'clock' });
    for (const personId of four) of.at(61, { kind: 'agentSignedOut', personId });
    expect(of.recordsOf('sentOn').at(-1)).toMatchObject({ because: 'nobodySignedIn', at: 61_000 });
    expect(state(of).calls.size).toBe(0);
    expect(state(of).queues.get('q')!.pausing).toBe(0);
  });
});

test('all at once leaves out whom no channel is left for, and rings the others', () => {
  const set = configuration(
    ['a', 'b'].map((id) => person(id)),
    [queue('q', ['a', 'b'], { distribution: 'allAtOnce' })],
  );
  const of = new Bench({ ...set, phones: [outsideNumber('a'), outsideNumber('b')], trunks: [trunk(1)] });
  for (const personId of ['a', 'b']) of.at(1, { kind: 'agentSignedIn', personId });
  of.call(10);
  expect(ringing(of)).toEqual(['a']);
  expect(brokenInvariants(of.exchange.view())).toEqual([]);
});

describe('turns', () => {
  test('a later turn is rung only when nobody of an earlier one can be', () => {
    const of = bench({ turns: [2, 1, 1, 2] });
    of.call(10);
    of.call(11);
    of.call(12);
    expect(of.recordsOf('decision').map(({ chosen }) => chosen)).toEqual(['b', 'c', 'a']);
    expect(of.recordsOf('decision').map(({ why }) => why)).toEqual([
      'longestIdle',
      'earlierTurn',
      'longestIdle',
    ]);
  });

  test('all at once rings one turn at a time', () => {
    const of = bench({ distribution: 'allAtOnce', turns: [2, 1, 1, 2] });
    of.call(10);
    expect(ringing(of)).toEqual(['b', 'c']);
    of.call(11);
    expect(ringing(of)).toEqual(four);
  });
});

test.each(['random', 'roundRobin'] as const)(
  'an overlay goes on with what a queue of %s remembers',
  (distribution) => {
    const { exchange } = bench({ distribution, ringSeconds: 5 });
    const rungIn = (twin: Exchange) => {
      const take = (at: number, body: ExchangeEventBody) =>
        twin.handle({ seq: twin.seq + 1, at, ...body }).effects.filter((effect) => effect.kind === 'ring');
      return four.flatMap((id, i) => {
        const call = { callId: id, to: mainNumber, from: callerNumber };
        const rung = take(1_000 * (i + 1), { kind: 'callArrived', ...call });
        for (const { leg } of rung) take(1_000 * (i + 1), { kind: 'legAnswered', leg });
        return rung.map(({ personId }) => personId);
      });
    };
    const plain = rungIn(exchange.fork());
    expect(rungIn(exchange.overlay())).toEqual(plain);
    expect([...plain].sort()).toEqual(four);
  },
);
