import { describe, expect, test } from 'vitest';
import type { PersonItem } from '../../model/configuration.ts';
import { Bench, configuration, outsideNumber, person, queue } from '../exchange.testing.ts';
import { Exchange } from '../exchange.ts';
import { brokenInvariants } from '../snapshot.ts';
import { handledBy, tookPart } from '../../story/handled-by.ts';

/** `a` talks with a caller from second 3 on; `b` and `c` are there. */
function talking(changes: Partial<Record<'a' | 'b' | 'c', Partial<PersonItem>>> = {}): Bench {
  const people = (['a', 'b', 'c'] as const).map((id) => person(id, changes[id]));
  const day = new Bench(configuration(people, [queue('q', ['a'])]));
  day.register(0, 'a', 'b', 'c');
  day.call(1);
  day.at(3, { kind: 'legAnswered', leg: 'c1.2' });
  return day;
}
const announce = (day: Bench, second = 13, personId = 'b') =>
  day.at(second, { kind: 'consultationAsked', leg: 'c1.2', personId });
const sound = (day: Bench) => expect(brokenInvariants(day.exchange.view())).toEqual([]);
const factsOf = (day: Bench) => day.effectsOf('callEnded').map(({ facts }) => facts);
const bridges = (day: Bench) => day.effectsOf('connect').map(({ legs }) => legs);

