import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { DistributionKind } from '../model/distribution.ts';
import { decide } from './decide.ts';
import {
  type AgentFacts,
  firstReasonIndex,
  type PhoneFacts,
  reasonCodes,
  reasonsAgainst,
  reasonsAgainstDirect,
} from './eligibility.ts';
import type { QueueMember } from './distribution.ts';
import { drawOf } from './random-draw.ts';
import { distributions } from './registry.ts';

const now = 1_000;
const phone: fc.Arbitrary<PhoneFacts> = fc.constantFrom<PhoneFacts>(
  ...([
    { state: 'registered' },
    { state: 'unregistered', since: 5 },
    { state: 'refused', why: 'x' },
  ] as const),
  ...([{ state: 'none' }, { state: 'outside', line: 'open' }, { state: 'outside', line: 'ready' }] as const),
  ...([
    { state: 'outside', line: 'trunkFull' },
    { state: 'outside', line: 'trunkGone' },
  ] as const),
);
const facts: fc.Arbitrary<AgentFacts> = fc.record({
  presence: fc.constantFrom('available', 'away', 'signedOut'),
  awayReason: fc.constantFrom(null, 'lunch'),
  presenceSince: fc.constant(3),
  phone,
  ringingCallId: fc.constantFrom(null, 'c'),
  callCount: fc.nat(2),
  callLimit: fc.integer({ min: 1, max: 2 }),
  talkingSince: fc.constant(4),
  reservedForCallId: fc.constantFrom(null, 'k'),
  wrapUpUntil: fc.constantFrom(0, now, now + 1),
  backOffUntil: fc.constantFrom(0, now, now + 1),
  openTexts: fc.nat(3),
});

describe('eligibility', () => {
  const rules = fc.record({
    ringsAway: fc.constantFrom<string[]>([], ['lunch']),
    ringsInWrapUp: fc.boolean(),
    mostTexts: fc.constantFrom(null, 1, 3),
  });

  test('the fast path names the first of all reasons, and both are in the order they are listed in', () => {
    fc.assert(
      fc.property(facts, rules, (agent, by) => {
        const reasons = reasonsAgainst(agent, now, by).map(({ code }) => code);
        expect(firstReasonIndex(agent, now, by)).toBe(
          reasons.length === 0 ? -1 : reasonCodes.indexOf(reasons[0]!),
        );
        expect(reasons).toEqual([...reasons].sort((a, b) => reasonCodes.indexOf(a) - reasonCodes.indexOf(b)));
        // A wrap-up and a back-off are over at exactly their end.
        expect(reasons.includes('wrappingUp')).toBe(agent.wrapUpUntil > now && !by.ringsInWrapUp);
        expect(reasons.includes('away')).toBe(
          agent.presence === 'away' && !by.ringsAway.includes(agent.awayReason ?? ''),
        );
        expect(reasons.includes('texting')).toBe(by.mostTexts !== null && agent.openTexts >= by.mostTexts);
        expect(reasons.includes('backingOff')).toBe(agent.backOffUntil > now);
      }),
    );
  });

  test('a call made straight to somebody asks for phone, ringing, limit and reservation only', () => {
    const direct = ['noPhone', 'phoneUnregistered', 'phoneRefused', 'trunkGone', 'trunkFull'];
    direct.push('ringing', 'atLimit', 'reserved');
    fc.assert(
      fc.property(facts, (agent) => {
        const all = reasonsAgainst(agent, now).filter(({ code }) => direct.includes(code));
        expect(reasonsAgainstDirect(agent)).toEqual(all);
      }),
    );
  });
});

const member = (order: number, idleSince: number, more: Partial<QueueMember> = {}): QueueMember => ({
  ...{ personId: `p${order}`, order, idleSince, callCount: 0, heapIndex: -1 },
  ...{ turn: 1, answeredToday: 0, levels: [0, 0], stage: 0, ...more },
});
const past = { lastAnswered: 1, draw: 7 };
const orderOf = (kind: DistributionKind, members: QueueMember[], of = past) => {
  const index = distributions[kind].makeIndex<QueueMember>(of);
  for (const each of members) index.push(each);
  return [...index.inOrder(0)].map(({ order }) => order);
};

