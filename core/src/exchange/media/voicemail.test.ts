import { describe, expect, test } from 'vitest';
import type { OpeningHours } from '../../hours/opening-hours.ts';
import { utcClock } from '../../hours/zone-clock.ts';
import type { VoicemailBoxItem } from '../../model/configuration.ts';
import type { Destination } from '../../model/destination.ts';
import { planOf } from '../../plan/compile.ts';
import { defaultSounds } from '../../sound/defaults.ts';
import { ropeSteps } from '../../story/describe.ts';
import { Bench, configuration, person, queue, unroutedNumber } from '../exchange.testing.ts';
import { brokenInvariants, type ExchangeSnapshot } from '../snapshot.ts';
import { upgradeEvent, upgradeSnapshot } from '../upgrade.ts';
import { Exchange } from '../exchange.ts';

const firstMinute: OpeningHours = {
  ...{ id: 'h', name: 'First minute', clock: utcClock, days: {}, storm: null },
  weekly: Array.from({ length: 7 }, () => [[0, 1] as const]),
};
const prompts = ['open', 'shut'].map((id, i) => ({ id, name: `Greeting ${id}`, seconds: 3 + i, words: id }));

function bench(
  box: Partial<VoicemailBoxItem> = {},
  destination: Destination = { kind: 'voicemail', id: 'a.box' },
) {
  const base = configuration([person('a', { extension: '2001' })], [queue('q', ['a'])]);
  return new Bench({
    ...base,
    ...{ prompts, hours: [firstMinute] },
    voicemailBoxes: base.voicemailBoxes.map((each) => ({ ...each, ...box })),
    numbers: base.numbers.map((number) =>
      number.e164 === unroutedNumber ? { ...number, plan: planOf('n', 1, destination) } : number,
    ),
  });
}
const greeted: Partial<VoicemailBoxItem> = {
  hoursId: 'h',
  greetings: { open: { outside: 'open', inside: null }, closed: { outside: 'shut', inside: null } },
};
/** Leaves a message that takes this many seconds after the greeting. */
function leave(day: Bench, at: number, greetingSeconds: number, seconds = 4): string {
  const callId = day.call(at, unroutedNumber);
  day.at(at + greetingSeconds + seconds, { kind: 'callerHungUp', callId });
  return callId;
}

describe('a greeting', () => {
  test('follows the hours, and the story says which was heard and why', () => {
    const day = bench(greeted);
    day.call(1, unroutedNumber);
    day.call(70, unroutedNumber);
    expect(day.effectsOf('record')).toMatchObject([
      { promptId: 'open', greetingSeconds: 3 },
      { promptId: 'shut', greetingSeconds: 4 },
    ]);
    expect(ropeSteps(day.records.filter(({ callId }) => callId === 'c2')).at(-1)?.reason).toBe(
      'Greeting shut is heard, then the tone: closed by First minute, a caller from outside',
    );
  });

  test('knows a colleague by the extension they call from', () => {
    const day = bench({
      greetings: { open: { outside: 'open', inside: 'shut' }, closed: greeted.greetings!.closed },
    });
    day.at(1, { kind: 'callArrived', callId: 'x', to: unroutedNumber, from: '2001' });
    expect(day.effectsOf('record')[0]?.promptId).toBe('shut');
  });

  test('that is gone is replaced by the default, never by silence', () => {
    const day = bench(greeted);
    day.at(1, { kind: 'configurationChanged', changes: { gone: ['open'] } });
    day.call(2, unroutedNumber);
    expect(day.effectsOf('record')[0]).toMatchObject({
      promptId: null,
      greetingSeconds: defaultSounds.voicemailGreeting.seconds,
    });
  });
});

