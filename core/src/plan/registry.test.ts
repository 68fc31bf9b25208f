import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  Bench,
  configuration,
  person,
  queue,
  ringGroup,
  unroutedNumber,
} from '../exchange/exchange.testing.ts';
import { brokenInvariants } from '../exchange/snapshot.ts';
import type { OpeningHours } from '../hours/opening-hours.ts';
import { utcClock } from '../hours/zone-clock.ts';
import type { CompiledPlan, CompiledStep, StepKindName } from '../model/plan.ts';
import { checkPlan } from './check.ts';
import { checkView } from './check.testing.ts';
import { planOf, planTo, planWhenNobodyLifts } from './compile.ts';
import { configFault } from './config-fault.ts';
import { type Field, referencesOf } from './fields.ts';
import type { RingTarget } from '../model/ring.ts';
import type { Rule } from './rules.ts';
import { planKey, reachableSteps, stepBehind } from './graph.ts';
import { stepKinds } from './registry.ts';
import type { StepKind } from './step-kind.ts';

/** For each kind: a configuration that is taken, and what a call comes to rest in, or ends as, when it is run. */
const samples: Record<StepKindName, { config: Record<string, unknown>; runsTo: string }> = {
  say: { config: { promptId: 'hello', againKey: '*' }, runsTo: 'step' },
  keys: {
    config: { promptId: 'hello', keys: [{ key: '1', label: 'bookings' }], waitSeconds: 5, tries: 2 },
    runsTo: 'step',
  },
  rules: {
    config: {
      rules: [
        {
          id: 'r1',
          name: 'Storm',
          all: [{ about: 'queue', id: 'q', figure: 'waiting', is: 'atLeast', value: 5 }],
        },
        { id: 'r2', name: '', all: [{ about: 'hours', id: 'h', state: 'open' }] },
      ],
    },
    runsTo: 'turnedAway',
  },
  textBack: {
    config: { numberId: 'n0', words: 'Change your trip at example.com', hoursId: 'h' },
    runsTo: 'turnedAway',
  },
  afterTalk: { config: {}, runsTo: 'turnedAway' },
  survey: { config: { promptId: 'hello', question: 'Friendly', waitSeconds: 6 }, runsTo: 'step' },
  whenLeft: {
    config: { when: 'always', note: 'Called at night', numberId: 'n0', words: 'We call back.', hoursId: 'h' },
    runsTo: 'turnedAway',
  },
  ask: {
    config: {
      ...{ promptId: 'hello', waitSeconds: 5, tries: 2, numberId: 'n0', words: 'Answer here.' },
      answers: [{ id: 'a1', name: 'Times', phrases: ['sailing times', 'timetable'] }],
    },
    runsTo: 'step',
  },
  voicemailMenu: { config: { boxId: 'a.box' }, runsTo: 'step' },
  bot: { config: { botId: 'bot', waitSeconds: 6 }, runsTo: 'step' },
  recording: { config: { does: 'on', promptId: 'hello', mayPause: 'talker' }, runsTo: 'step' },
  record: { config: { languageField: 'language' }, runsTo: 'turnedAway' },
  owner: { config: { seconds: 9 }, runsTo: 'turnedAway' },
  customerNumber: {
    config: {
      ...{ promptId: 'hello', field: 'pin', waitSeconds: 6, tries: 2, limitSeconds: 4, languageField: '' },
    },
    runsTo: 'step',
  },
  region: { config: { tableId: 'regions' }, runsTo: 'offered' },
  hours: { config: { hoursId: 'h' }, runsTo: 'turnedAway' },
  extension: { config: { promptId: 'hello', waitSeconds: 3, tries: 2 }, runsTo: 'step' },
  optOut: { config: {}, runsTo: 'turnedAway' },
  ring: { config: { personId: 'a', seconds: 9 }, runsTo: 'offered' },
  ringSeveral: {
    config: { targets: [{ kind: 'person', id: 'a', seconds: 9 }], order: 'allAtOnce', rounds: 2 },
    runsTo: 'offered',
  },
  ringGroup: { config: { groupId: 'g' }, runsTo: 'offered' },
  otherPhones: { config: { personId: 'a' }, runsTo: 'turnedAway' },
  queue: { config: { queueId: 'q', priority: 2 }, runsTo: 'offered' },
  callBack: { config: { queueId: 'q', priority: null }, runsTo: 'offered' },
  voicemail: { config: { boxId: 'a.box' }, runsTo: 'recording' },
  outside: { config: { outsideId: 'o' }, runsTo: 'dialOut' },
  room: { config: { roomId: 'r' }, runsTo: 'conference' },
  fax: { config: { boxId: 'f' }, runsTo: 'receivingFax' },
  goTo: { config: { numberId: 'n0' }, runsTo: 'offered' },
  plan: { config: { planId: 'other' }, runsTo: 'offered' },
  serviceCode: { config: { codeId: 'code', personId: 'a' }, runsTo: 'step' },
  takePart: { config: { codeId: 'code', personId: 'a' }, runsTo: 'step' },
  comeBack: { config: {}, runsTo: 'turnedAway' },
  end: { config: {}, runsTo: 'turnedAway' },
};

