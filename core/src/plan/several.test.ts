import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  anythingGoes,
  Bench,
  configuration,
  outsideNumber,
  person,
  queue,
  unroutedNumber,
} from '../exchange/exchange.testing.ts';
import { Exchange } from '../exchange/exchange.ts';
import { brokenInvariants } from '../exchange/snapshot.ts';
import type { CompiledPlan, CompiledStep, PlanItem } from '../model/plan.ts';
import { ropeSteps } from '../story/describe.ts';
import { type RingSettings } from '../model/ring.ts';
import { turnsOf } from './ring.ts';

const step = (
  kind: CompiledStep['kind'],
  config: object,
  exits: Record<string, string> = {},
): CompiledStep => ({
  ...{ kind, exits },
  config: config as Record<string, unknown>,
});
const plan = (id: string, steps: Record<string, CompiledStep>): PlanItem => ({
  ...{ id, name: `Plan ${id}`, version: 1, start: Object.keys(steps)[0]!, fallback: { kind: 'end' } },
  steps,
});
const to = (id: string) => ({ kind: 'person', id, seconds: 10 });

/** Persons a, b and c are registered; b and c are of team t. */
function bench(own: CompiledPlan, plans: PlanItem[] = []): Bench {
  const base = configuration(
    [person('a'), person('b', { teamId: 't' }), person('c', { teamId: 't' })],
    [queue('q', ['a', 'b'])],
  );
  const day = new Bench({
    ...base,
    ...{ plans, rules: [anythingGoes] },
    outsideNumbers: [
      { id: 'o', name: 'Porter', extension: null, e164: '+14255550123', trunkId: null, ringSeconds: 30 },
    ],
    numbers: base.numbers.map((number) =>
      number.e164 === unroutedNumber ? { ...number, plan: own } : number,
    ),
  });
  day.register(0, 'a', 'b', 'c');
  for (const id of ['a', 'b', 'c']) day.at(0, { kind: 'agentSignedIn', personId: id });
  return day;
}
const several = (settings: object) =>
  plan('own', {
    s1: step('ringSeveral', { order: 'allAtOnce', rounds: 1, ...settings }, { notTaken: 's2' }),
    s2: step('voicemail', { boxId: 'a.box' }),
  });

describe('several who ring at once', () => {
  test('the first who lifts has the call, the others stop', () => {
    const day = bench(several({ targets: [to('a'), { kind: 'team', id: 't', seconds: 10 }] }));
    day.call(1, unroutedNumber);
    expect(day.rung().sort()).toEqual(['a', 'b', 'c']);
    const leg = day.effectsOf('ring').find(({ personId }) => personId === 'b')!.leg;
    day.at(4, { kind: 'legAnswered', leg });
    expect(day.effectsOf('stopRinging').map(({ why }) => why)).toEqual(['takenElsewhere', 'takenElsewhere']);
    expect(day.exchange.view().calls.get('c1')!.talkingAgent?.person.id).toBe('b');
    expect(brokenInvariants(day.exchange.view())).toEqual([]);
  });

  test('each rings as long as is set for them; when the last has rung, the way for nobody is taken', () => {
    const day = bench(several({ targets: [{ ...to('a'), seconds: 5 }, to('b')] }));
    day.call(1, unroutedNumber);
    day.at(7, { kind: 'clock' });
    expect(day.effectsOf('stopRinging')).toHaveLength(1);
    expect(day.effectsOf('record')).toEqual([]);
    day.at(12, { kind: 'clock' });
    expect(day.effectsOf('record')).toHaveLength(1);
    // Nobody rests for a call of the house.
    expect([...day.exchange.view().agents.values()].every(({ backOffUntil }) => backOffUntil === 0)).toBe(
      true,
    );
  });

  test('who is twice among them rings once; who cannot be rung is named with the reason', () => {
    const day = bench(several({ targets: [to('b'), { kind: 'team', id: 't', seconds: 20 }] }));
    day.at(1, { kind: 'phoneUnregistered', phoneId: 'c.phone', why: 'gone' });
    day.call(2, unroutedNumber);
    expect(day.rung()).toEqual(['b']);
    expect(day.recordsOf('ringsSeveral')).toMatchObject([
      { rung: [{ name: 'Person b', seconds: 10 }], not: [{ name: 'Person c' }] },
    ]);
    expect(ropeSteps(day.records)[1]).toMatchObject({ title: 'Rang Person b' });
  });
});

describe('several who ring in turn', () => {
  test('go round as often as is set, outside numbers among them', () => {
    const day = bench(
      several({ targets: [to('a'), { kind: 'outside', id: 'o', seconds: 6 }], order: 'inTurn', rounds: 2 }),
    );
    day.call(1, unroutedNumber);
    day.at(12, { kind: 'clock' });
    expect(day.effectsOf('dial')).toMatchObject([{ party: 'outside', ringSeconds: 6 }]);
    day.at(19, { kind: 'clock' });
    expect(day.rung()).toEqual(['a', 'a']);
    day.at(60, { kind: 'clock' });
    expect(day.effectsOf('dial')).toHaveLength(2);
    expect(day.effectsOf('record')).toHaveLength(1);
    expect(day.recordsOf('ringsSeveral').map(({ round }) => round)).toEqual([1, 2]);
  });

  test('go on where they were after a restart', () => {
    const day = bench(several({ targets: [to('a'), to('b')], order: 'inTurn' }));
    day.call(1, unroutedNumber);
    const again = Exchange.restore(JSON.parse(JSON.stringify(day.exchange.snapshot())));
    const { effects } = again.handle({ seq: again.seq + 1, at: 12_000, kind: 'clock' });
    expect(effects.filter(({ kind }) => kind === 'ring')).toMatchObject([{ personId: 'b' }]);
  });

  test('a turn in which nobody can be rung is passed over, and with nobody at all the way for nobody is taken at once', () => {
    const day = bench(several({ targets: [to('a'), to('b')], order: 'inTurn', rounds: 3 }));
    day.at(1, { kind: 'phoneUnregistered', phoneId: 'a.phone', why: 'gone' });
    day.call(2, unroutedNumber);
    expect(day.rung()).toEqual(['b']);
    const empty = bench(several({ targets: [], rounds: 5 }));
    empty.call(1, unroutedNumber);
    expect(empty.effectsOf('record')).toHaveLength(1);
  });
});