describe('a caller is announced to a colleague', () => {
  test('held while the colleague rings and hears; hanging up puts them through', () => {
    const day = talking();
    expect(announce(day).refusal).toBeNull();
    expect(day.effectsOf('hold')).toMatchObject([{ leg: 'c1.1' }]);
    expect(day.rung()).toEqual(['a', 'b']);
    sound(day);
    day.at(17, { kind: 'legAnswered', leg: 'c1.3' });
    expect(bridges(day).at(-1)).toEqual(['c1.2', 'c1.3']);
    expect(day.recordsOf('consulted')).toMatchObject([{ personId: 'b', byName: 'Person a', rangMs: 4_000 }]);
    sound(day);
    day.at(23, { kind: 'legEnded', leg: 'c1.2' });
    expect(day.effectsOf('resume')).toMatchObject([{ leg: 'c1.1' }]);
    expect(bridges(day).at(-1)).toEqual(['c1.1', 'c1.3']);
    expect(day.exchange.view().agents.get('a')!.wrapUpUntil).toBe(33_000);
    sound(day);
    day.at(43, { kind: 'callerHungUp', callId: 'c1' });
    expect(factsOf(day)).toMatchObject([
      { personId: 'b', result: 'answered', waitedMs: 2_000, talkedMs: 40_000, answeredAt: 3_000 },
    ]);
    expect(day.recordsOf('transferred')).toMatchObject([
      { personId: 'a', to: 'Person b', talkedMs: 20_000, attended: true },
    ]);
  });

  test('handed over to that colleague: the same, and who told is released', () => {
    const day = talking();
    announce(day);
    day.at(17, { kind: 'legAnswered', leg: 'c1.3' });
    const to = { kind: 'person' as const, id: 'c' };
    expect(day.at(18, { kind: 'callTransferred', leg: 'c1.2', to }).refusal).toBe('notExpected');
    expect(day.at(19, { kind: 'callTransferred', leg: 'c1.2', to: { ...to, id: 'b' } }).refusal).toBeNull();
    expect(day.effectsOf('release')).toMatchObject([{ leg: 'c1.2' }]);
    expect(bridges(day).at(-1)).toEqual(['c1.1', 'c1.3']);
    sound(day);
  });

  test('let go while it still rings: it rings on, for the caller', () => {
    const day = talking();
    announce(day);
    day.at(15, { kind: 'legEnded', leg: 'c1.2' });
    expect(day.recordsOf('transferred')).toMatchObject([{ attended: false }]);
    expect(day.rung()).toEqual(['a', 'b']);
    sound(day);
    day.at(33, { kind: 'clock' });
    expect(day.recordsOf('voicemail')).toMatchObject([{ boxId: 'b.box' }]);
    sound(day);
  });

  test.each([
    ['declines', 20, { kind: 'legFailed', leg: 'c1.3', cause: 'declined' } as const, 'notTaken'],
    ['does not lift', 33, { kind: 'clock' } as const, 'notTaken'],
    ['is given up', 20, { kind: 'callerRetrieved', leg: 'c1.2' } as const, 'retrieved'],
  ])('the colleague %s: the caller is back, nobody rests', (_, second, event, why) => {
    const day = talking();
    announce(day);
    day.at(second, event);
    expect(bridges(day).at(-1)).toEqual(['c1.1', 'c1.2']);
    expect(day.recordsOf('transferCancelled')).toMatchObject([{ personId: 'a', why }]);
    expect(day.exchange.view().agents.get('b')).toMatchObject({ ringing: null, backOffUntil: 0 });
    sound(day);
    day.at(43, { kind: 'callerHungUp', callId: 'c1' });
    expect(factsOf(day)).toMatchObject([{ personId: 'a', talkedMs: 40_000 }]);
  });

  test.each([
    ['hangs up', { kind: 'legEnded', leg: 'c1.3' } as const, 'hungUp'],
    ['is let go', { kind: 'callerRetrieved', leg: 'c1.2' } as const, 'retrieved'],
  ])('the colleague has heard and %s: the caller is back', (_, event, why) => {
    const day = talking();
    announce(day);
    day.at(17, { kind: 'legAnswered', leg: 'c1.3' });
    day.at(20, event);
    expect(day.recordsOf('transferCancelled')).toMatchObject([{ why }]);
    expect(day.exchange.view().agents.get('b')!.calls).toEqual([]);
    sound(day);
    expect(announce(day, 21, 'c').refusal).toBeNull();
    expect(day.rung()).toEqual(['a', 'b', 'c']);
    sound(day);
  });

  test.each([13, 18])('the caller hangs up meanwhile, at second %i + 1: both are free', (lifted) => {
    const day = talking();
    announce(day);
    if (lifted > 13) day.at(lifted, { kind: 'legAnswered', leg: 'c1.3' });
    day.at(lifted + 1, { kind: 'callerHungUp', callId: 'c1' });
    const { agents, calls } = day.exchange.view();
    expect(calls.size).toBe(0);
    expect(agents.get('b')).toMatchObject({ calls: [], ringing: null });
    expect(agents.get('a')!.calls).toEqual([]);
    expect(factsOf(day)).toMatchObject([{ personId: 'a', result: 'answered' }]);
    sound(day);
  });

  test('a third takes the ringing: they hear of the caller instead', () => {
    const day = talking();
    announce(day);
    expect(day.at(14, { kind: 'callPickedUp', callId: 'c1', phoneId: 'a.phone' }).refusal).toBe(
      'notExpected',
    );
    expect(day.at(14, { kind: 'callPickedUp', callId: 'c1', phoneId: 'c.phone' }).refusal).toBeNull();
    day.at(15, { kind: 'legAnswered', leg: 'c1.4' });
    day.at(16, { kind: 'legEnded', leg: 'c1.2' });
    day.at(20, { kind: 'callerHungUp', callId: 'c1' });
    expect(factsOf(day)).toMatchObject([{ personId: 'c' }]);
    sound(day);
  });

  test.each([
    ['themselves', { leg: 'c1.2', personId: 'a' }, 'notExpected'],
    ['somebody who is not here', { leg: 'c1.2', personId: 'none' }, 'unknownPerson'],
    ['somebody who cannot be rung', { leg: 'c1.2', personId: 'c' }, 'cannotBeRung'],
    ['anybody on the leg of the caller', { leg: 'c1.1', personId: 'b' }, 'legNotConnected'],
  ])('nobody announces to %s', (_, which, why) => {
    const day = talking();
    day.at(5, { kind: 'phoneUnregistered', phoneId: 'c.phone', why: 'lost' });
    expect(day.at(6, { kind: 'consultationAsked', ...which }).refusal).toBe(why);
    expect(day.effectsOf('hold')).toEqual([]);
    expect(day.at(7, { kind: 'callerRetrieved', leg: 'c1.2' }).refusal).toBe('notExpected');
    sound(day);
  });

  test('who handled it is the last who talked with the caller, and from whom they had them', () => {
    const day = talking();
    expect(handledBy(day.records)).toEqual({ personId: 'a', name: 'Person a', passedBy: null });
    announce(day);
    day.at(17, { kind: 'legAnswered', leg: 'c1.3' });
    expect(handledBy(day.records)).toMatchObject({ personId: 'a' });
    day.at(18, { kind: 'legEnded', leg: 'c1.2' });
    expect(handledBy(day.records)).toEqual({ personId: 'b', name: 'Person b', passedBy: 'Person a' });
    day.at(20, { kind: 'callTransferred', leg: 'c1.3', to: { kind: 'person', id: 'c' } });
    expect(handledBy(day.records)).toMatchObject({ personId: 'b' });
    day.at(21, { kind: 'legAnswered', leg: 'c1.4' });
    expect(handledBy(day.records)).toEqual({ personId: 'c', name: 'Person c', passedBy: 'Person b' });
    expect(['a', 'b', 'c', 'd'].filter((id) => tookPart(day.records, id))).toEqual(['a', 'b', 'c']);
  });

  test('an exchange restored in the middle goes on as the other', () => {
    const day = talking();
    announce(day);
    day.at(17, { kind: 'legAnswered', leg: 'c1.3' });
    const other = Exchange.restore(JSON.parse(JSON.stringify(day.exchange.snapshot())));
    const seq = day.exchange.seq + 1;
    const event = { seq, at: 20_000, kind: 'legEnded', leg: 'c1.2' } as const;
    expect(other.handle(event)).toEqual(day.exchange.handle(event));
    expect(other.snapshot()).toEqual(day.exchange.snapshot());
  });

  test('what an outside number talked before it left is charged with the call', () => {
    const set = configuration([person('a'), person('b')], [queue('q', ['a'])]);
    set.phones = [outsideNumber('a'), set.phones[1]!];
    const day = new Bench(set);
    day.register(0, 'b');
    day.at(0, { kind: 'agentSignedIn', personId: 'a' });
    day.call(1);
    day.at(3, { kind: 'legAnswered', leg: 'c1.2' });
    day.at(4, { kind: 'keyPressed', leg: 'c1.2', key: '1' });
    announce(day);
    day.at(17, { kind: 'legAnswered', leg: 'c1.3' });
    day.at(24, { kind: 'legEnded', leg: 'c1.2' });
    day.at(60, { kind: 'callerHungUp', callId: 'c1' });
    expect(factsOf(day)).toMatchObject([{ usages: [{ trunkId: 't', seconds: 20 }] }]);
    sound(day);
  });
});
