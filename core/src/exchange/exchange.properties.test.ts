import { consultedIn } from './calls/resting.ts';
import fc from 'fast-check';
import type { Candidate } from '../distribute/candidates.ts';
import type { DistributionKind } from '../model/distribution.ts';
import { describe, expect, test } from 'vitest';
import { Exchange } from './exchange.ts';
import type { ExchangeEventBody } from './kernel/events.ts';
import { brokenInvariants } from './snapshot.ts';
import { day, play, waitingDay } from './random-days.testing.ts';

/** Whether a definition that compares two says that `one` is rung before `other`; ties are of no matter here. */
function comesBefore(distribution: DistributionKind, one: Candidate, other: Candidate): boolean {
  // Who is wholly free comes before who talks already.
  const idle = ({ state, idleSince }: Candidate) => [state === 'talking' ? 1 : 0, idleSince];
  const keys: Partial<Record<DistributionKind, (of: Candidate) => number[]>> = {
    longestIdle: idle,
    allAtOnce: idle,
    fewestCalls: ({ answeredToday }) => [answeredToday!],
    bestSkill: (of) => [...of.levels!.map((level) => -level), ...idle(of)],
  };
  const key = keys[distribution];
  if (key === undefined) return false;
  const differs = key(one).findIndex((value, i) => value !== key(other)[i]);
  return differs >= 0 && key(one)[differs]! < key(other)[differs]!;
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
        // Who is to be called back is on no line that could be hung up: their queue is taken out, and what rings for them,
        // an agent's phone or their own, is not lifted.
        const promised = [...exchange.view().calls.values()];
        const queues = promised.flatMap(({ queue }) => queue?.item.id ?? []);
        if (queues.length > 0)
          over({ kind: 'configurationChanged', changes: { gone: [...new Set(queues)] } });
        for (const { legs } of promised)
          for (const { id, state } of [...legs])
            if (state === 'ringing') over({ kind: 'legFailed', leg: id, cause: 'unreachable' });
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

  test('nobody is rung who is not eligible, and who is rung was chosen in a decision record, or by a colleague', () => {
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
          const byHand = records.filter(
            ({ kind, callId }) =>
              (kind === 'pickedUp' || kind === 'consultationBegun') && ofQueues.has(callId),
          );
          // Where all are rung at once, an open line may take the call before the last of them is.
          const atMost = [...decisions, ...byHand].flatMap((record) =>
            Array<string>(record.kind === 'decision' ? Math.max(1, record.together!.length) : 1).fill(
              record.callId,
            ),
          );
          const times = (list: string[], callId: string) => list.filter((each) => each === callId).length;
          for (const callId of new Set([...rung, ...atMost])) {
            const least = [...decisions, ...byHand].filter((record) => record.callId === callId).length;
            expect(times(rung, callId)).toBeGreaterThanOrEqual(least);
            expect(times(rung, callId)).toBeLessThanOrEqual(times(atMost, callId));
          }
          for (const record of decisions) {
            if (record.kind !== 'decision') continue;
            const chosen = record.candidates.listed.find((each) => each.personId === record.chosen)!;
            expect(chosen.reasons).toEqual([]);
            const free = record.candidates.listed.filter((each) => each.reasons.length === 0);
            expect(free).toHaveLength(record.candidates.eligible);
            if (record.why === 'recordOwner' || record.why === 'reservedForThis') continue;
            const untried = free.filter((each) => !each.triedBefore && each.turn === chosen.turn);
            expect(free.filter((each) => each.turn! < chosen.turn!)).toEqual([]);
            expect(chosen.triedBefore && untried.length > 0).toBe(false);
            expect(untried.filter((each) => comesBefore(record.distribution!, each, chosen))).toEqual([]);
            for (const { personId } of record.together!)
              expect(free.find((each) => each.personId === personId)).toMatchObject({ turn: chosen.turn });
          }
        });
      }),
      { numRuns: 200 },
    );
  });

  test('who waits, on the line or to be called back, is counted and placed rightly, also after a restart', () => {
    const seen = { promised: 0, kept: 0 };
    fc.assert(
      fc.property(waitingDay, fc.nat(), ({ set, moves }, at) => {
        const { log, handled, exchange } = play(set, moves, (each) =>
          expect(brokenInvariants(each.view())).toEqual([]),
        );
        for (const { records } of handled)
          for (const { kind } of records) {
            if (kind === 'callBackPromised') seen.promised++;
            if (kind === 'calledBack') seen.kept++;
          }
        const cut = 1 + (at % log.length);
        const first = new Exchange();
        for (const event of log.slice(0, cut)) first.handle(event);
        const second = Exchange.restore(JSON.parse(JSON.stringify(first.snapshot())));
        for (const event of log.slice(cut)) second.handle(event);
        expect(JSON.stringify(second.snapshot())).toBe(JSON.stringify(exchange.snapshot()));
      }),
      { numRuns: 150 },
    );
    // Days on which nobody is called back would prove nothing of it.
    expect(seen.promised).toBeGreaterThan(20);
    expect(seen.kept).toBeGreaterThan(2);
  });

  test('one caller has one call-back, and is called only for who took their turn', () => {
    fc.assert(
      fc.property(waitingDay, ({ set, moves }) => {
        play(set, moves, (exchange) => {
          const calls = [...exchange.view().calls.values()];
          const promised = calls.flatMap(({ callBack }) => (callBack === null ? [] : [callBack.to]));
          expect(new Set(promised).size).toBe(promised.length);
          for (const { activity, talkingAgent, queue } of calls)
            if (activity.kind === 'callingBack')
              expect(talkingAgent === null).toBe(queue!.item.callBack!.first === 'caller');
        });
      }),
      { numRuns: 60 },
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
            const waiting = [...state.queues.get(effect.queueId)!.waitingList.values()];
            // Only an offer still on: within one event a call may be offered here, sent on, and ring elsewhere.
            const on = call?.legs.some((leg) => leg.id === effect.leg && leg.state === 'ringing');
            // Contacts who answered come before callers, and a colleague is told of a caller out of turn.
            if (on !== true || call?.direction !== 'inbound' || consultedIn(call) !== null) continue;
            // Only who was already waiting when this call was offered: an offer that failed later came back later.
            const overtaken = waiting.filter(
              (other) =>
                other.priority === call.priority &&
                other.enteredAt < call.enteredAt &&
                other.activity.since < call.activity.since,
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
            if (record.pace.reserve) expect(record.reservedName).not.toBeNull();
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

  test('an overlay goes on as a plain fork does, and what it stands on is not touched', () => {
    fc.assert(
      fc.property(day, fc.nat(), ({ set, moves }, at) => {
        const { log } = play(set, moves);
        const cut = 1 + (at % log.length);
        const first = new Exchange();
        for (const event of log.slice(0, cut)) first.handle(event);
        const before = JSON.stringify(first.snapshot());
        const fork = first.fork();
        const overlay = first.overlay();
        for (const event of log.slice(cut))
          expect(JSON.stringify(overlay.handle(event, 'full'))).toBe(
            JSON.stringify(fork.handle(event, 'full')),
          );
        expect(JSON.stringify(overlay.snapshot())).toBe(JSON.stringify(fork.snapshot()));
        expect(brokenInvariants(overlay.view())).toEqual([]);
        expect(JSON.stringify(first.snapshot())).toBe(before);
      }),
      { numRuns: 80 },
    );
  });
});
