import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { DiallingRule } from '../dialling/rules.ts';
import type { Configuration, QueueItem } from '../model/configuration.ts';
import type { Destination } from '../model/destination.ts';
import type { ExchangeEvent, ExchangeEventBody } from './events.ts';
import { Exchange, type Handled } from './exchange.ts';
import {
  anythingGoes,
  callerNumber,
  campaign,
  configuration,
  contacts,
  directNumber,
  outsideNumber,
  person,
  queue,
  trunk,
} from './exchange.testing.ts';
import { brokenInvariants } from './invariants.ts';
import { pinHash } from './rooms.ts';
import type { State } from './state.ts';

const people = ['a', 'b', 'c', 'd', 'e'];
/** What somebody of the five may dial: by the rules, for help, inside, and what nobody has. */
const dialled = ['+12505550123', '911', '4001', '77'];

const destination: fc.Arbitrary<Destination> = fc.oneof(
  fc.constantFrom<Destination>({ kind: 'end' }, { kind: 'queue', id: 'q0' }, { kind: 'queue', id: 'q1' }),
  fc.constantFrom(...people).map((id): Destination => ({ kind: 'person', id })),
  fc.constantFrom(...people).map((id): Destination => ({ kind: 'voicemail', id: `${id}.box` })),
  fc.constantFrom<Destination>(
    { kind: 'outside', id: 'o' },
    { kind: 'room', id: 'r1' },
    { kind: 'room', id: 'r2' },
    { kind: 'fax', id: 'f' },
    { kind: 'number', id: 'n0' },
  ),
);

const someQueue = (id: string) =>
  fc
    .record({
      members: fc.shuffledSubarray(people, { minLength: 1 }),
      priority: fc.integer({ min: 0, max: 2 }),
      ringSeconds: fc.integer({ min: 1, max: 20 }),
      wrapUpSeconds: fc.integer({ min: 0, max: 20 }),
      maxWaiting: fc.option(fc.integer({ min: 0, max: 4 })),
      whenFull: destination,
      maxWaitSeconds: fc.option(fc.integer({ min: 0, max: 40 })),
      whenTooLong: destination,
      whenNobody: fc.option(destination),
      preferOwner: fc.boolean(),
      skills: fc.constantFrom<QueueItem['skills']>(
        [],
        [],
        [{ skillId: 'french', name: 'French', minimum: 3 }],
      ),
    })
    .map(({ members, ...rest }) => queue(id, members, rest));

const someCampaign = fc.record({
  ratio: fc.constantFrom(0.5, 1, 1.4, 3),
  abandonLimit: fc.constantFrom(0, 0.03, 1),
  mostInAir: fc.option(fc.integer({ min: 1, max: 4 })),
  running: fc.boolean(),
});

/** Two queues, each with a campaign. Of the five people d has a softphone and an outside number, e only the latter. */
const setUp: fc.Arbitrary<Configuration> = fc
  .tuple(
    fc.array(fc.integer({ min: 1, max: 3 }), { minLength: 5, maxLength: 5 }),
    someQueue('q0'),
    someQueue('q1'),
    someCampaign,
    someCampaign,
    fc.integer({ min: 1, max: 5 }),
    fc.record({
      seats: fc.constantFrom(null, null, 2, 4),
      levels: fc.array(fc.integer({ min: 0, max: 5 }), { minLength: 5, maxLength: 5 }),
      startAway: fc.array(fc.boolean(), { minLength: 5, maxLength: 5 }),
      rules: fc.constantFrom<DiallingRule[]>([], [anythingGoes]),
    }),
  )
  .map(([limits, q0, q1, x0, x1, channels, agents]) => {
    const set = configuration(
      people.map((id, i) =>
        person(id, {
          callLimit: limits[i]!,
          skills: { french: agents.levels[i]! },
          startAway: agents.startAway[i]!,
        }),
      ),
      [q0, q1],
    );
    return {
      ...set,
      settings: { ...set.settings, seats: agents.seats },
      phones: [
        ...set.phones.filter((phone) => phone.personId !== 'e'),
        outsideNumber('d'),
        outsideNumber('e'),
      ],
      trunks: [trunk(channels)],
      outsideNumbers: [
        { id: 'o', name: 'O', extension: '4001', e164: '+442079460123', trunkId: null, ringSeconds: 9 },
      ],
      rooms: [
        { id: 'r1', name: 'R1', extension: null, pinHash: null, pinLength: 0, joinTone: true },
        { id: 'r2', name: 'R2', extension: null, pinHash: pinHash('r2', '1'), pinLength: 1, joinTone: false },
      ],
      faxBoxes: [{ id: 'f', name: 'F', extension: null }],
      rules: agents.rules,
      campaigns: [campaign('x0', 'q0', x0), campaign('x1', 'q1', { ...x1, running: true })],
    };
  });

