import { describe, expect, test } from 'vitest';
import { Bench, configuration, person, queue, unroutedNumber } from '../exchange/exchange.testing.ts';
import { Exchange } from '../exchange/exchange.ts';
import { brokenInvariants } from '../exchange/snapshot.ts';
import type { MenuMessage } from '../model/voicemail-menu.ts';
import { ropeSteps } from '../story/describe.ts';
import { compiledPlan } from './document.ts';
import { pinHash } from './steps/room.ts';

const messages: MenuMessage[] = [
  { id: 'm1', from: '+13605550117', seconds: 20, fresh: true },
  { id: 'm2', from: '', seconds: 8, fresh: false },
];

/** A number that opens box `a.box` with PIN 4711, or asks whose box it is. */
function bench(boxId = 'a.box', pin: string | null = '4711') {
  const base = configuration([person('a', { extension: '2001' }), person('b')], [queue('q', ['b'])]);
  const plan = compiledPlan('p', 1, {
    start: 's',
    steps: {
      s: { kind: 'voicemailMenu', config: { boxId }, exits: { notAdmitted: 'q', locked: 'q' } },
      q: { kind: 'queue', config: { queueId: 'q', priority: null }, exits: {} },
    },
  });
  return new Bench({
    ...base,
    voicemailBoxes: base.voicemailBoxes.map((box) => ({
      ...box,
      personId: box.id.split('.')[0]!,
      pinHash: pin === null ? null : pinHash(box.id, pin),
    })),
    codes: [
      {
        ...{ id: 'code', name: 'Voicemail', digits: '*97', does: 'voicemail', hoursIds: [], forHours: 1 },
        ...{ pinHash: null, pinLength: 0, teamIds: [] },
      },
    ],
    numbers: base.numbers.map((number) => (number.e164 === unroutedNumber ? { ...number, plan } : number)),
  });
}
let calls = 0;
const arrive = (made: Bench, seconds: number, more: object = {}) => {
  const callId = `v${++calls}`;
  made.at(seconds, { kind: 'callArrived', callId, to: unroutedNumber, from: '+13605550199', ...more });
  return callId;
};
const type = (made: Bench, callId: string, seconds: number, keys: string) => {
  for (const key of keys) made.at(seconds, { kind: 'keyPressed', leg: `${callId}.1`, key });
};
const said = (made: Bench) => made.effectsOf('say').map(({ words }) => words);
const done = (made: Bench) =>
  made.effectsOf('doneWithMessage').map(({ messageId, what }) => `${messageId} ${what}`);
/** Opened with the PIN, and read. */
function opened(made = bench(), read: MenuMessage[] = messages) {
  const callId = arrive(made, 1);
  type(made, callId, 5, '4711#');
  const { asked } = made.effectsOf('readBox').at(-1)!;
  made.at(6, { kind: 'boxRead', callId, asked, messages: read });
  return { made, callId };
}

describe('a box is opened from a phone', () => {
  test('by its PIN: how many there are is said, the first is played, and counts as heard', () => {
    const { made } = opened();
    expect(brokenInvariants(made.exchange.view())).toEqual([]);
    expect(said(made)[1]).toBe('1 new message, 1 other. Message 1 of 2, new, from +1 360 555 0117.');
    expect(made.effectsOf('playMessage')).toMatchObject([{ messageId: 'm1', seconds: 20 }]);
    expect(made.effectsOf('doneWithMessage')).toMatchObject([
      { boxId: 'a.box', messageId: 'm1', what: 'heard', personId: 'a' },
    ]);
    expect(ropeSteps(made.records, null).map(({ title }) => title)).toContain("Opened Person a's voicemail");
  });

  test('1 plays it again, 2 the next, 3 deletes and brings back, star ends', () => {
    const { made, callId } = opened();
    type(made, callId, 20, '1');
    type(made, callId, 40, '2');
    expect(made.effectsOf('playMessage').map(({ messageId }) => messageId)).toEqual(['m1', 'm1', 'm2']);
    type(made, callId, 60, '2');
    expect(said(made).at(-1)).toBe('That was the last message.');
    type(made, callId, 65, '3');
    type(made, callId, 66, '3');
    type(made, callId, 67, '3');
    expect(done(made).slice(-3)).toEqual(['m2 deleted', 'm2 restored', 'm2 deleted']);
    type(made, callId, 70, '*');
    made.at(80, { kind: 'clock' });
    expect(made.ended()).toHaveLength(1);
  });

  test('with nothing in it, a greeting can be recorded all the same; it ends by the pound key or by its length', () => {
    const { made, callId } = opened(bench(), []);
    expect(said(made).at(-1)).toContain('There are no messages.');
    type(made, callId, 10, '3');
    expect(done(made)).toEqual([]);
    type(made, callId, 10, '4');
    type(made, callId, 30, '#');
    expect(made.effectsOf('recordGreeting').map(({ does }) => does)).toEqual(['start', 'stop']);
    type(made, callId, 40, '4');
    made.at(120, { kind: 'clock' });
    expect(made.effectsOf('recordGreeting').map(({ does }) => does)).toEqual([
      'start',
      'stop',
      'start',
      'stop',
    ]);
  });

  test('whoever is silent hears the keys once more, and is let go', () => {
    const { made } = opened();
    made.at(120, { kind: 'clock' });
    made.at(200, { kind: 'clock' });
    expect(said(made).at(-1)).toBe('Goodbye.');
    made.at(210, { kind: 'clock' });
    expect(made.ended()).toHaveLength(1);
  });

  test('an answer of the host that comes too late changes nothing', () => {
    const made = bench();
    const callId = arrive(made, 1);
    type(made, callId, 5, '4711#');
    made.at(11, { kind: 'clock' });
    expect(said(made).at(-1)).toContain('cannot be read just now');
    expect(made.at(12, { kind: 'boxRead', callId, asked: 1, messages }).refusal).toBe('notExpected');
  });
});

