import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { decide } from './decide.ts';
import {
  type AgentFacts,
  firstReasonIndex,
  type PhoneFacts,
  reasonCodes,
  reasonsAgainst,
  reasonsAgainstDirect,
} from './eligibility.ts';
import type { QueueMember } from './registry.ts';
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
});

describe('eligibility', () => {
  test('the fast path names the first of all reasons, and both are in the order they are listed in', () => {
    fc.assert(
      fc.property(facts, (agent) => {
        const reasons = reasonsAgainst(agent, now).map(({ code }) => code);
        expect(firstReasonIndex(agent, now)).toBe(
          reasons.length === 0 ? -1 : reasonCodes.indexOf(reasons[0]!),
        );
        expect(reasons).toEqual([...reasons].sort((a, b) => reasonCodes.indexOf(a) - reasonCodes.indexOf(b)));
        // A wrap-up and a back-off are over at exactly their end.
        expect(reasons.includes('wrappingUp')).toBe(agent.wrapUpUntil > now);
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

const member = (order: number, idleSince: number, callCount = 0): QueueMember => ({
  ...{ personId: `p${order}`, order, idleSince, callCount, heapIndex: -1 },
});

describe.each(Object.values(distributions))('distribution $kind', (distribution) => {
  test('gives each eligible member once, in an order that does not depend on how they came', () => {
    const some = fc.uniqueArray(fc.tuple(fc.nat(9), fc.nat(3), fc.nat(1)), { selector: ([order]) => order });
    fc.assert(
      fc.property(some, fc.nat(), (given, turn) => {
        const index = distribution.makeIndex();
        const other = distribution.makeIndex();
        const cut = given.length === 0 ? 0 : turn % given.length;
        for (const each of given) index.push(member(...each));
        for (const each of [...given.slice(cut), ...given.slice(0, cut)]) other.push(member(...each));
        const order = [...index.inOrder()].map(({ personId }) => personId);
        expect([...other.inOrder()].map(({ personId }) => personId)).toEqual(order);
        expect(new Set(order).size).toBe(given.length);
        expect(index.size).toBe(given.length);
      }),
    );
  });

  test('forgets who is taken out', () => {
    const index = distribution.makeIndex();
    const members = [member(0, 5), member(1, 3), member(2, 4)];
    for (const each of members) index.push(each);
    index.remove(members[1]!);
    index.remove(members[1]!);
    expect([...index.inOrder()].map(({ order }) => order)).toEqual([2, 0]);
  });
});

describe('longest idle', () => {
  test('who is wholly free comes before who talks, then who is idle longest, then member order', () => {
    const index = distributions.longestIdle.makeIndex();
    for (const each of [member(3, 1, 1), member(2, 9), member(1, 5), member(0, 5)]) index.push(each);
    expect([...index.inOrder()].map(({ order }) => order)).toEqual([0, 1, 2, 3]);
  });
});

describe('choosing', () => {
  const inOrder = (members: ReturnType<typeof member>[]) => ({
    peek: () => members[0],
    inOrder: () => members,
  });
  const three = [member(0, 1), member(1, 2), member(2, 3)];
  const wanted = { tried: [], fits: () => true, fitting: 3, because: 'longestIdle' } as const;

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
});