/** A move of the outside world: what kind, on whom, and after how many milliseconds. */
const move = fc.record({
  kind: fc.integer({ min: 0, max: 27 }),
  pick: fc.nat({ max: 997 }),
  wait: fc.oneof(
    fc.constant(0),
    fc.integer({ min: 1, max: 9_000 }),
    // Whole seconds, so that timers meet at one instant.
    fc.integer({ min: 1, max: 9 }).map((seconds) => seconds * 1_000),
  ),
});

const day = fc.record({ set: setUp, moves: fc.array(move, { minLength: 5, maxLength: 120 }) });

type Move = { kind: number; pick: number; wait: number };

/** Turns a move into an event that makes sense (mostly) in the present state. */
function bodyFor(
  state: Readonly<State>,
  { kind, pick }: Move,
  count: number,
  set: Configuration,
): ExchangeEventBody {
  const one = people[pick % people.length]!;
  const legsOf = (...parties: string[]) =>
    [...state.calls.values()].flatMap((call) => call.legs.filter((leg) => parties.includes(leg.party)));
  const oneOf = (legs: { id: string }[]) => (legs.length === 0 ? 'none.2' : legs[pick % legs.length]!.id);
  const leg = oneOf(legsOf('agent', 'outside'));
  const contactLeg = oneOf(legsOf('contact'));
  const calls = [...state.calls.keys()];
  switch (kind) {
    case 0:
    case 1:
    case 2:
    case 3:
      return {
        kind: 'callArrived',
        callId: `c${count}`,
        to:
          pick % 7 === 0 ? directNumber : pick % 13 === 0 ? dialled[pick % 4]! : set.numbers[pick % 2]!.e164,
        ...(pick % 13 === 0 ? { fromPhoneId: `${one}.phone` } : {}),
        from: callerNumber,
        priority: pick % 11 === 0 ? 1 : 0,
        ...(pick % 5 === 0 ? { trunkId: 't' } : {}),
        ...(pick % 3 === 0 ? { record: { id: 'r', name: 'R', ownerId: one } } : {}),
      };
    case 4:
    case 5:
      return { kind: 'legAnswered', leg };
    case 6:
      return {
        kind: 'legFailed',
        leg: pick % 2 === 0 ? leg : contactLeg,
        cause: (['declined', 'busy', 'unreachable', 'noAnswer', 'noRoute', 'congestion'] as const)[pick % 6]!,
      };
    case 7:
    case 8:
      return { kind: 'legEnded', leg };
    case 9:
      return { kind: 'callerHungUp', callId: calls.length === 0 ? 'none' : calls[pick % calls.length]! };
    case 10:
    case 11:
      return { kind: 'phoneRegistered', phoneId: `${one}.phone`, address: '192.0.2.1' };
    case 12:
      return { kind: 'phoneUnregistered', phoneId: `${one}.phone`, why: 'expired' };
    case 13:
      return pick % 2 === 0
        ? { kind: 'agentSignedOut', personId: one }
        : { kind: 'agentAway', personId: one, reason: 'break' };
    case 14:
      return pick % 4 === 0
        ? { kind: 'wrapUpEnded', personId: one }
        : { kind: 'agentSignedIn', personId: one };
    case 16:
    case 17:
      return {
        kind: 'contactsLeased',
        campaignId: `x${pick % 2}`,
        contacts: leasable(count, pick, state.now),
        askAgainAt: pick % 5 === 0 ? null : state.now + 5_000,
      };
    case 18:
    case 19:
      return { kind: 'legAnswered', leg: contactLeg };
    case 20:
    case 21:
      return { kind: 'greetingEnded', leg: contactLeg, by: pick % 4 === 0 ? 'machine' : 'person' };
    case 22:
      return { kind: 'legEnded', leg: contactLeg };
    case 23:
      return { kind: 'keyPressed', leg: pick % 4 === 0 ? contactLeg : leg, key: pick % 4 === 0 ? '9' : '1' };
    case 24:
      return pick % 3 === 0
        ? { kind: 'lineClosed', personId: one }
        : { kind: 'lineAsked', callId: `l${count}`, personId: pick % 2 === 0 ? 'e' : 'd' };
    case 25:
      return pick % 2 === 0
        ? { kind: 'optedOut', e164: contacts(1, 1 + (pick % 200))[0]!.e164 }
        : { kind: 'phoneChosen', personId: 'd', phoneId: pick % 3 === 0 ? null : 'd.outside' };
    case 26:
      return {
        kind: 'callTaken',
        callId: calls.length === 0 ? 'none' : calls[pick % calls.length]!,
        phoneId: `${one}.phone`,
      };
    case 27:
      return {
        kind: 'callHandedOver',
        leg,
        to: pick % 3 === 0 ? { kind: 'queue', id: 'q0' } : { kind: 'person', id: one },
      };
    default:
      return pick % 3 === 0 ? changeSetUp(set, pick) : { kind: 'clock' };
  }
}

