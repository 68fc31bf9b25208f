import { describe, expect, test } from 'vitest';
import type { OutsideNumberItem, PersonItem, PhoneItem } from '../../model/configuration.ts';
import type { NoAnswerStep } from '../../model/destination.ts';
import {
  anythingGoes,
  Bench,
  configuration,
  directNumber,
  outsideNumber,
  person,
  queue,
  softphone,
} from '../exchange.testing.ts';
import { brokenInvariants } from '../snapshot.ts';

const mobile: OutsideNumberItem = {
  id: 'o',
  name: 'Quay hut',
  extension: null,
  e164: '+14255550120',
  trunkId: null,
  ringSeconds: 10,
};
const atHome: PhoneItem = { ...softphone('a'), id: 'a.home', account: 'a-home', home: true };

/** A call straight to `a`, who rings 10 s, at second 1; `b` and `c` are there, and a second phone of `a`. */
function called(noAnswer: NoAnswerStep[], change: Partial<PersonItem> = {}): Bench {
  const set = configuration(
    [
      person('a', { noAnswer, ringSeconds: 10, ...change }),
      person('b', { noAnswer: [{ kind: 'person', id: 'a' }], ringSeconds: 10 }),
      person('c', { ringSeconds: 10 }),
    ],
    [queue('q', ['c'], { maxWaitSeconds: 5 })],
  );
  set.phones.push(atHome);
  set.outsideNumbers = [mobile];
  set.rules = [anythingGoes];
  const day = new Bench(set);
  day.register(0, 'b', 'c');
  for (const phoneId of ['a.phone', 'a.home'])
    day.at(0, { kind: 'phoneRegistered', phoneId, address: '192.0.2.1' });
  day.call(1, directNumber);
  return day;
}
const phones = (day: Bench) => day.effectsOf('ring').map(({ phoneId }) => phoneId);
const call = (day: Bench) => day.exchange.view().calls.get('c1');
const sound = (day: Bench) => expect(brokenInvariants(day.exchange.view())).toEqual([]);

describe('when nobody lifts', () => {
  test('step by step: other phone, outside, colleague, and at last their own voicemail', () => {
    const day = called([{ kind: 'otherPhones' }, { kind: 'outside', id: 'o' }, { kind: 'person', id: 'b' }]);
    day.at(12, { kind: 'clock' });
    expect(phones(day)).toEqual(['a.phone', 'a.home']);
    expect(day.recordsOf('ringsElsewhere')).toMatchObject([{ personId: 'a', phone: 'homeSoftphone' }]);
    sound(day);
    day.at(22, { kind: 'clock' });
    expect(call(day)?.activity.kind).toBe('dialOut');
    day.at(32, { kind: 'clock' });
    expect(phones(day)).toEqual(['a.phone', 'a.home', 'b.phone']);
    sound(day);
    // What the colleague set for when they do not lift is for calls that are meant for them.
    day.at(42, { kind: 'clock' });
    expect(call(day)).toMatchObject({ activity: { kind: 'recording', boxId: 'a.box' } });
    sound(day);
  });

  test('nothing set: their own voicemail; no mailbox: told that nobody can take the call', () => {
    const day = called([]);
    day.at(12, { kind: 'clock' });
    expect(call(day)?.activity).toMatchObject({ boxId: 'a.box' });
    const without = called([], { voicemailBoxId: null });
    without.at(12, { kind: 'clock' });
    expect(without.ended()).toMatchObject([{ result: 'turnedAway' }]);
  });

  test('who says no is left in peace: their other phones do not ring', () => {
    const day = called([{ kind: 'otherPhones' }, { kind: 'person', id: 'b' }]);
    day.at(3, { kind: 'legFailed', leg: day.lastLeg(), cause: 'declined' });
    expect(phones(day)).toEqual(['a.phone', 'b.phone']);
    sound(day);
  });

  test('who is in a call is not rung on another phone either', () => {
    const day = called([{ kind: 'otherPhones' }, { kind: 'person', id: 'b' }]);
    day.at(3, { kind: 'legAnswered', leg: day.lastLeg() });
    day.at(4, { kind: 'callArrived', callId: 'c2', to: directNumber, from: '+13605550118' });
    expect(phones(day)).toEqual(['a.phone', 'b.phone']);
    sound(day);
  });

  test('an outside number of their own is one of their phones, with its key to accept', () => {
    const day = called([{ kind: 'otherPhones' }]);
    day.at(2, {
      kind: 'configurationChanged',
      changes: { phones: [{ ...outsideNumber('a'), id: 'a.outside' }] },
    });
    day.at(22, { kind: 'clock' });
    expect(day.effectsOf('dial')).toMatchObject([{ personId: 'a', digits: '+12505550190' }]);
    day.at(25, { kind: 'legAnswered', leg: 'c1.4' });
    day.at(37, { kind: 'clock' });
    expect(day.recordsOf('notTaken').at(-1)).toMatchObject({ reason: 'notAccepted' });
    expect(call(day)?.activity).toMatchObject({ boxId: 'a.box' });
    sound(day);
  });

  test('a line that fails is no dead end: the next step follows', () => {
    const day = called([
      { kind: 'outside', id: 'o' },
      { kind: 'person', id: 'b' },
    ]);
    day.at(11, { kind: 'clock' });
    day.at(13, { kind: 'legFailed', leg: 'c1.3', cause: 'busy' });
    expect(phones(day)).toEqual(['a.phone', 'b.phone']);
    sound(day);
  });

  test('a queue is where it rests: what follows there is the queue’s', () => {
    const day = called([{ kind: 'queue', id: 'q' }]);
    day.at(11, { kind: 'clock' });
    expect(phones(day)).toEqual(['a.phone', 'c.phone']);
    day.at(40, { kind: 'clock' });
    expect(day.ended()).toMatchObject([{ result: 'turnedAway' }]);
    sound(day);
  });

  test('a caller handed over takes the steps of whom they were handed to', () => {
    const day = called([{ kind: 'person', id: 'c' }]);
    day.at(3, { kind: 'legAnswered', leg: day.lastLeg() });
    day.at(5, { kind: 'consultationAsked', leg: 'c1.2', personId: 'b' });
    day.at(6, { kind: 'legEnded', leg: 'c1.2' });
    day.at(16, { kind: 'clock' });
    expect(phones(day)).toEqual(['a.phone', 'b.phone', 'a.phone']);
    day.at(26, { kind: 'clock' });
    expect(call(day)?.activity).toMatchObject({ boxId: 'b.box' });
    sound(day);
  });
});
