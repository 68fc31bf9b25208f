import { describe, expect, test } from 'vitest';
import { Bench, configuration, person, queue, unroutedNumber } from '../exchange/exchange.testing.ts';
import { Exchange } from '../exchange/exchange.ts';
import { brokenInvariants } from '../exchange/snapshot.ts';
import type { OpeningHours } from '../hours/opening-hours.ts';
import { utcClock } from '../hours/zone-clock.ts';
import type { CompiledPlan, CompiledStep } from '../model/plan.ts';
import { ropeSteps } from '../story/describe.ts';

const prompts = [
  { id: 'hello', name: 'Welcome', seconds: 4, words: 'Welcome aboard.' },
  { id: 'menu', name: 'Menu', seconds: 6, words: 'For bookings, press 1. For freight, press 2.' },
  { id: 'shut', name: 'We are closed', seconds: 5, words: 'We are closed.' },
];
const every = (ranges: [number, number][]) => Array.from({ length: 7 }, () => ranges);
const hours: OpeningHours = {
  ...{ id: 'h', name: 'Office', clock: utcClock, weekly: every([[0, 60]]), storm: null },
  days: { '1970-01-02': { date: '1970-01-02', name: 'Founders Day', holiday: true, ranges: [] } },
};
const end: CompiledStep = { kind: 'end', config: {}, exits: {} };
const menu = {
  promptId: 'menu',
  keys: [
    { key: '1', label: 'bookings' },
    { key: '2', label: 'freight' },
  ],
  waitSeconds: 5,
  tries: 2,
};

/** Hours, then a welcome, then a menu of two keys. */
const mainLine: CompiledPlan & { name: string } = {
  ...{ id: 'main', name: 'Main line', version: 3, start: 'open', fallback: { kind: 'end' } },
  steps: {
    open: { kind: 'hours', config: { hoursId: 'h' }, exits: { open: 'hello', closed: 'shut' } },
    hello: { kind: 'say', config: { promptId: 'hello', againKey: null }, exits: { next: 'menu' } },
    menu: { kind: 'keys', config: menu, exits: { key1: 'bookings', key2: 'freight', noKey: 'bookings' } },
    bookings: { kind: 'queue', config: { queueId: 'q' }, exits: {} },
    freight: { kind: 'voicemail', config: { boxId: 'a.box' }, exits: {} },
    shut: { kind: 'say', config: { promptId: 'shut', againKey: '*' }, exits: { next: 'over' } },
    over: end,
  },
};

function bench(change: Partial<CompiledPlan> = {}, set: Partial<OpeningHours> = {}): Bench {
  const base = configuration([person('a')], [queue('q', ['a'])]);
  const day = new Bench({
    ...base,
    ...{ prompts, hours: [{ ...hours, ...set }], plans: [{ ...mainLine, ...change }] },
    numbers: base.numbers.map((number) =>
      number.e164 === unroutedNumber
        ? {
            ...number,
            plan: {
              ...{ id: 'direct', version: 1, start: 'only', fallback: { kind: 'end' } },
              steps: { only: { kind: 'plan', config: { planId: 'main' }, exits: {} } },
            },
          }
        : number,
    ),
  });
  day.register(0, 'a');
  return day;
}
const press = (day: Bench, at: number, key: string) => day.at(at, { kind: 'keyPressed', leg: 'c1.1', key });