describe.each(Object.values(distributions))('distribution $kind', (distribution) => {
  const facts = fc.record({
    ...{ idleSince: fc.nat(3), callCount: fc.nat(1), turn: fc.integer({ min: 1, max: 3 }) },
    ...{ answeredToday: fc.nat(2), levels: fc.tuple(fc.nat(2), fc.nat(2)), stage: fc.nat(2) },
  });
  const some = fc.uniqueArray(fc.tuple(fc.nat(9), facts), { selector: ([order]) => order });
  const made = ([order, each]: [number, Omit<QueueMember, 'order' | 'personId' | 'heapIndex'>]) =>
    member(order, each.idleSince, each);

  test('gives each eligible member once, by turns, in an order that does not depend on how they came', () => {
    fc.assert(
      fc.property(some, fc.nat(), (given, from) => {
        const index = distribution.makeIndex<QueueMember>(past);
        const other = distribution.makeIndex<QueueMember>(past);
        const cut = given.length === 0 ? 0 : from % given.length;
        for (const each of given) index.push(made(each));
        for (const each of [...given.slice(cut), ...given.slice(0, cut)]) other.push(made(each));
        const order = [...index.inOrder(2)];
        expect([...other.inOrder(2)].map(({ personId }) => personId)).toEqual(
          order.map(({ personId }) => personId),
        );
        expect(new Set(order).size).toBe(given.length);
        expect(index.size).toBe(given.length);
        expect(index.peek(2)).toBe(order[0]);
        const turns = order.map(({ turn }) => turn);
        expect(turns).toEqual([...turns].sort((one, two) => one - two));
      }),
    );
  });

  test('forgets who is taken out, and takes them in again', () => {
    fc.assert(
      fc.property(some, fc.nat(), (given, which) => {
        fc.pre(given.length > 0);
        const index = distribution.makeIndex<QueueMember>(past);
        const members = given.map(made);
        for (const each of members) index.push(each);
        const before = [...index.inOrder(2)];
        const gone = members[which % members.length]!;
        index.remove(gone);
        index.remove(gone);
        expect(index.size).toBe(members.length - 1);
        expect([...index.inOrder(2)]).not.toContain(gone);
        index.push(gone);
        expect([...index.inOrder(2)]).toEqual(before);
      }),
    );
  });

  test('at a stage gives those who may be rung then, as if nobody else were inside', () => {
    fc.assert(
      fc.property(some, fc.nat(2), (given, stage) => {
        const index = distribution.makeIndex<QueueMember>(past);
        const alone = distribution.makeIndex<QueueMember>(past);
        const members = given.map(made);
        for (const each of members) index.push(each);
        const fit = members.filter((each) => each.stage <= stage);
        for (const each of fit) alone.push({ ...each, heapIndex: -1 });
        const ids = (of: Iterable<QueueMember>) => [...of].map(({ personId }) => personId);
        expect(ids(index.inOrder(stage))).toEqual(ids(alone.inOrder(2)));
        expect(index.peek(stage)?.personId).toBe(alone.peek(2)?.personId);
        expect(index.sizeAt(stage)).toBe(fit.length);
        expect(index.firstStage).toBe(Math.min(...members.map((each) => each.stage)));
      }),
    );
  });
});

describe('the order within a turn', () => {
  test('longest idle: who is wholly free comes before who talks, then who is idle longest, then as listed', () => {
    const members = [member(3, 1, { callCount: 1 }), member(2, 9), member(1, 5), member(0, 5)];
    expect(orderOf('longestIdle', members)).toEqual([0, 1, 2, 3]);
    expect(orderOf('allAtOnce', members)).toEqual([0, 1, 2, 3]);
  });

  test('round robin goes on behind who answered last, whether they are there or not', () => {
    const members = [3, 0, 2, 1].map((order) => member(order, 9 - order));
    const after = (lastAnswered: number) => orderOf('roundRobin', members, { ...past, lastAnswered });
    expect(after(-1)).toEqual([0, 1, 2, 3]);
    expect(after(1)).toEqual([2, 3, 0, 1]);
    expect(after(3)).toEqual([0, 1, 2, 3]);
    expect(after(40)).toEqual([0, 1, 2, 3]);
    const without = orderOf('roundRobin', [member(0, 1), member(3, 1)], { ...past, lastAnswered: 1 });
    expect(without).toEqual([3, 0]);
  });

  test('in order: from the top, however long anybody is idle', () => {
    expect(orderOf('inOrder', [member(2, 0), member(0, 9), member(1, 5)])).toEqual([0, 1, 2]);
  });

  test('fewest calls, then as listed', () => {
    const calls = (order: number, answeredToday: number) => member(order, 0, { answeredToday });
    expect(orderOf('fewestCalls', [calls(0, 4), calls(1, 2), calls(2, 0), calls(3, 2)])).toEqual([
      2, 1, 3, 0,
    ]);
  });

  test('best skill: the first that is asked for, then the next, then longest idle', () => {
    const skilled = (order: number, idleSince: number, ...levels: number[]) =>
      member(order, idleSince, { levels });
    const members = [skilled(0, 1, 3, 5), skilled(1, 2, 5, 1), skilled(2, 9, 5, 4), skilled(3, 3, 5, 4)];
    expect(orderOf('bestSkill', members)).toEqual([3, 2, 1, 0]);
    expect(orderOf('bestSkill', [skilled(0, 5), skilled(1, 2)])).toEqual([1, 0]);
  });

  /** Upper 0.1 % point of chi-square, by degrees of freedom (NIST/SEMATECH e-Handbook, 1.3.6.7.4). */
  const critical = { 4: 18.467, 23: 49.728 };

  test('at random each is first equally often, and so is each order: chi-square over following draws', () => {
    const draws = 24_000;
    const seed = 12_345;
    const of = (count: number) => {
      const members = Array.from({ length: count }, (_, order) => member(order, 0));
      const seen = new Map<string, number>();
      for (let i = 0; i < draws; i++) {
        const order = orderOf('random', members, { ...past, draw: drawOf(seed, i) });
        const key = count === 4 ? order.join() : String(order[0]);
        seen.set(key, (seen.get(key) ?? 0) + 1);
      }
      return [...seen.values()];
    };
    const square = (counts: number[]) =>
      counts.reduce((sum, n) => sum + (n - draws / counts.length) ** 2 / (draws / counts.length), 0);
    const firsts = of(5);
    const orders = of(4);
    expect([firsts.length, orders.length]).toEqual([5, 24]);
    expect(square(firsts)).toBeLessThan(critical[4]);
    expect(square(orders)).toBeLessThan(critical[23]);
  });
});

