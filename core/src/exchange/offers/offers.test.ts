import { describe, expect, test } from 'vitest';
import { Exchange } from '../exchange.ts';
import { Bench, configuration, person, queue } from '../exchange.testing.ts';
import type { State } from '../kernel/state.ts';
import { countOffer, leaveList } from '../queues/place.ts';
import { brokenInvariants } from '../snapshot.ts';
import { offerTo } from './ringing.ts';

/** Caller c1 is offered to a, b and c at once, for 15 s from 0:10 on. */
function offered(): { bench: Bench; state: State } {
  const people = ['a', 'b', 'c'];
  const bench = new Bench(
    configuration(
      people.map((id) => person(id)),
      [queue('q', people)],
    ),
  );
  bench.register(0, ...people);
  for (const personId of people) bench.at(1, { kind: 'agentAway', personId, reason: 'lunch' });
  bench.call(9);
  bench.at(10, { kind: 'clock' });
  const state = bench.exchange.view() as State;
  const call = state.calls.get('c1')!;
  leaveList(state, call);
  countOffer(call);
  offerTo(
    state,
    call,
    people.map((id) => state.agents.get(id)!),
    15,
    { mode: 'all' },
  );
  return { bench, state };
}

const ringing = ({ agents }: State) =>
  [...agents.values()].flatMap((agent) => (agent.ringing === null ? [] : [agent.person.id]));

describe('a call offered to several at once', () => {
  test('rings all of them, and nothing is broken; so also after a restart', () => {
    const { bench, state } = offered();
    expect(ringing(state)).toEqual(['a', 'b', 'c']);
    expect(brokenInvariants(state)).toEqual([]);
    const again = Exchange.restore(JSON.parse(JSON.stringify(bench.exchange.snapshot())));
    expect(ringing(again.view() as State)).toEqual(['a', 'b', 'c']);
    expect(brokenInvariants(again.view())).toEqual([]);
    expect(again.nextTimerAt()).toBe(25_000);
  });

  test('is of the first who lifts; the others stop, and nobody backs off or counts a miss', () => {
    const { bench, state } = offered();
    const { effects } = bench.at(14, { kind: 'legAnswered', leg: 'c1.3' });
    expect(effects.filter(({ kind }) => kind === 'stopRinging')).toMatchObject([
      { leg: 'c1.2', why: 'takenElsewhere' },
      { leg: 'c1.4', why: 'takenElsewhere' },
    ]);
    expect(state.calls.get('c1')).toMatchObject({
      activity: { kind: 'bridged' },
      talkingAgent: { person: { id: 'b' } },
    });
    expect(ringing(state)).toEqual([]);
    for (const agent of state.agents.values()) expect([agent.misses, agent.backOffUntil]).toEqual([0, 0]);
    expect(bench.at(14, { kind: 'legAnswered', leg: 'c1.2' }).refusal).toBe('unknownLeg');
    expect(brokenInvariants(state)).toEqual([]);
  });

  test('rings on at the others when one says no, and waits again when nobody is left', () => {
    const { bench, state } = offered();
    bench.at(12, { kind: 'legFailed', leg: 'c1.2', cause: 'declined' });
    expect(ringing(state)).toEqual(['b', 'c']);
    expect(brokenInvariants(state)).toEqual([]);
    bench.at(25, { kind: 'clock' });
    expect(ringing(state)).toEqual([]);
    expect(state.calls.get('c1')!.activity.kind).toBe('waiting');
    for (const agent of state.agents.values()) expect([agent.misses, agent.backOffUntil]).toEqual([0, 0]);
    expect(bench.recordsOf('notTaken').map(({ personId, reason }) => [personId, reason])).toEqual([
      ['a', 'declined'],
    ]);
    expect(bench.recordsOf('noneLifted')).toMatchObject([{ count: 2, rangMs: 15_000 }]);
    expect(brokenInvariants(state)).toEqual([]);
  });

  test('lets everybody go when the caller hangs up', () => {
    const { bench, state } = offered();
    const { effects } = bench.at(13, { kind: 'callerHungUp', callId: 'c1' });
    expect(effects.filter(({ kind }) => kind === 'stopRinging')).toHaveLength(3);
    expect(ringing(state)).toEqual([]);
    expect(state.queues.get('q')!.offering).toBe(0);
    expect(brokenInvariants(state)).toEqual([]);
  });
});