/** Contacts nobody was given before, some of whom may not be called for long. */
function leasable(count: number, pick: number, now: number) {
  return contacts(pick % 4, 1 + count * 4).map((contact, i) => ({
    ...contact,
    callableUntil: now + (i === 1 ? 3_000 : 86_400_000),
  }));
}

function changeSetUp(set: Configuration, pick: number): ExchangeEventBody {
  if (pick % 2 === 0) {
    const item = set.campaigns[pick % 2]!;
    return {
      kind: 'configurationChanged',
      changes: {
        campaigns: [{ ...item, running: pick % 4 !== 0 }],
        trunks: [{ ...set.trunks[0]!, channels: 5 + (pick % 5) }],
      },
    };
  }
  const item = set.queues[pick % 2]!;
  const turned = [...item.members.slice(1), item.members[0]!];
  return { kind: 'configurationChanged', changes: { queues: [{ ...item, members: turned }] } };
}

interface Played {
  log: ExchangeEvent[];
  handled: Handled[];
  exchange: Exchange;
}

function play(
  set: Configuration,
  moves: Move[],
  look?: (exchange: Exchange, handled: Handled, before: number | null) => void,
): Played {
  const exchange = new Exchange();
  const log: ExchangeEvent[] = [];
  const handled: Handled[] = [];
  let at = 0;
  const take = (body: ExchangeEventBody) => {
    const event = { seq: exchange.seq + 1, at, ...body };
    const before = exchange.nextTimerAt();
    log.push(event);
    const result = exchange.handle(event, 'full');
    handled.push(result);
    look?.(exchange, result, before);
  };
  take({ kind: 'configurationChanged', changes: set });
  for (const id of people.slice(0, 3))
    take({ kind: 'phoneRegistered', phoneId: `${id}.phone`, address: '192.0.2.1' });
  moves.forEach((each, index) => {
    at += each.wait;
    take(bodyFor(exchange.view(), each, index, set));
  });
  return { log, handled, exchange };
}

