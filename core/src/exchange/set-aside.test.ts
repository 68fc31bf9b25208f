import { describe, expect, test } from 'vitest';
import { Exchange } from './exchange.ts';
import type { ExchangeEventBody } from './kernel/events.ts';
import { ExchangeFault, callOf } from './set-aside.ts';
import { brokenInvariants } from './snapshot.ts';
import {
  Bench,
  callerNumber,
  campaign,
  configuration,
  mainNumber,
  outsideNumber,
  person,
  queue,
  trunk,
} from './exchange.testing.ts';

const two = configuration([person('a'), person('b')], [queue('q', ['a', 'b'])]);
const lost = (callIds: string[], personIds: string[] = []): ExchangeEventBody => ({
  ...{ kind: 'setAside', what: 'callerHungUp', callIds, personIds },
});

/** a talks with c1, c2 rings at b, c3 waits. */
function busy(): Bench {
  const bench = new Bench(two);
  bench.register(0, 'a', 'b');
  bench.call(1);
  bench.at(2, { kind: 'legAnswered', leg: bench.lastLeg() });
  bench.call(3);
  bench.call(4);
  return bench;
}

/** Has whatever asks this call what it rests in throw, as a fault in the engine would. */
function poison(exchange: Exchange, callId: string): void {
  Object.defineProperty(exchange.view().calls.get(callId)!, 'activity', {
    get: () => {
      throw new Error('poison');
    },
  });
}

function faultOf(work: () => unknown): ExchangeFault {
  try {
    work();
  } catch (error) {
    return error as ExchangeFault;
  }
  throw new Error('nothing was thrown');
}

describe('a fault', () => {
  test('names the event and its call', () => {
    const bench = busy();
    poison(bench.exchange, 'c1');
    const fault = faultOf(() => bench.at(9, { kind: 'callerHungUp', callId: 'c1' }));
    expect(fault).toBeInstanceOf(ExchangeFault);
    expect(fault.named).toEqual({ callIds: ['c1'], personIds: [] });
    expect(fault.event).toMatchObject({ kind: 'callerHungUp', at: 9_000 });
    expect(String(fault.cause)).toContain('poison');
  });

  test('in a timer names whose timer it was, not the event that brought the time', () => {
    const bench = busy();
    poison(bench.exchange, 'c2');
    expect(faultOf(() => bench.at(60, { kind: 'clock' })).named).toEqual({ callIds: ['c2'], personIds: [] });
    const wrapping = busy();
    wrapping.at(5, { kind: 'callerHungUp', callId: 'c1' });
    Object.defineProperty(wrapping.exchange.view().agents.get('a')!, 'wrapUpUntil', {
      set: () => {
        throw new Error('poison');
      },
    });
    expect(faultOf(() => wrapping.at(15, { kind: 'clock' })).named.personIds).toEqual(['a']);
  });

  test.each<[ExchangeEventBody, string | null]>([
    [{ kind: 'callerHungUp', callId: 'c1' }, 'c1'],
    [{ kind: 'legEnded', leg: '0198-a.12' }, '0198-a'],
    [{ kind: 'clock' }, null],
  ])('%j is about call %s', (event, callId) => expect(callOf(event)).toBe(callId));
});

describe('what is set aside', () => {
  test('ends the call as lost, with its facts, frees its agent, and serves who waits', () => {
    const bench = busy();
    bench.at(62, lost(['c1']));
    const [facts] = bench.ended().filter((each) => each.callId === 'c1');
    expect(facts).toMatchObject({ result: 'lost', endedBy: 'exchange', personId: 'a', from: callerNumber });
    // Engine time is that of the first timer due: c2 rang out at b.
    expect(facts!.endedAt).toBe(18_000);
    expect(facts!.talkedMs).toBe(16_000);
    expect(bench.effectsOf('release').map((effect) => effect.leg)).toEqual(
      expect.arrayContaining(['c1.1', 'c1.2']),
    );
    expect(bench.rung().slice(2)).toContain('a');
    expect(brokenInvariants(bench.exchange.view())).toEqual([]);
  });

  test('goes on when the broken call is left out, and the same on every server', () => {
    const bench = busy();
    const snapshot = JSON.parse(JSON.stringify(bench.exchange.snapshot())) as ReturnType<
      Exchange['snapshot']
    >;
    poison(bench.exchange, 'c2');
    const fault = faultOf(() => bench.at(60, { kind: 'clock' }));
    const event = { ...lost(fault.named.callIds), seq: fault.event.seq, at: fault.event.at } as never;
    const [one, other] = [Exchange.restore(snapshot), Exchange.restore(snapshot)].map((exchange) => {
      const handled = exchange.handle(event, 'full');
      return JSON.stringify([handled, exchange.snapshot()]);
    });
    expect(one).toBe(other);
    const after = Exchange.restore(snapshot);
    after.handle(event);
    expect([...after.view().calls.keys()]).toEqual(['c1', 'c3']);
    expect(brokenInvariants(after.view())).toEqual([]);
  });

  test('ends the timers of the people named, and theirs only', () => {
    const bench = busy();
    bench.at(5, { kind: 'callerHungUp', callId: 'c1' });
    expect(bench.exchange.view().agents.get('a')!.wrapUpUntil).toBeGreaterThan(0);
    bench.at(6, lost([], ['b']));
    expect(bench.exchange.view().agents.get('a')!.wrapUpUntil).toBe(15_000);
    bench.at(7, lost([], ['a']));
    expect(bench.exchange.view().agents.get('a')!.wrapUpUntil).toBe(0);
    // Free now, so who waits is served.
    expect(bench.exchange.view().calls.get('c3')!.activity.kind).toBe('offered');
  });

  test('takes with it what an open line carries, and gives the channels back', () => {
    const bench = new Bench({
      ...configuration([person('e')], [queue('q', ['e'])]),
      phones: [outsideNumber('e')],
      trunks: [trunk(3)],
      campaigns: [campaign('x', 'q')],
    });
    bench.at(1, { kind: 'agentSignedIn', personId: 'e' });
    bench.at(2, { kind: 'persistentLineAsked', callId: 'line', personId: 'e' });
    bench.at(3, { kind: 'legAnswered', leg: 'line.1' });
    bench.at(4, { kind: 'keyPressed', leg: 'line.1', key: '1' });
    bench.at(5, { kind: 'callArrived', callId: 'over', to: mainNumber, from: callerNumber, trunkId: 't' });
    bench.at(7, lost(['line']));
    const state = bench.exchange.view();
    expect(state.agents.get('e')!.persistentLine).toBeNull();
    expect(brokenInvariants(state)).toEqual([]);
    expect(bench.ended().map(({ callId, result }) => [callId, result])).toContainEqual(['line', 'lost']);
    const channels = [...state.calls.values()].flatMap((call) =>
      call.legs.filter((leg) => leg.trunkId !== null),
    );
    expect(state.trunks.get('t')!.inUse).toBe(channels.length);
  });

  test('a call that is gone already is no matter', () => {
    const bench = busy();
    expect(bench.at(5, lost(['nobody'], ['nobody'])).refusal).toBeNull();
    expect(bench.exchange.view().calls.size).toBe(3);
  });
});