describe('a caller in a plan', () => {
  test('hears the welcome to its end, then the menu; a key may be pressed while it plays', () => {
    const day = bench();
    day.call(10, unroutedNumber);
    expect(day.effectsOf('say')).toMatchObject([{ promptId: 'hello', seconds: 4, keys: [] }]);
    expect(press(day, 12, '1').refusal).toBe('notExpected');
    day.at(14, { kind: 'clock' });
    expect(day.effectsOf('say').at(-1)).toMatchObject({ promptId: 'menu', keys: ['1', '2'] });
    press(day, 16, '1');
    expect(day.rung()).toEqual(['a']);
    expect(day.recordsOf('keyChosen')).toMatchObject([
      { key: '1', label: 'bookings', others: [{ key: '2' }] },
    ]);
    expect(brokenInvariants(day.exchange.view())).toEqual([]);
    expect(ropeSteps(day.records.filter(({ callId }) => callId === 'c1')).map(({ title }) => title)).toEqual(
      expect.arrayContaining(['Open', 'Heard Welcome', 'Heard Menu', 'Pressed 1']),
    );
  });

  test('who presses nothing is asked again, and goes on by that exit; a wrong key counts as a try', () => {
    const day = bench();
    day.call(10, unroutedNumber);
    day.at(25, { kind: 'clock' });
    expect(day.recordsOf('noKey')).toMatchObject([{ tries: 1, most: 2 }]);
    expect(day.effectsOf('say').map(({ promptId }) => promptId)).toEqual(['hello', 'menu', 'menu']);
    expect(press(day, 26, '7').refusal).toBeNull();
    // Wrong keys lead nowhere of their own here: as no key does.
    expect(day.recordsOf('wrongKey')).toMatchObject([{ key: '7', tries: 2, most: 2 }]);
    expect(day.rung()).toEqual(['a']);
  });

  test('closed: hears so, may hear it again, and the call ends', () => {
    const day = bench();
    day.call(4_000, unroutedNumber);
    expect(day.recordsOf('hoursAsked')).toMatchObject([{ state: 'closed', because: null, name: 'Office' }]);
    press(day, 4_006, '*');
    day.at(4_014, { kind: 'clock' });
    expect(day.ended()).toEqual([]);
    day.at(4_015, { kind: 'clock' });
    expect(day.ended()).toMatchObject([{ result: 'turnedAway' }]);
  });

  test('a holiday follows closed where it leads nowhere of its own, and is said; so does a storm', () => {
    const day = bench();
    day.call(86_400 + 60, unroutedNumber);
    expect(day.recordsOf('hoursAsked')).toMatchObject([{ state: 'holiday', because: 'Founders Day' }]);
    expect(day.effectsOf('say')).toMatchObject([{ promptId: 'shut' }]);
    const stormy = bench({}, { storm: { since: 0, until: 3_600_000 } });
    stormy.call(10, unroutedNumber);
    expect(stormy.effectsOf('say')).toMatchObject([{ promptId: 'shut' }]);
    const tied = {
      ...mainLine.steps,
      open: { ...mainLine.steps.open!, exits: { open: 'hello', closed: 'shut', storm: 'over' } },
    };
    const over = bench({ steps: tied }, { storm: { since: 0, until: 3_600_000 } });
    over.call(10, unroutedNumber);
    expect(over.ended()).toMatchObject([{ result: 'turnedAway' }]);
  });

  test('what is gone keeps nobody from going on: a prompt, hours; a plan that is gone leads nowhere', () => {
    const day = bench();
    day.at(1, { kind: 'configurationChanged', changes: { gone: ['h', 'hello'] } });
    day.call(4_000, unroutedNumber);
    expect(day.effectsOf('say')).toMatchObject([{ promptId: 'menu' }]);
    day.at(4_001, { kind: 'configurationChanged', changes: { gone: ['menu', 'main'] } });
    // The caller in it goes on in the plan as it was when they came; without the prompt they go on as after no key.
    day.at(4_020, { kind: 'clock' });
    expect(day.rung()).toEqual(['a']);
    day.call(4_100, unroutedNumber);
    expect(day.ended()).toMatchObject([{ result: 'unroutable' }]);
  });

  test('a caller in a menu is the same after a restart', () => {
    const day = bench();
    day.call(10, unroutedNumber);
    day.at(15, { kind: 'clock' });
    const again = day.exchange.fork();
    const event = {
      seq: day.exchange.seq + 1,
      at: 16_000,
      kind: 'keyPressed',
      leg: 'c1.1',
      key: '2',
    } as const;
    expect(again.handle(event, 'full')).toEqual(day.exchange.handle(event, 'full'));
    expect(again.view().calls.get('c1')!.activity.kind).toBe('recording');
  });

  test('types an extension: the longest that fits, after the time between digits; # ends it; nobody is asked again', () => {
    const config = { promptId: 'menu', waitSeconds: 3, tries: 2 };
    const exits = { noExtension: 'bookings' };
    const steps = { ...mainLine.steps, hello: { kind: 'extension', config, exits } as CompiledStep };
    const day = bench({ steps });
    day.at(1, {
      kind: 'configurationChanged',
      changes: {
        people: [person('a', { extension: '20' }), person('b', { extension: '2011' })],
        phones: [],
      },
    });
    const type = (at: number, keys: string, leg: string) =>
      [...keys].forEach((key) => day.at(at, { kind: 'keyPressed', leg, key }));
    day.call(10, unroutedNumber);
    type(12, '20', 'c1.1');
    expect(day.rung()).toEqual([]);
    day.at(15, { kind: 'clock' });
    expect(day.recordsOf('extensionDialled')).toMatchObject([{ digits: '20', name: 'Person a' }]);
    expect(day.rung()).toEqual(['a']);
    day.call(20, unroutedNumber);
    type(21, '2011', 'c2.1');
    expect(day.recordsOf('extensionDialled').at(-1)).toMatchObject({ digits: '2011', name: 'Person b' });
    day.call(40, unroutedNumber);
    type(41, '9', 'c3.1');
    type(43, '7#', 'c3.1');
    expect(day.recordsOf('wrongExtension').map(({ digits, tries }) => [digits, tries])).toEqual([
      ['9', 1],
      ['7', 2],
    ]);
    expect(brokenInvariants(day.exchange.view())).toEqual([]);
  });

  test('a caller is taken off every list, unless their number is withheld', () => {
    const steps = {
      ...mainLine.steps,
      hello: { kind: 'optOut', config: {}, exits: { next: 'over' } } as CompiledStep,
    };
    const day = bench({ steps });
    day.call(10, unroutedNumber);
    expect(day.effectsOf('optOut')).toMatchObject([{ e164: '+13605550117', callId: 'c1' }]);
    expect(day.recordsOf('optedOut')).toMatchObject([{ how: 'key' }]);
    expect([...day.exchange.view().optedOut.keys()]).toEqual(['+13605550117']);
    day.at(20, { kind: 'callArrived', callId: 'c2', to: unroutedNumber, from: 'anonymous' });
    expect(day.effectsOf('optOut')).toHaveLength(1);
    expect(day.ended()).toHaveLength(2);
  });

  test('in an overlay it goes the same way, and what it says can be sent to another thread', () => {
    const day = bench();
    day.call(10, unroutedNumber);
    day.at(15, { kind: 'clock' });
    const [fork, overlay] = [day.exchange.fork(), day.exchange.overlay()];
    for (const [seconds, key] of [
      [16, '7'],
      [17, '2'],
    ] as const) {
      const event = { seq: fork.seq + 1, at: seconds * 1000, kind: 'keyPressed', leg: 'c1.1', key } as const;
      const handled = overlay.handle(event, 'full');
      expect(structuredClone(handled)).toEqual(fork.handle(event, 'full'));
    }
    expect(JSON.stringify(overlay.snapshot())).toBe(JSON.stringify(fork.snapshot()));
    expect(day.exchange.view().calls.get('c1')!.activity.kind).toBe('step');
  });

  test('a circle that no caller leaves ends after a hundred steps', () => {
    const round = {
      ...mainLine.steps,
      over: { kind: 'plan', config: { planId: 'main' }, exits: {} } as CompiledStep,
    };
    const day = bench({ steps: round }, { weekly: every([]) });
    day.call(10, unroutedNumber);
    day.at(90_000, { kind: 'clock' });
    expect(day.recordsOf('tooManySteps')).toHaveLength(1);
    expect(day.ended()).toMatchObject([{ result: 'turnedAway' }]);
  });
});

