import { describe, expect, test } from 'vitest';
import type { PersonItem, QueueItem } from '../../model/configuration.ts';
import { Bench, configuration, directNumber, mainNumber, person, queue } from '../exchange.testing.ts';
import { brokenInvariants } from '../snapshot.ts';

function bench(people: PersonItem[], members: string[], change: Partial<QueueItem> = {}): Bench {
  const day = new Bench(configuration(people, [queue('q', members, change)]));
  day.register(0, ...people.map(({ id }) => id));
  return day;
}
const sound = (day: Bench) => expect(brokenInvariants(day.exchange.view())).toEqual([]);
const factsOf = (day: Bench) => day.effectsOf('callEnded').map(({ facts }) => facts);

describe('a call that rings a colleague is taken', () => {
  test('theirs stops, this phone lifts by itself, nobody rests', () => {
    const day = bench([person('a'), person('b')], ['a']);
    day.call(1);
    expect(day.at(4, { kind: 'callPickedUp', callId: 'c1', phoneId: 'b.phone' }).refusal).toBeNull();
    expect(day.effectsOf('stopRinging')).toMatchObject([{ leg: 'c1.2', why: 'takenElsewhere' }]);
    expect(day.effectsOf('ring').at(-1)).toMatchObject({
      phoneId: 'b.phone',
      leg: 'c1.3',
      answerBySelf: true,
    });
    day.at(4, { kind: 'legAnswered', leg: 'c1.3' });
    expect(day.recordsOf('pickedUp')).toMatchObject([{ personId: 'b', fromId: 'a', rangMs: 3_000 }]);
    expect(day.exchange.view().agents.get('a')!.backOffUntil).toBe(0);
    sound(day);
    day.at(60, { kind: 'callerHungUp', callId: 'c1' });
    expect(factsOf(day)).toMatchObject([{ personId: 'b', result: 'answered', queueId: 'q' }]);
  });

  test('the colleague is free at once for the next caller', () => {
    const day = bench([person('a'), person('b')], ['a']);
    day.call(1);
    day.call(2);
    day.at(4, { kind: 'callPickedUp', callId: 'c1', phoneId: 'b.phone' });
    expect(day.rung()).toEqual(['a', 'b', 'a']);
    sound(day);
  });

  test('straight to somebody, taken and not lifted after all: it goes where theirs would have gone', () => {
    const day = bench([person('a'), person('b')], []);
    day.call(1, directNumber);
    day.at(2, { kind: 'callPickedUp', callId: 'c1', phoneId: 'b.phone' });
    day.at(20, { kind: 'clock' });
    expect(day.recordsOf('voicemail')).toMatchObject([{ boxId: 'a.box' }]);
    sound(day);
  });

  test.each([
    ['their own call', { callId: 'c1', phoneId: 'a.phone' }, 'legNotRinging'],
    ['a call that is not there', { callId: 'none', phoneId: 'b.phone' }, 'unknownCall'],
    ['on a phone that is not there', { callId: 'c1', phoneId: 'none' }, 'unknownPhone'],
    ['on a phone that cannot be reached', { callId: 'c1', phoneId: 'c.phone' }, 'notReachable'],
  ])('%s is not taken', (_, which, why) => {
    const day = new Bench(configuration([person('a'), person('b'), person('c')], [queue('q', ['a'])]));
    day.register(0, 'a', 'b');
    day.call(1);
    expect(day.at(2, { kind: 'callPickedUp', ...which }).refusal).toBe(why);
    expect(day.rung()).toEqual(['a']);
    sound(day);
  });

  test('who is at their limit takes no other', () => {
    const day = bench([person('a'), person('b')], ['a', 'b']);
    day.call(1);
    day.call(2);
    expect(day.at(3, { kind: 'callPickedUp', callId: 'c1', phoneId: 'b.phone' }).refusal).toBe('atLimit');
    sound(day);
  });
});

describe('a caller is handed over', () => {
  const talking = () => {
    const day = bench([person('a'), person('b')], ['a']);
    day.call(1, mainNumber);
    day.at(3, { kind: 'legAnswered', leg: 'c1.2' });
    return day;
  };

  test('the one who hands over wraps up, the next one rings, and both times count', () => {
    const day = talking();
    day.at(13, { kind: 'callTransferred', leg: 'c1.2', to: { kind: 'person', id: 'b' } });
    expect(day.effectsOf('release')).toMatchObject([{ leg: 'c1.2' }]);
    expect(day.exchange.view().agents.get('a')!.wrapUpUntil).toBe(23_000);
    expect(day.rung()).toEqual(['a', 'b']);
    sound(day);
    day.at(18, { kind: 'legAnswered', leg: 'c1.3' });
    day.at(38, { kind: 'callerHungUp', callId: 'c1' });
    expect(factsOf(day)).toMatchObject([
      { personId: 'b', result: 'answered', waitedMs: 2_000, talkedMs: 30_000, answeredAt: 3_000 },
    ]);
    expect(day.recordsOf('transferred')).toMatchObject([{ personId: 'a', to: 'Person b', talkedMs: 10_000 }]);
  });

  test('who gives up before the next one lifts was answered all the same', () => {
    const day = talking();
    day.at(13, { kind: 'callTransferred', leg: 'c1.2', to: { kind: 'person', id: 'b' } });
    day.at(15, { kind: 'callerHungUp', callId: 'c1' });
    expect(factsOf(day)).toMatchObject([{ personId: 'a', result: 'answered', talkedMs: 10_000 }]);
    sound(day);
  });

  test('nobody hands over to themselves, nor a call that still rings', () => {
    const day = bench([person('a'), person('b')], ['a']);
    day.call(1);
    const to = { kind: 'person' as const, id: 'b' };
    expect(day.at(2, { kind: 'callTransferred', leg: 'c1.2', to }).refusal).toBe('legNotConnected');
    expect(day.at(2, { kind: 'callTransferred', leg: 'c9.2', to }).refusal).toBe('unknownLeg');
    day.at(3, { kind: 'legAnswered', leg: 'c1.2' });
    const self = { kind: 'person' as const, id: 'a' };
    expect(day.at(4, { kind: 'callTransferred', leg: 'c1.2', to: self }).refusal).toBe('notExpected');
    sound(day);
  });
});