describe('a box that is full', () => {
  const full: Partial<VoicemailBoxItem> = { mostMessages: 1, whenFull: { kind: 'queue', id: 'q' } };

  test('tells the caller, and sends them its own way out', () => {
    const day = bench(full);
    leave(day, 1, 5);
    const callId = day.call(20, unroutedNumber);
    expect(day.recordsOf('boxFull')).toMatchObject([{ callId, why: 'boxFull', held: 1 }]);
    expect(day.effectsOf('play')).toMatchObject([{ callId, prompt: 'boxFull' }]);
    day.at(30, { kind: 'clock' });
    expect(
      day.exchange.view().calls.get(callId)?.queue?.item.id ?? day.recordsOf('enteredQueue')[0]?.queueId,
    ).toBe('q');
  });

  test('takes the way out of the step before its own, where the plan has one', () => {
    const day = bench(full);
    leave(day, 1, 5);
    const step = (kind: 'voicemail' | 'end', exits: Record<string, string>, config: object = {}) => ({
      ...{ kind, exits },
      config: config as Record<string, unknown>,
    });
    day.at(15, {
      kind: 'configurationChanged',
      changes: {
        numbers: [
          {
            ...{ id: 'nu', e164: unroutedNumber, label: 'Own way', sourceId: null },
            plan: {
              ...{ id: 'p', version: 1, start: 's', fallback: { kind: 'end' } },
              steps: { s: step('voicemail', { full: 'e' }, { boxId: 'a.box' }), e: step('end', {}) },
            },
          },
        ],
      },
    });
    day.call(20, unroutedNumber);
    day.at(30, { kind: 'clock' });
    expect(day.effectsOf('callEnded').at(-1)?.facts.result).toBe('turnedAway');
    expect(day.recordsOf('enteredQueue')).toEqual([]);
  });

  test('takes messages again when some are deleted; a box nobody knows is refused', () => {
    const day = bench({ mostMessages: 1 });
    leave(day, 1, 5);
    expect(day.at(20, { kind: 'messagesChanged', boxId: 'a.box', by: -1 }).refusal).toBeNull();
    leave(day, 21, 5);
    expect(day.effectsOf('record')).toHaveLength(2);
    expect(day.at(40, { kind: 'messagesChanged', boxId: 'gone', by: -1 }).refusal).toBe('unknownBox');
    // Never fewer than none, whatever is said.
    day.at(41, { kind: 'messagesChanged', boxId: 'a.box', by: -9 });
    expect(day.exchange.view().messages.get('a.box')).toBe(0);
    expect(brokenInvariants(day.exchange.view())).toEqual([]);
  });

  test('with no way out turns the caller away', () => {
    const day = bench({ mostMessages: 0 });
    day.call(1, unroutedNumber);
    day.at(10, { kind: 'clock' });
    expect(day.effectsOf('callEnded')[0]?.facts.result).toBe('turnedAway');
  });

  test('is every box when there is no room for recordings', () => {
    const day = bench();
    day.at(0, { kind: 'storageChanged', full: true });
    day.call(1, unroutedNumber);
    expect(day.recordsOf('boxFull')).toMatchObject([{ why: 'storageFull' }]);
    day.at(10, { kind: 'storageChanged', full: false });
    day.call(11, unroutedNumber);
    expect(day.effectsOf('record')).toHaveLength(1);
  });
});

test('who hangs up in the greeting leaves no message, and counts for none', () => {
  const day = bench();
  const callId = day.call(1, unroutedNumber);
  day.at(3, { kind: 'callerHungUp', callId });
  expect(day.effectsOf('callEnded')[0]?.facts).toMatchObject({ result: 'abandoned', voicemailBoxId: null });
  expect(day.exchange.view().messages.size).toBe(0);
});

test('a message ends at its longest, and what boxes hold comes back with the state', () => {
  const day = bench({ maxMessageSeconds: 20 });
  day.call(1, unroutedNumber);
  day.at(60, { kind: 'clock' });
  expect(day.effectsOf('callEnded')[0]?.facts).toMatchObject({ result: 'voicemail', messageMs: 20_000 });
  const restored = Exchange.restore(day.exchange.snapshot());
  expect([...restored.view().messages]).toEqual([['a.box', 1]]);
});

test('a state and an event of an engine that knew boxes by one greeting go on', () => {
  const old = { id: 'a.box', name: 'Old', greetingSeconds: 5, maxMessageSeconds: 90 };
  const { engine: _engine, ...now } = bench().exchange.snapshot();
  const { voicemail: _voicemail, ...slices } = now.slices;
  const before = {
    ...{ ...now, engine: 9 },
    slices: {
      ...slices,
      setUp: { version: 2, data: { ...slices.setUp.data, voicemailBoxes: [old] } },
    },
  };
  const carried = upgradeSnapshot(9, before as unknown as ExchangeSnapshot)!;
  expect(carried.slices.setUp.data.voicemailBoxes[0]).toMatchObject({
    maxMessageSeconds: 90,
    mostMessages: 100,
  });
  expect(brokenInvariants(Exchange.restore(carried).view())).toEqual([]);
  const event = upgradeEvent({
    ...{ seq: 1, at: 0, kind: 'configurationChanged' },
    changes: { voicemailBoxes: [old as never] },
  });
  expect(event).toMatchObject({ changes: { voicemailBoxes: [{ greetings: { open: { outside: null } } }] } });
});