describe('a language chosen by key', () => {
  const bilingual = [
    ...prompts.map((prompt) =>
      prompt.id === 'hello' ? { ...prompt, translations: { fr: 'bonjour' } } : prompt,
    ),
    { id: 'bonjour', name: 'Welcome, French', seconds: 9, words: 'Bienvenue à bord.' },
  ];
  const asked = {
    ...{
      ...menu,
      keys: [
        { key: '1', label: '' },
        { key: '2', label: 'Français', language: 'fr-CA' },
      ],
    },
  };
  const steps: CompiledPlan['steps'] = {
    menu: { kind: 'keys', config: asked, exits: { key1: 'hello', key2: 'hello', noKey: 'hello' } },
    hello: { kind: 'say', config: { promptId: 'hello', againKey: null }, exits: { next: 'menu2' } },
    menu2: { kind: 'keys', config: menu, exits: { key1: 'over', key2: 'box', noKey: 'over' } },
    box: { kind: 'voicemail', config: { boxId: 'a.box' }, exits: {} },
    over: end,
  };
  const begun = () => {
    const day = bench({ start: 'menu', steps });
    day.at(1, { kind: 'configurationChanged', changes: { prompts: bilingual } });
    day.call(10, unroutedNumber);
    return day;
  };
  const heard = (day: Bench) => day.effectsOf('say').map(({ promptId }) => promptId);
  const call = (day: Bench) => day.exchange.view().calls.get('c1')!;

  test('holds from there on, in every prompt that has it; the others are heard as they are', () => {
    const day = begun();
    press(day, 12, '2');
    day.at(21, { kind: 'clock' });
    // The region asked for is not there, its language is; the second menu has no French.
    expect(heard(day)).toEqual(['menu', 'bonjour', 'menu']);
    expect(brokenInvariants(day.exchange.view())).toEqual([]);
  });

  test('is told in the story, and is the same after a restart', () => {
    const day = begun();
    press(day, 12, '2');
    const told = ropeSteps(day.records.filter(({ callId }) => callId === 'c1'));
    expect(told.find(({ title }) => title === 'Pressed 2')?.reason).toBe(
      'Français, in Canadian French from here on',
    );
    const again = Exchange.restore(day.exchange.snapshot());
    expect(again.view().calls.get('c1')!.language).toBe('fr-CA');
  });

  test('is kept by who presses a key without one, and nobody who chose none has one', () => {
    const day = begun();
    press(day, 12, '1');
    day.at(16, { kind: 'clock' });
    expect(heard(day)).toEqual(['menu', 'hello', 'menu']);
    expect(call(day).language).toBeNull();
  });
});
