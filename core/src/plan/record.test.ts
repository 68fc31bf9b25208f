import { describe, expect, test } from 'vitest';
import {
  Bench,
  callerNumber,
  configuration,
  person,
  queue,
  unroutedNumber,
} from '../exchange/exchange.testing.ts';
import type { CompiledPlan, CompiledStep } from '../model/plan.ts';
import { testCallAt } from '../rehearse/test-call.ts';
import type { RecordFacts } from '../story/facts.ts';
import { ropeSteps } from '../story/describe.ts';

const ada: RecordFacts = {
  id: 'r',
  name: 'Ada Mole',
  ownerId: 'a',
  fields: { language: 'fr', tier: 'gold' },
};

const plan = (step: CompiledStep): CompiledPlan => ({
  ...{ id: 'p', version: 1, start: 's', fallback: { kind: 'end' } },
  steps: {
    s: step,
    hello: { kind: 'say', config: { promptId: 'hello', againKey: null }, exits: { next: 'q' } },
    q: { kind: 'queue', config: { queueId: 'q', priority: null }, exits: {} },
    end: { kind: 'end', config: {}, exits: {} },
  },
});
const set = (step: CompiledStep) => {
  const base = configuration([person('a'), person('b')], [queue('q', ['b'])]);
  return {
    ...base,
    prompts: [
      { id: 'ask', name: 'Your number', seconds: 2, words: 'Type your customer number.' },
      { id: 'hello', name: 'Hello', seconds: 2, words: 'Hello.', translations: { fr: 'bonjour' } },
      { id: 'bonjour', name: 'Bonjour', seconds: 3, words: 'Bonjour.' },
    ],
    numbers: base.numbers.map((number) =>
      number.e164 === unroutedNumber ? { ...number, plan: plan(step) } : number,
    ),
  };
};
const day = (step: CompiledStep) => {
  const bench = new Bench(set(step));
  bench.register(0, 'a');
  bench.register(0, 'b');
  return bench;
};
const arrives = (bench: Bench, record?: RecordFacts) => {
  bench.at(1, {
    ...{ kind: 'callArrived', callId: 'c1', to: unroutedNumber, from: callerNumber, priority: 0 },
    ...(record === undefined ? {} : { record }),
  });
  return bench.exchange.view().calls.get('c1');
};
const record = (languageField = ''): CompiledStep => ({
  ...{ kind: 'record', config: { languageField }, exits: { known: 'hello', notKnown: 'end' } },
});

describe('Record', () => {
  test('goes one way for who is known, another for who is not', () => {
    expect(arrives(day(record()), ada)?.activity.kind).toBe('step');
    const stranger = day(record());
    arrives(stranger);
    expect(stranger.ended()[0]).toMatchObject({ result: 'turnedAway' });
    expect(stranger.recordsOf('recordAsked')).toMatchObject([{ name: null, by: 'number' }]);
  });

  test('speaks as a field of the record says, where that is a language', () => {
    const heard = (field: string) => {
      const bench = day(record(field));
      arrives(bench, ada);
      return bench.recordsOf('said').map(({ name }) => name);
    };
    expect(heard('language')).toEqual(['Bonjour']);
    expect(heard('tier')).toEqual(['Hello']);
    expect(heard('')).toEqual(['Hello']);
  });

  test('what else the customer system says is not written into the story', () => {
    const bench = day(record());
    arrives(bench, ada);
    expect(bench.recordsOf('arrived')[0]!.record).toEqual({ id: 'r', name: 'Ada Mole', ownerId: 'a' });
  });
});

describe('Record owner', () => {
  const owner: CompiledStep = { kind: 'owner', config: { seconds: 9 }, exits: { notTaken: 'q' } };
  test('rings whoever looks after the caller', () => {
    const bench = day(owner);
    arrives(bench, ada);
    expect(bench.exchange.view().agents.get('a')!.ringing?.id).toBe('c1');
  });

  test.each([
    ['not known', undefined],
    ['looked after by nobody', { ...ada, ownerId: null }],
    ['looked after by somebody who is gone', { ...ada, ownerId: 'gone' }],
  ])('a caller %s goes on', (_who, known) => {
    const bench = day(owner);
    arrives(bench, known);
    expect(bench.exchange.view().agents.get('b')!.ringing?.id).toBe('c1');
  });

  test('whom they do not lift for goes on after the seconds set', () => {
    const bench = day(owner);
    arrives(bench, ada);
    bench.at(11, { kind: 'clock' });
    expect(bench.exchange.view().agents.get('b')!.ringing?.id).toBe('c1');
  });
});