/** The value of a field that names what is not there. */
function goneFor(type: Field['type'], value: unknown): unknown {
  if (type === 'item' || type === 'itemOrNone') return 'gone';
  if (type === 'rules')
    return (value as Rule[]).map((rule) => ({
      ...rule,
      all: rule.all.map((condition) => ('id' in condition ? { ...condition, id: 'gone' } : condition)),
    }));
  return type === 'ringTargets'
    ? (value as RingTarget[]).map((target) => ({ ...target, id: 'gone' }))
    : value;
}

const alwaysClosed: OpeningHours = {
  ...{ id: 'h', name: 'H', clock: utcClock, weekly: [[], [], [], [], [], [], []], days: {}, storm: null },
};

const set = {
  ...configuration([person('a')], [queue('q', ['a'])]),
  outsideNumbers: [
    { id: 'o', name: 'O', extension: null, e164: '+442079460123', trunkId: null, ringSeconds: 9 },
  ],
  rooms: [{ id: 'r', name: 'R', extension: null, pinHash: null, pinLength: 0, joinTone: true }],
  ringGroups: [ringGroup('g', { targets: [{ kind: 'person', id: 'a', seconds: 9 }] })],
  codes: [
    {
      ...{ id: 'code', name: 'Storm', digits: '*86', does: 'storm' as const, hoursIds: ['h'], forHours: 6 },
      ...{ pinHash: 'x', pinLength: 4, teamIds: [] },
    },
  ],
  faxBoxes: [{ id: 'f', name: 'F', extension: null }],
  hours: [alwaysClosed],
  regions: [
    {
      id: 'regions',
      name: 'Regions',
      ways: [{ destination: { kind: 'queue' as const, id: 'q' }, prefixes: '1' }],
    },
  ],
  bots: [{ id: 'bot', name: 'Ferry bot', limitSeconds: 4, mostTurns: 3 }],
  prompts: [{ id: 'hello', name: 'Hello', seconds: 3, words: 'Hello.' }],
  plans: [{ ...planOf('other', 1, { kind: 'queue', id: 'q' }), name: 'Other' }],
  rules: [
    ...[{ id: 'x', name: 'X', pattern: '+x.', strip: 0, prepend: '', trunkIds: ['t'], teamIds: [] }].map(
      (rule) => ({ ...rule, use: 'everybody' as const }),
    ),
  ],
};

const everythingThere = checkView();
const nothingThere = checkView({ has: () => false });