describe('over random days', () => {
  test('no agent is above their limit or talks on two, no caller waits beside an idle member, counts are right', () => {
    fc.assert(
      fc.property(day, ({ set, moves }) => {
        play(set, moves, (exchange) => expect(brokenInvariants(exchange.view())).toEqual([]));
      }),
      { numRuns: 300 },
    );
  });

  test('every call ends exactly once, and when everybody hangs up none is left', () => {
    fc.assert(
      fc.property(day, ({ set, moves }) => {
        const { handled, exchange, log } = play(set, moves);
        const results = handled.map((each) => each);
        const over = (body: ExchangeEventBody) =>
          results.push(exchange.handle({ seq: exchange.seq + 1, at: exchange.now, ...body }));
        for (const item of set.campaigns)
          over({ kind: 'configurationChanged', changes: { campaigns: [{ ...item, running: false }] } });
        for (const call of [...exchange.view().calls.values()]) {
          if (call.direction === 'inbound' || call.direction === 'dialled')
            over({ kind: 'callerHungUp', callId: call.id });
          else over({ kind: 'legEnded', leg: `${call.id}.1` });
        }
        const begun = results.flatMap((each) =>
          each.effects.flatMap((effect) =>
            effect.kind === 'dial' && effect.leg.endsWith('.1') ? [effect.callId] : [],
          ),
        );
        const arrived = log.filter(
          (event, index) => event.kind === 'callArrived' && handled[index]!.refusal === null,
        );
        const ended = results.flatMap((each) => each.effects.filter((effect) => effect.kind === 'callEnded'));
        expect(ended.map((effect) => effect.facts.callId).sort()).toEqual(
          [...begun, ...arrived.map((event) => (event.kind === 'callArrived' ? event.callId : ''))].sort(),
        );
        expect(exchange.view().calls.size).toBe(0);
      }),
      { numRuns: 200 },
    );
  });

  test('nobody is rung who is not eligible, and who is rung was chosen in a decision record or took the call', () => {
    fc.assert(
      fc.property(day, ({ set, moves }) => {
        play(set, moves, (_exchange, { effects, records }) => {
          const rung = effects.flatMap((effect) => {
            if (effect.kind !== 'ring' && effect.kind !== 'takeLine' && effect.kind !== 'dial') return [];
            const contact = effect.kind === 'dial' && effect.contact !== null;
            return contact || effect.queueId === null ? [] : [effect.callId];
          });
          const decisions = records.filter((record) => record.kind === 'decision' && record.chosen !== null);
          const ofQueues = new Set(rung);
          const taken = records.filter(({ kind, callId }) => kind === 'takenFrom' && ofQueues.has(callId));
          const because = [...decisions, ...taken].map((record) => record.callId);
          expect([...rung].sort()).toEqual(because.sort());
          for (const record of decisions) {
            if (record.kind !== 'decision') continue;
            const chosen = record.candidates.listed.find((each) => each.personId === record.chosen)!;
            expect(chosen.reasons).toEqual([]);
            const free = record.candidates.listed.filter((each) => each.reasons.length === 0);
            expect(free).toHaveLength(record.candidates.eligible);
            if (record.why === 'recordOwner' || record.why === 'keptForThis') continue;
            const better = record.candidates.listed.filter(
              (each) => each.reasons.length === 0 && !each.triedBefore && each.idleSince < chosen.idleSince,
            );
            expect(better).toEqual([]);
          }
        });
      }),
      { numRuns: 200 },
    );
  });

  test('within a priority, callers of a queue are offered first come first served', () => {
    fc.assert(
      fc.property(day, ({ set, moves }) => {
        play(set, moves, (exchange, { effects }) => {
          for (const effect of effects) {
            if (effect.kind !== 'ring' || effect.queueId === null) continue;
            const state = exchange.view();
            const call = state.calls.get(effect.callId);
            const waiting = state.queues.get(effect.queueId)!.waiting.values();
            // Only an offer still on: within one event a call may be offered here, sent on, and ring elsewhere.
            const on = call?.legs.some((leg) => leg.id === effect.leg && leg.state === 'ringing');
            if (call === undefined || on !== true) continue;
            // Only who was already waiting when this call was offered: an offer that failed later came back later.
            const overtaken = waiting.filter(
              (other) =>
                other.priority === call.priority &&
                other.enteredAt < call.enteredAt &&
                other.stageSince < call.stageSince,
            );
            expect(overtaken.map((other) => other.id)).toEqual([]);
          }
        });
      }),
      { numRuns: 1_000 },
    );
  });

  test('no contact is dialled twice, none opted out or out of hours, none beyond the ratio', () => {
    fc.assert(
      fc.property(day, ({ set, moves }) => {
        const { log, handled } = play(set, moves);
        const seen = new Set<string>();
        const optedOut = new Set<string>();
        const until = new Map<string, number>();
        log.forEach((event, index) => {
          const { effects, records } = handled[index]!;
          if (event.kind === 'optedOut') optedOut.add(event.e164);
          if (event.kind === 'contactsLeased')
            for (const contact of event.contacts) until.set(contact.contactId, contact.callableUntil);
          const launched = records.filter((record) => record.kind === 'launched');
          for (const effect of effects) {
            if (effect.kind === 'optOut') optedOut.add(effect.e164);
            if (effect.kind !== 'dial' || effect.contact === null) continue;
            expect(seen.has(effect.contact.id)).toBe(false);
            seen.add(effect.contact.id);
            expect(event.kind !== 'optedOut' && optedOut.has(effect.digits)).toBe(false);
            const record = launched.find((each) => each.callId === effect.callId)!;
            expect(record.at).toBeLessThan(until.get(effect.contact.id)!);
            if (record.kind !== 'launched') continue;
            if (record.pace.keep) expect(record.keptName).not.toBeNull();
            else expect(record.inAir).toBeLessThan(record.pace.ratio * record.free);
          }
        });
      }),
      { numRuns: 300 },
    );
  });

  test('a person who answers has an agent within two seconds, or the call is counted as abandoned', () => {
    fc.assert(
      fc.property(day, ({ set, moves }) => {
        const { handled, exchange } = play(set, moves);
        const ends = new Map(
          handled.flatMap((each) =>
            each.effects.flatMap((effect) =>
              effect.kind === 'callEnded' ? [[effect.facts.callId, effect.facts.result] as const] : [],
            ),
          ),
        );
        const records = handled.flatMap((each) => each.records);
        const counted = new Map<string, number>();
        for (const record of records) {
          if (record.kind === 'noAgentInTime') {
            expect(record.afterMs).toBe(2_000);
            expect(['abandoned', undefined]).toContain(ends.get(record.callId));
            counted.set(record.callId, (counted.get(record.callId) ?? 0) + 1);
          }
          const call = records.find((each) => each.kind === 'greeted' && each.callId === record.callId);
          if (record.kind === 'answered' && call !== undefined)
            expect(record.waitedMs).toBeLessThanOrEqual(2_000);
        }
        expect([...counted.values()].every((times) => times === 1)).toBe(true);
        const tallied = [...exchange.view().campaigns.values()].flatMap((each) => each.tallies);
        expect(tallied.reduce((sum, tally) => sum + tally.abandoned, 0)).toBe(counted.size);
      }),
      { numRuns: 300 },
    );
  });

  test('timers never fire early: nothing is recorded between events but at a due instant', () => {
    fc.assert(
      fc.property(day, ({ set, moves }) => {
        let last = 0;
        play(set, moves, (exchange, { records }, due) => {
          for (const record of records) {
            expect(record.at).toBeGreaterThanOrEqual(last);
            if (record.at < exchange.now) expect(record.at).toBeGreaterThanOrEqual(due!);
          }
          last = exchange.now;
        });
      }),
      { numRuns: 200 },
    );
  });

  test('the same events give the same effects and records, whatever the level of detail', () => {
    fc.assert(
      fc.property(day, ({ set, moves }) => {
        const { log, handled, exchange } = play(set, moves);
        const again = new Exchange();
        const silent = new Exchange();
        log.forEach((event, index) => {
          expect(JSON.stringify(again.handle(event, 'full'))).toBe(JSON.stringify(handled[index]));
          expect(JSON.stringify(silent.handle(event, 'none').effects)).toBe(
            JSON.stringify(handled[index]!.effects),
          );
        });
        expect(JSON.stringify(again.snapshot())).toBe(JSON.stringify(exchange.snapshot()));
        expect(JSON.stringify(silent.snapshot())).toBe(JSON.stringify(exchange.snapshot()));
      }),
      { numRuns: 100 },
    );
  });

  test('a restart from a snapshot at any point, through JSON, goes on as if nothing had happened', () => {
    fc.assert(
      fc.property(day, fc.nat(), ({ set, moves }, at) => {
        const { log, exchange } = play(set, moves);
        const cut = 1 + (at % log.length);
        const first = new Exchange();
        for (const event of log.slice(0, cut)) first.handle(event);
        const second = Exchange.restore(JSON.parse(JSON.stringify(first.snapshot())));
        for (const event of log.slice(cut)) second.handle(event);
        expect(JSON.stringify(second.snapshot())).toBe(JSON.stringify(exchange.snapshot()));
        expect(brokenInvariants(second.view())).toEqual([]);
      }),
      { numRuns: 200 },
    );
  });
});
