import { describe, expect, test } from 'vitest';
import type { CallBackRules } from '../../model/call-back.ts';
import { ropeSteps } from '../../story/describe.ts';
import {
  anythingGoes,
  Bench,
  callerNumber,
  configuration,
  mainNumber,
  person,
  queue,
  trunk,
} from '../exchange.testing.ts';
import { Exchange } from '../exchange.ts';
import type { State } from '../kernel/state.ts';
import { brokenInvariants } from '../snapshot.ts';

const rules: CallBackRules = {
  ...{ key: '5', offerAfterSeconds: null, first: 'agent', tries: 2, retryMinutes: 10 },
  ...{ fromHour: 0, toHour: 24 },
};

/** One agent, away from the beginning, and a queue that calls back. */
function bench(change: Partial<CallBackRules> = {}, people = ['a']): Bench {
  const set = configuration(
    people.map((id) => person(id)),
    [queue('q', people, { wrapUpSeconds: 0, callBack: { ...rules, ...change } })],
  );
  const of = new Bench({ ...set, trunks: [trunk(5)], rules: [anythingGoes] });
  of.register(0, ...people);
  for (const personId of people) of.at(1, { kind: 'agentAway', personId, reason: 'lunch' });
  return of;
}
const state = ({ exchange }: Bench) => exchange.view() as State;
const key = (of: Bench, at: number, call: string, pressed: string) =>
  of.at(at, { kind: 'keyPressed', leg: `${call}.1`, key: pressed }).refusal;
const comes = (of: Bench, at: number, personId = 'a') => of.at(at, { kind: 'agentSignedIn', personId });
/** A caller asks to be called back and confirms it. */
function promised(of: Bench, at: number, from = callerNumber): string {
  const call = of.call(at, mainNumber, 0, from);
  key(of, at + 1, call, '5');
  key(of, at + 2, call, '1');
  return call;
}
const dialled = (of: Bench) => of.effectsOf('dial').map(({ leg, digits }) => `${leg} ${digits}`);
const titles = (of: Bench, call: string) =>
  ropeSteps(of.records.filter(({ callId }) => callId === call)).map(({ title }) => title);
const sound = (of: Bench) => expect(brokenInvariants(of.exchange.view())).toEqual([]);

describe('asking to be called back', () => {
  test('the number is told and confirmed; the line is free, the place is kept', () => {
    const of = bench();
    const first = of.call(2);
    expect(key(of, 5, first, '5')).toBeNull();
    expect(of.effectsOf('say').at(-1)!.words).toContain('on 1 3 6 0 5 5 5 0 1 1 7');
    expect(state(of).calls.get(first)!.callBack).toBeNull();
    expect(key(of, 8, first, '1')).toBeNull();
    expect(of.effectsOf('release').map(({ leg }) => leg)).toEqual([`${first}.1`]);
    const second = of.call(20, mainNumber, 0, '+13605550118');
    comes(of, 60);
    // Who waits on the line came later.
    expect(of.effectsOf('ring').map(({ callId }) => callId)).toEqual([first]);
    expect(second).toBe('c2');
    sound(of);
  });

  test('a key that comes too late, or alone, confirms nothing', () => {
    const of = bench();
    const call = of.call(2);
    expect(key(of, 3, call, '1')).toBe('notExpected');
    key(of, 4, call, '5');
    expect(key(of, 90, call, '1')).toBe('notExpected');
    expect(state(of).calls.get(call)!.legs).toHaveLength(1);
  });

  test('nobody is called who withholds their number, opted out, or is to be called already', () => {
    const of = bench();
    of.at(1, { kind: 'optedOut', e164: '+13605550119' });
    promised(of, 2);
    for (const [at, from, why] of [
      [10, '', 'withheld'],
      [20, '+13605550119', 'optedOut'],
      [30, callerNumber, 'already'],
    ] as const) {
      const call = of.call(at, mainNumber, 0, from);
      key(of, at + 1, call, '5');
      expect(of.recordsOf('callBackRefused').at(-1)!.why).toBe(why);
      expect(key(of, at + 2, call, '1')).toBe('notExpected');
      expect(state(of).calls.get(call)!.activity.kind).toBe('waiting');
    }
  });

  test('it is offered once the wait is long, and at once where it will be', () => {
    const of = bench({ offerAfterSeconds: 60 });
    of.call(2);
    of.at(61, { kind: 'clock' });
    expect(of.effectsOf('say')).toEqual([]);
    of.at(62, { kind: 'clock' });
    expect(of.effectsOf('say').map(({ words, keys }) => [words.includes('Press 5'), keys])).toEqual([
      [true, ['5']],
    ]);
    comes(of, 70);
    of.at(71, { kind: 'legAnswered', leg: of.lastLeg() });
    state(of).queues.get('q')!.measured = {
      ...{ handled: 40, handledMs: 40 * 120_000, waited: 40, waitedMs: 0, abandoned: 0 },
    };
    of.call(80, mainNumber, 0, '+13605550118');
    expect(of.recordsOf('callBackOffered').map(({ callId }) => callId)).toEqual(['c1', 'c2']);
  });
});