describe('which box', () => {
  test('the own one, from a phone of ours, by a code; the extension is seen', () => {
    const made = bench('');
    made.register(0, 'a');
    const callId = arrive(made, 1, { to: '*97', from: 'a', fromPhoneId: 'a.phone' });
    expect(said(made)).toEqual(["Type the PIN of Person a's voicemail, then the pound key."]);
    type(made, callId, 5, '4711#');
    expect(made.effectsOf('readBox')).toMatchObject([{ boxId: 'a.box' }]);
  });

  test('from elsewhere the one whose extension is typed; what nobody has is asked again, three times', () => {
    const made = bench('');
    const callId = arrive(made, 1);
    type(made, callId, 3, '2001#');
    expect(said(made).at(-1)).toContain('PIN of Person a');
    const other = arrive(made, 10);
    for (const seconds of [12, 14, 16]) type(made, other, seconds, '999#');
    expect(said(made).at(-1)).toBe('Goodbye.');
    made.at(20, { kind: 'clock' });
    expect(made.exchange.view().calls.get(other)!.activity.kind).toBe('waiting');
  });

  test('one without a PIN stays shut', () => {
    const made = bench('a.box', null);
    arrive(made, 1);
    expect(said(made)[0]).toContain('has no PIN yet');
    expect(made.recordsOf('boxNotOpened')).toMatchObject([{ why: 'noPin' }]);
  });
});

describe('wrong PINs', () => {
  test('three in a call end it; five in a row, over calls, lock the box for a quarter of an hour', () => {
    const made = bench();
    const first = arrive(made, 1);
    for (const seconds of [3, 5, 7]) type(made, first, seconds, '1111#');
    expect(said(made).at(-1)).toBe('That is not the PIN. Goodbye.');
    const second = arrive(made, 20);
    for (const seconds of [22, 24]) type(made, second, seconds, '2222#');
    expect(said(made).at(-1)).toContain('locked');
    const third = arrive(made, 60);
    expect(said(made).at(-1)).toContain('locked');
    type(made, third, 61, '4711#');
    expect(made.effectsOf('readBox')).toEqual([]);
    // The lock outlasts a restart, and ends by itself.
    const again = Exchange.restore(made.exchange.snapshot());
    const later = 24_000 + 15 * 60_000 + 1;
    again.handle({
      seq: again.seq + 1,
      at: later,
      kind: 'callArrived',
      callId: 'w',
      to: unroutedNumber,
      from: '+13605550199',
    });
    for (const key of '4711#')
      again.handle({ seq: again.seq + 1, at: later + 1, kind: 'keyPressed', leg: 'w.1', key });
    expect(again.view().calls.get('w')!.route.at(-1)!.memory).toMatchObject({ at: 'reading' });
    expect(again.view().boxLocks.size).toBe(0);
  });

  test('a right one forgets those before it', () => {
    const made = bench();
    const first = arrive(made, 1);
    type(made, first, 3, '1111#');
    type(made, first, 5, '1111#');
    type(made, first, 7, '4711#');
    expect(made.exchange.view().boxLocks.size).toBe(0);
    expect(made.recordsOf('wrongPin').map(({ tries }) => tries)).toEqual([1, 2]);
    expect(JSON.stringify(made.records)).not.toContain('4711');
  });
});