/** Runs a caller into `plan`; what they rest in, or the result when the call has ended. */
function run(plan: CompiledPlan): string {
  const numbers = set.numbers.map((number) =>
    number.e164 === unroutedNumber ? { ...number, plan } : number,
  );
  const bench = new Bench({ ...set, numbers });
  bench.register(0, 'a');
  const callId = bench.call(1, unroutedNumber);
  expect(brokenInvariants(bench.exchange.view())).toEqual([]);
  return bench.exchange.view().calls.get(callId)?.activity.kind ?? bench.ended()[0]!.result;
}

const planWith = (step: CompiledStep): CompiledPlan => ({
  ...{ id: 'p', version: 1, start: 's', fallback: { kind: 'end' } },
  steps: { s: step, last: { kind: 'end', config: {}, exits: {} } },
});

describe.each(Object.entries(stepKinds) as [StepKindName, StepKind][])('a step of kind %s', (name, kind) => {
  const { config, runsTo } = samples[name];

  test('is called by its name in the list, and has a word', () => {
    expect(kind.kind).toBe(name);
    expect(kind.word.length).toBeGreaterThan(2);
  });

  test('takes its sample, and refuses one that lacks a field or has one too many', () => {
    expect(configFault(kind.fields, config)).toBeNull();
    expect(configFault(kind.fields, kind.fresh as never, true)).toBeNull();
    expect(configFault(kind.fields, { ...config, unheardOf: 1 })).toContain('unheardOf');
    for (const field of Object.keys(config)) {
      const { [field]: _gone, ...less } = config;
      expect(configFault(kind.fields, less)).toContain(kind.fields[field]!.label);
    }
  });

  test('names what it refers to, and says so in words', () => {
    const references = referencesOf(kind.fields, config);
    const named = Object.entries(kind.fields).flatMap(([field, { type }]) =>
      type === 'item' || type === 'itemOrNone'
        ? [config[field]]
        : type === 'ringTargets'
          ? (config[field] as RingTarget[]).map(({ id }) => id)
          : type === 'rules'
            ? (config[field] as Rule[]).flatMap(({ all }) =>
                all.flatMap((each) => ('id' in each ? [each.id] : [])),
              )
            : [],
    );
    expect(references.map(({ id }) => id)).toEqual(named);
    const said = kind.describe(config as never, (of, id) => `the ${of} ${id}`);
    for (const { kind: of, id } of references) expect(said).toContain(`the ${of} ${id}`);
    expect(said.length).toBeGreaterThan(3);
  });

  test(`runs: the call comes to ${runsTo}`, () => {
    expect(run(planWith({ kind: name, config, exits: {} }))).toBe(runsTo);
  });

  test('has exits that the check knows, each with a label, and follows one that is connected', () => {
    const exits = kind.exits(config as never);
    expect(new Set(exits.map((exit) => exit.name)).size).toBe(exits.length);
    for (const exit of exits) {
      expect(exit.label.length).toBeGreaterThan(3);
      const plan = planWith({ kind: name, config, exits: { [exit.name]: 'last' } });
      const others = exits.filter(({ name: other, needed }) => needed === true && other !== exit.name);
      expect(checkPlan(plan, everythingThere)).toEqual(
        others.map(({ name: other, label }) => ({
          stepId: 's',
          grade: 'fault',
          code: 'open',
          exit: other,
          label,
        })),
      );
      expect(reachableSteps(plan)).toEqual(['s', 'last']);
      expect(stepBehind(plan, 's', exit.name)).toBe('last');
    }
    const wrong = planWith({ kind: name, config, exits: { unheardOf: 'last' } });
    expect(checkPlan(wrong, everythingThere)).toContainEqual({
      stepId: 's',
      grade: 'fault',
      code: 'exit',
      exit: 'unheardOf',
    });
  });

  test('whose item is gone leads on by an exit when that is connected, and else ends as unroutable', () => {
    if (name === 'otherPhones' || referencesOf(kind.fields, config).length === 0) return;
    const nowhere = Object.fromEntries(
      Object.entries(config).map(([field, value]) => [field, goneFor(kind.fields[field]!.type, value)]),
    );
    // What only speaks or asks goes on without it: no caller is lost for want of a sound.
    const goesOn = kind.destination(nowhere as never) === null;
    expect(run(planWith({ kind: name, config: nowhere, exits: {} }))).toBe(
      goesOn ? 'turnedAway' : 'unroutable',
    );
    const exit = name === 'goTo' ? 'unrouted' : name === 'ringSeveral' ? 'notTaken' : 'gone';
    expect(run(planWith({ kind: name, config: nowhere, exits: { [exit]: 'last' } }))).toBe('turnedAway');
    const findings = checkPlan(planWith({ kind: name, config: nowhere, exits: {} }), nothingThere);
    expect(findings).toContainEqual(expect.objectContaining({ code: 'gone', id: 'gone' }));
  });
});