describe('keeping it', () => {
  test('the agent first: they hear it ring, and talk; one story in two parts', () => {
    const of = bench();
    const call = promised(of, 2);
    comes(of, 60);
    of.at(63, { kind: 'legAnswered', leg: of.lastLeg() });
    expect(dialled(of)).toEqual([`${call}.3 +13605550117`]);
    expect(of.effectsOf('dial')[0]!.callerId).toBe(mainNumber);
    expect(
      of.at(64, { kind: 'callTransferred', leg: `${call}.2`, to: { kind: 'queue', id: 'q' } }).refusal,
    ).toBe('notExpected');
    sound(of);
    of.at(68, { kind: 'legAnswered', leg: `${call}.3` });
    sound(of);
    expect(of.effectsOf('connect').at(-1)!.legs).toEqual([`${call}.3`, `${call}.2`]);
    of.at(128, { kind: 'legEnded', leg: `${call}.3` });
    const [facts] = of.ended();
    expect(facts).toMatchObject({ result: 'answered', endedBy: 'caller', talkedMs: 60_000, personId: 'a' });
    expect(facts!.usages).toEqual([{ trunkId: 't', digits: '+13605550117', seconds: 60 }]);
    expect(titles(of, call)).toEqual(
      expect.arrayContaining([
        ...['Called back on +1 360 555 0117?', 'Is called back on +1 360 555 0117', 'Waited 0:56 in line'],
        ...['Person a takes it and hears it ring', 'Person a called back'],
      ]),
    );
  });

  test('the caller first: they lift, and somebody is rung for them at once', () => {
    const of = bench({ first: 'caller' });
    const call = promised(of, 2);
    comes(of, 60);
    expect(of.rung()).toEqual([]);
    expect(dialled(of)).toEqual([`${call}.2 +13605550117`]);
    sound(of);
    of.at(66, { kind: 'legAnswered', leg: `${call}.2` });
    expect(of.rung()).toEqual(['a']);
    of.at(68, { kind: 'legAnswered', leg: of.lastLeg() });
    sound(of);
    of.at(98, { kind: 'legEnded', leg: of.lastLeg() });
    expect(of.ended()[0]).toMatchObject({ result: 'answered', talkedMs: 30_000, endedBy: 'agent' });
  });

  test('who is not reached is tried again after the minutes set, in their place, and then it is over', () => {
    const of = bench();
    const call = promised(of, 2);
    comes(of, 60);
    of.at(63, { kind: 'legAnswered', leg: of.lastLeg() });
    of.at(70, { kind: 'legFailed', leg: `${call}.3`, cause: 'busy' });
    sound(of);
    // The agent is free for others, without wrap-up or blame.
    const other = of.call(80, mainNumber, 0, '+13605550118');
    expect(of.effectsOf('ring').at(-1)!.callId).toBe(other);
    of.at(81, { kind: 'callerHungUp', callId: other });
    of.at(669, { kind: 'clock' });
    expect(of.effectsOf('ring')).toHaveLength(2);
    of.at(670, { kind: 'clock' });
    expect(of.effectsOf('ring').at(-1)!.callId).toBe(call);
    of.at(672, { kind: 'legAnswered', leg: of.lastLeg() });
    of.at(702, { kind: 'clock' });
    expect(
      of.recordsOf('callBackFailed').map(({ cause, tries, againAt }) => [cause, tries, againAt]),
    ).toEqual([
      ['busy', 1, 670_000],
      ['noAnswer', 2, null],
    ]);
    expect(of.ended().at(-1)).toMatchObject({ callId: call, result: 'noAnswer' });
    expect(state(of).agents.get('a')!.calls).toEqual([]);
    sound(of);
  });

  test('an agent who hangs up before the caller lifts leaves the turn to another, without counting a try', () => {
    const of = bench({}, ['a', 'b']);
    const call = promised(of, 2);
    comes(of, 60);
    of.at(61, { kind: 'legAnswered', leg: of.lastLeg() });
    comes(of, 62, 'b');
    of.at(63, { kind: 'legEnded', leg: `${call}.2` });
    expect(of.rung()).toEqual(['a', 'b']);
    expect(state(of).calls.get(call)!.callBack!.tries).toBe(0);
    sound(of);
  });

  test('nobody is called out of hours: the turn comes again when they begin', () => {
    const of = bench({ fromHour: 8, toHour: 21 });
    const call = promised(of, 2);
    comes(of, 60);
    expect(of.rung()).toEqual([]);
    const other = of.call(70, mainNumber, 0, '+13605550118');
    expect(of.effectsOf('ring').map(({ callId }) => callId)).toEqual([other]);
    of.at(75, { kind: 'callerHungUp', callId: other });
    of.at(8 * 3_600, { kind: 'clock' });
    expect(of.effectsOf('ring').at(-1)!.callId).toBe(call);
    expect(titles(of, call)).toContain('Their turn came out of hours');
  });

  test('when everybody is gone they wait for the next who comes; a queue that is taken out ends it', () => {
    const set = configuration(
      [person('a')],
      [queue('q', ['a'], { callBack: rules, whenNobody: { kind: 'end' } })],
    );
    const of = new Bench({ ...set, rules: [anythingGoes] });
    of.register(0, 'a');
    of.at(1, { kind: 'agentAway', personId: 'a', reason: 'lunch' });
    const call = promised(of, 2);
    of.at(10, { kind: 'agentSignedOut', personId: 'a' });
    expect(of.ended()).toEqual([]);
    sound(of);
    of.at(20, { kind: 'configurationChanged', changes: { gone: ['q'] } });
    expect(of.ended()).toMatchObject([{ callId: call, result: 'noRoute' }]);
  });

  test('without a line that goes out it is tried again, and nobody is kept waiting for it', () => {
    const of = bench();
    of.at(1, { kind: 'configurationChanged', changes: { gone: ['t'] } });
    const call = promised(of, 2);
    comes(of, 60);
    of.at(61, { kind: 'legAnswered', leg: of.lastLeg() });
    expect(of.recordsOf('callBackFailed')[0]).toMatchObject({ callId: call, cause: 'congestion' });
    expect(state(of).agents.get('a')!.calls).toEqual([]);
    sound(of);
  });

  test('who hears a caller ring takes no other call meanwhile, however many they may carry; behind it they do', () => {
    const set = configuration(
      [person('a', { callLimit: 2 })],
      [queue('q', ['a'], { wrapUpSeconds: 0, callBack: rules })],
    );
    const of = new Bench({ ...set, rules: [anythingGoes] });
    of.register(0, 'a');
    of.at(1, { kind: 'agentAway', personId: 'a', reason: 'lunch' });
    const call = promised(of, 2);
    const waits = of.call(10, mainNumber, 0, '+13605550118');
    comes(of, 60);
    of.at(62, { kind: 'legAnswered', leg: of.lastLeg() });
    expect(of.effectsOf('ring').map(({ callId }) => callId)).toEqual([call]);
    sound(of);
    of.at(66, { kind: 'legAnswered', leg: `${call}.3` });
    expect(of.effectsOf('ring').map(({ callId }) => callId)).toEqual([call, waits]);
    sound(of);
  });

  test('who opts out meanwhile is not called, and it is over', () => {
    const of = bench();
    const call = promised(of, 2);
    of.at(30, { kind: 'optedOut', e164: callerNumber });
    comes(of, 60);
    expect([of.rung(), dialled(of)]).toEqual([[], []]);
    expect(of.ended()).toMatchObject([{ callId: call, result: 'refused' }]);
    expect(titles(of, call)).toContain('Cannot be called back');
    sound(of);
  });

  test('a promise outlives a restart', () => {
    const of = bench();
    const call = promised(of, 2);
    const again = Exchange.restore(JSON.parse(JSON.stringify(of.exchange.snapshot())));
    expect(brokenInvariants(again.view())).toEqual([]);
    const { effects } = again.handle({
      seq: again.seq + 1,
      at: 60_000,
      kind: 'agentSignedIn',
      personId: 'a',
    });
    expect(effects.some((effect) => effect.kind === 'ring' && effect.callId === call)).toBe(true);
  });
});