describe('Customer number', () => {
  const asking: CompiledStep = {
    kind: 'customerNumber',
    config: {
      ...{ promptId: 'ask', field: '', waitSeconds: 6, tries: 2, limitSeconds: 4, languageField: 'language' },
    },
    exits: { known: 'hello', notKnown: 'end', noAnswer: 'q' },
  };
  const typed = (keys: string) => {
    const bench = day(asking);
    const call = arrives(bench)!;
    [...keys].forEach((key, index) =>
      bench.at(2 + index / 10, { kind: 'keyPressed', leg: call.legs[0]!.id, key }),
    );
    return bench;
  };
  const asked = (bench: Bench) => bench.effects.filter((effect) => effect.kind === 'lookUp');
  const answers = (bench: Bench, known: RecordFacts | null, failed = false, ask = 1) =>
    bench.at(4, { kind: 'lookedUp', callId: 'c1', asked: ask, record: known, failed });

  test('what is typed up to # is looked up, and whom it belongs to is known from then on', () => {
    const bench = typed('04711#');
    expect(asked(bench)).toMatchObject([{ digits: '04711', field: '', withinSeconds: 4, asked: 1 }]);
    answers(bench, ada);
    expect(bench.exchange.view().calls.get('c1')!.record).toEqual(ada);
    expect(bench.recordsOf('said').at(-1)).toMatchObject({ name: 'Bonjour' });
  });

  test('after some seconds without a digit too', () => {
    const bench = typed('12');
    bench.at(20, { kind: 'clock' });
    expect(asked(bench)).toMatchObject([{ digits: '12' }]);
  });

  test('nobody has it: asked again, then the way out; the story says how many digits, never which', () => {
    const bench = typed('99#');
    answers(bench, null);
    const call = bench.exchange.view().calls.get('c1')!;
    for (const key of '98#') bench.at(6, { kind: 'keyPressed', leg: call.legs[0]!.id, key });
    bench.at(7, { kind: 'lookedUp', callId: 'c1', asked: 2, record: null, failed: false });
    expect(bench.ended()[0]).toMatchObject({ result: 'turnedAway' });
    expect(bench.recordsOf('wrongCustomerNumber')).toMatchObject([
      { digits: 2, tries: 1, most: 2 },
      { digits: 2, tries: 2, most: 2 },
    ]);
    const told = JSON.stringify(ropeSteps(bench.records, null));
    expect(told).not.toMatch(/99|98/);
    expect(told).toContain('Typed 2 digits that no record has');
  });

  test('the system does not answer in time, or has a fault: the way of its own', () => {
    const slow = typed('99#');
    slow.at(20, { kind: 'clock' });
    expect(slow.recordsOf('lookUpFailed')).toMatchObject([{ why: 'slow', withinSeconds: 4 }]);
    expect(slow.exchange.view().calls.get('c1')!.queue!.item.id).toBe('q');
    const broken = typed('99#');
    answers(broken, null, true);
    expect(broken.recordsOf('lookUpFailed')).toMatchObject([{ why: 'fault' }]);
  });

  test('an answer that comes too late, or to another question, changes nothing', () => {
    const bench = typed('99#');
    answers(bench, ada, false, 7);
    expect(bench.exchange.view().calls.get('c1')!.record).toBeNull();
    bench.at(20, { kind: 'clock' });
    bench.at(21, { kind: 'lookedUp', callId: 'c1', asked: 1, record: ada, failed: false });
    expect(bench.exchange.view().calls.get('c1')!.record).toBeNull();
  });

  test('nothing typed counts as a try', () => {
    const bench = typed('#');
    expect(asked(bench)).toEqual([]);
    expect(bench.recordsOf('wrongCustomerNumber')).toMatchObject([{ digits: 0, tries: 1 }]);
  });

  test('a test call types what stands before #, then goes on with the other keys', () => {
    const at = { to: unroutedNumber, from: callerNumber, at: 1_000_000, plan: plan(asking) };
    const { story } = testCallAt(set(asking), { ...at, keys: '4711#', lookUps: { 4711: ada } }, () => 60_000);
    expect(story.find(({ kind }) => kind === 'recordAsked')).toMatchObject({ name: 'Ada Mole', by: 'typed' });
  });
});
