import { expect, test } from 'vitest';
import { answeringFindings, type AnsweringInput } from './answering.ts';

const plan = {
  id: 'p',
  name: 'Main line',
  published: true,
  found: [] as AnsweringInput['plans'][number]['found'],
  numbers: 1,
};
const prompt = { id: 's', name: 'Welcome', published: true, hasSound: true, clipping: false };
const box = {
  id: 'b',
  name: 'Freight',
  fresh: 0,
  full: false,
  listeners: 2,
  greetingOfAnother: null as string | null,
};
const codes = (
  plans: Partial<typeof plan>[],
  prompts: Partial<typeof prompt>[] = [],
  boxes: Partial<typeof box>[] = [],
  storageFull = false,
  more: Partial<AnsweringInput> = {},
) =>
  answeringFindings({
    ...{ hours: [], ofAnother: [], leaveBehinds: [], forwardLoops: [] },
    plans: plans.map((each) => ({ ...plan, ...each })),
    prompts: prompts.map((each) => ({ ...prompt, ...each })),
    boxes: boxes.map((each) => ({ ...box, ...each })),
    storageFull,
    ...more,
  }).map(({ code, severity }) => `${severity} ${code}`);

test('a plan callers meet is whole, and one that a number leads to is published', () => {
  expect(codes([{}])).toEqual([]);
  const found = (['fault', 'doubt'] as const).map((grade) => ({
    ...{ grade, stepId: 's4', number: '4', words: 'It offers no key. Add one.' },
  }));
  expect(codes([{ found }])).toEqual(['fault planFaulty', 'missing planDoubtful']);
  expect(codes([{ published: false }])).toEqual(['fault planNotPublished']);
  // A draft that nobody is sent to is work going on.
  expect(codes([{ published: false, numbers: 0 }])).toEqual([]);
});

test('a prompt that is played is published, has a sound, and is not too loud: the first of these is said', () => {
  expect(
    codes(
      [],
      [{}, { clipping: true }, { hasSound: false, clipping: true }, { published: false, hasSound: false }],
    ),
  ).toEqual(['missing promptClipping', 'missing promptWithoutSound', 'missing promptNotPublished']);
});

test('a finding of a plan leads to its step, and of one plan not more are told than can be read', () => {
  const one = { grade: 'doubt' as const, stepId: 's4', number: '4', words: 'Say where it goes.' };
  const input = {
    plans: [{ ...plan, found: Array.from({ length: 30 }, () => one) }],
    hours: [],
    prompts: [],
  };
  const rest = { ofAnother: [], leaveBehinds: [], forwardLoops: [], boxes: [], storageFull: false };
  const found = answeringFindings({ ...input, ...rest });
  expect(found).toHaveLength(20);
  expect(found[0]).toMatchObject({
    detail: 'step 4: Say where it goes.',
    place: 's4',
    itemName: 'Main line',
  });
});

test('hours that something goes by are open some time, and have unusual days ahead', () => {
  const set = { id: 'h', name: 'Office', neverOpen: false, lastDay: null as string | null };
  const of = (more: Partial<typeof set>) => codes([], [], [], false, { hours: [{ ...set, ...more }] });
  expect(of({})).toEqual([]);
  expect(of({ neverOpen: true, lastDay: '2026-01-01' })).toEqual(['missing hoursNeverOpen']);
  expect(of({ lastDay: '2026-01-01' })).toEqual(['missing hoursDaysOver']);
});

test('a box is heard by somebody, takes messages, and greets with its own voice', () => {
  expect(codes([], [], [{}, { listeners: 0 }])).toEqual([]);
  expect(codes([], [], [{ listeners: 0, fresh: 3 }])).toEqual(['fault boxUnheard']);
  expect(codes([], [], [{ full: true, greetingOfAnother: 'Tom leaves' }])).toEqual([
    ...['fault boxFull', 'fault boxGreetingOfAnother'],
  ]);
  expect(codes([], [], [], true)).toEqual(['fault storageFull']);
});

test('leave-behinds are told apart by what stands in a short list', () => {
  const named = (...names: string[]) => names.map((name, i) => ({ id: String(i), name }));
  const found = (...names: string[]) => codes([], [], [], false, { leaveBehinds: named(...names) });
  expect(found('Booking open, spring', 'Booking open, summer')).toEqual([]);
  expect(found('Booking reminder for spring', 'Booking reminder for summer', 'Freight')).toEqual([
    'missing leaveBehindsAlike',
  ]);
  expect(found('Freight', 'freight ')).toEqual(['missing leaveBehindsAlike']);
});

test('what is of somebody else, and a number outside that sends calls back, are faults', () => {
  expect(
    codes([], [], [], false, {
      ofAnother: [{ id: 's', name: 'Tom is out', plan: 'Main line' }],
      forwardLoops: [{ id: 'o', name: 'Harbour pilot' }],
    }),
  ).toEqual(['fault promptOfAnother', 'fault forwardLoop']);
});