test('turns hold every target once, outside numbers alone and last', () => {
  const target = fc.record({
    kind: fc.constantFrom('person', 'team', 'outside'),
    id: fc.string({ minLength: 1, maxLength: 4 }),
    seconds: fc.integer({ min: 3, max: 120 }),
  });
  const settings = fc.record({
    targets: fc.array(target, { maxLength: 8 }),
    order: fc.constantFrom('allAtOnce', 'inTurn'),
  });
  fc.assert(
    fc.property(settings, (given) => {
      const { targets, order } = given as Omit<RingSettings, 'rounds'>;
      const turns = turnsOf({ targets, order });
      expect(turns.flat()).toHaveLength(targets.length);
      expect(turns.every((turn) => turn.length > 0)).toBe(true);
      for (const turn of turns) if (turn.some(({ kind }) => kind === 'outside')) expect(turn).toHaveLength(1);
      if (order === 'allAtOnce') {
        const firstOutside = turns.findIndex(([first]) => first!.kind === 'outside');
        expect(turns.slice(0, firstOutside < 0 ? turns.length : firstOutside).length).toBeLessThanOrEqual(1);
      }
    }),
  );
});

describe('a plan that another goes to', () => {
  const aside = plan('aside', {
    a1: step('say', { promptId: 'p', againKey: null }, { next: 'a2' }),
    a2: step('comeBack', {}),
  });
  const own = plan('own', {
    s1: step('plan', { planId: 'aside' }, { returned: 's2' }),
    s2: step('queue', { queueId: 'q', priority: 7 }),
  });

  test('returns behind the step that went there', () => {
    const day = bench(own, [aside]);
    day.at(0, {
      kind: 'configurationChanged',
      changes: { prompts: [{ id: 'p', name: 'Aside', seconds: 3, words: 'Aside.' }] },
    });
    day.call(1, unroutedNumber);
    expect(day.exchange.view().calls.get('c1')!.route).toHaveLength(2);
    day.at(5, { kind: 'clock' });
    expect(day.recordsOf('enteredQueue')).toHaveLength(1);
    expect(day.exchange.view().calls.get('c1')).toMatchObject({ priority: 7 });
    expect(day.exchange.view().calls.get('c1')!.route).toHaveLength(1);
  });

  test('returns nowhere when a number leads straight to it', () => {
    const day = bench(plan('own', { s1: step('comeBack', {}) }));
    day.call(1, unroutedNumber);
    expect(day.effectsOf('callEnded')[0]?.facts.result).toBe('turnedAway');
  });

  test('deeper and deeper is bounded, and circles end', () => {
    const deep = plan('deep', { d1: step('plan', { planId: 'deep' }) });
    const day = bench(plan('own', { s1: step('plan', { planId: 'deep' }) }), [deep]);
    day.call(1, unroutedNumber);
    expect(day.recordsOf('tooManySteps').length).toBeGreaterThan(0);
    expect(day.effectsOf('callEnded')).toHaveLength(1);
  });
});

describe('a number outside', () => {
  const out = plan('own', {
    s1: step('outside', { outsideId: 'o' }, { notReached: 's2' }),
    s2: step('voicemail', { boxId: 'a.box' }),
  });

  test('that sends calls back to us is left alone after three of one caller', () => {
    const day = bench(out);
    for (let i = 0; i < 4; i++) day.call(1 + i, unroutedNumber);
    expect(day.effectsOf('dial')).toHaveLength(3);
    expect(day.recordsOf('forwardLoop')).toMatchObject([{ callId: 'c4', name: 'Porter' }]);
    expect(day.effectsOf('forwardLoop')).toEqual([{ kind: 'forwardLoop', callId: 'c4', outsideId: 'o' }]);
    expect(day.effectsOf('record')).toMatchObject([{ callId: 'c4' }]);
    // Another caller has nothing to do with it.
    day.at(9, { kind: 'callArrived', callId: 'x', to: unroutedNumber, from: '+15035550199' });
    expect(day.effectsOf('dial')).toHaveLength(4);
  });

  test('of a person says which number they are called for before it asks for the key', () => {
    const base = configuration([person('d')], [queue('q', ['d'])]);
    const day = new Bench({ ...base, phones: [outsideNumber('d')], rules: [anythingGoes] });
    day.at(0, { kind: 'agentSignedIn', personId: 'd' });
    day.call(1);
    day.at(3, { kind: 'legAnswered', leg: day.effectsOf('dial')[0]!.leg });
    expect(day.effectsOf('play')).toContainEqual(
      expect.objectContaining({ prompt: 'acceptCall', about: 'Queue q' }),
    );
  });
});