describe('a plan', () => {
  test('of one step for every destination is sound, and known by its key', () => {
    for (const number of set.numbers)
      if (number.plan !== null) expect(checkPlan(number.plan, everythingThere)).toEqual([]);
    expect(planKey(planTo({ kind: 'queue', id: 'q' }))).toBe(planKey(planTo({ kind: 'queue', id: 'q' })));
    expect(planKey(planOf('x', 1, { kind: 'end' }))).not.toBe(planKey(planOf('x', 2, { kind: 'end' })));
  });

  test('for when nobody lifts is sound, whatever somebody set, and ends where a caller can rest', () => {
    const step = fc.oneof(
      fc.constantFrom(
        ...([{ kind: 'otherPhones' }, { kind: 'end' }, { kind: 'person', id: 'b' }] as const),
        ...([
          { kind: 'outside', id: 'o' },
          { kind: 'queue', id: 'q' },
          { kind: 'voicemail', id: 'v' },
        ] as const),
      ),
    );
    fc.assert(
      fc.property(fc.array(step, { maxLength: 6 }), fc.boolean(), (noAnswer, mailbox) => {
        const whose = person('a', { noAnswer, ...(mailbox ? {} : { voicemailBoxId: null }) });
        const plan = planWhenNobodyLifts(whose, 1);
        expect(checkPlan(plan, everythingThere)).toEqual([]);
        const last = plan.steps[reachableSteps(plan).at(-1)!]!;
        expect(['end', 'queue', 'voicemail']).toContain(last.kind);
      }),
    );
  });

  test('is looked through for what a caller cannot get to, and for what nobody knows', () => {
    const plan: CompiledPlan = {
      ...{ id: 'p', version: 1, start: 'nothing', fallback: { kind: 'end' } },
      steps: {
        a: { kind: 'dance' as StepKindName, config: {}, exits: {} },
        b: { kind: 'end', config: {}, exits: {} },
      },
    };
    expect(checkPlan(plan, everythingThere)).toEqual([
      { stepId: 'nothing', grade: 'fault', code: 'noStart' },
      { stepId: 'a', grade: 'fault', code: 'unknownKind' },
      { stepId: 'b', grade: 'doubt', code: 'unreachable' },
    ]);
  });

  test('is pinned by the calls in it: a newer one holds for the next', () => {
    const bench = new Bench(set);
    bench.register(0, 'a');
    const first = bench.call(1, set.numbers[0]!.e164);
    const plan = planOf('n0.direct', 2, { kind: 'voicemail', id: 'a.box' });
    bench.at(2, { kind: 'configurationChanged', changes: { numbers: [{ ...set.numbers[0]!, plan }] } });
    const second = bench.call(3, set.numbers[0]!.e164);
    const calls = bench.exchange.view().calls;
    expect([calls.get(first)!.route[0]!.plan.version, calls.get(second)!.route[0]!.plan.version]).toEqual([
      1, 2,
    ]);
    const again = bench.exchange.fork().view().calls;
    expect(again.get(first)!.route).toEqual(calls.get(first)!.route);
  });
});