describe('choosing', () => {
  const inOrder = (members: ReturnType<typeof member>[]) => ({
    peek: (_stage: number) => members[0],
    inOrder: (_stage: number) => members,
  });
  const three = [member(0, 1), member(1, 2), member(2, 3)];
  const wanted = {
    ...{ tried: [], fits: () => true, fitting: 3, stage: 0, inTurns: false },
    because: 'longestIdle',
  } as const;

  test('the first who was not tried; the first of all again when everybody was; nobody when none fits', () => {
    expect(decide(inOrder(three), wanted)).toEqual({ member: three[0], why: 'longestIdle' });
    expect(decide(inOrder(three), { ...wanted, tried: ['p0'] })).toEqual({
      member: three[1],
      why: 'longestIdle',
    });
    expect(decide(inOrder(three), { ...wanted, tried: ['p0', 'p1', 'p2'] })).toEqual({
      member: three[0],
      why: 'triedAllOthers',
    });
    expect(decide(inOrder(three), { ...wanted, fits: () => false })).toBeNull();
    expect(decide(inOrder([]), { ...wanted, fitting: 0 })).toBeNull();
    expect(decide(inOrder(three.slice(0, 1)), { ...wanted, fitting: 1 })?.why).toBe('onlyOne');
  });

  test('who comes first by their own right, unless they were tried or do not fit', () => {
    const first = { member: three[2]!, because: 'recordOwner' } as const;
    expect(decide(inOrder(three), { ...wanted, first })).toEqual({ member: three[2], why: 'recordOwner' });
    expect(decide(inOrder(three), { ...wanted, first, tried: ['p2'] })?.member).toBe(three[0]);
    expect(decide(inOrder(three), { ...wanted, first, fits: (each) => each !== three[2] })?.member).toBe(
      three[0],
    );
  });

  test('of turns, the first that has somebody who fits: its untried, its first again, and never a later one', () => {
    const turns = [member(0, 1), member(1, 2), member(2, 3, { turn: 2 }), member(3, 4, { turn: 2 })];
    const inTurns = { ...wanted, inTurns: true, fitting: 4 };
    const why = (change: Partial<Parameters<typeof decide<QueueMember>>[1]>) => {
      const chosen = decide(inOrder(turns), { ...inTurns, ...change });
      return [chosen?.member.order, chosen?.why];
    };
    expect(why({})).toEqual([0, 'longestIdle']);
    expect(why({ tried: ['p0'] })).toEqual([1, 'longestIdle']);
    expect(why({ tried: ['p0', 'p1'] })).toEqual([0, 'triedAllOthers']);
    expect(why({ tried: ['p2'], fits: ({ turn }) => turn === 2, fitting: 2 })).toEqual([3, 'longestIdle']);
    expect(why({ fits: ({ order }) => order !== 0, fitting: 3 })).toEqual([1, 'earlierTurn']);
    expect(why({ fits: ({ order }) => order === 3, fitting: 1 })).toEqual([3, 'onlyOne']);
    const owner = { member: turns[3]!, because: 'recordOwner' } as const;
    expect(why({ first: owner })).toEqual([3, 'recordOwner']);
    expect(why({ first: owner, tried: ['p3'] })).toEqual([0, 'longestIdle']);
  });
});
