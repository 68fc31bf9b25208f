import { describe, expect, test } from 'vitest';
import {
  Bench,
  callerNumber,
  configuration,
  person,
  queue,
  unroutedNumber,
} from '../exchange/exchange.testing.ts';
import type { OpeningHours } from '../hours/opening-hours.ts';
import { utcClock } from '../hours/zone-clock.ts';
import type { RecordFacts } from '../story/facts.ts';
import { ropeSteps } from '../story/describe.ts';
import { checkPlan } from './check.ts';
import { checkView } from './check.testing.ts';
import { compiledPlan, freshStep } from './document.ts';

const ada: RecordFacts = { id: 'r', name: 'Ada Mole', ownerId: null, fields: { 'Next sailing': 'the 9:40' } };
const never: OpeningHours = {
  ...{
    id: 'h',
    name: 'Office',
    clock: utcClock,
    weekly: [[], [], [], [], [], [], []],
    days: {},
    storm: null,
  },
};
const words =
  '{{ record.name }}, {{ record.next_sailing }} is cancelled. Change it at example.com. {{ call.number }}';

function call(config: object, more: { from?: string; record?: RecordFacts; optedOut?: boolean } = {}) {
  const base = configuration([person('a')], [queue('q', ['a'])]);
  const steps = {
    s: {
      ...{ kind: 'textBack' as const, exits: { next: 'q', notSent: 'end' } },
      config: { ...freshStep('textBack').config, numberId: 'n0', words, ...config },
    },
    q: { kind: 'queue' as const, config: { queueId: 'q', priority: null }, exits: {} },
    end: freshStep('end'),
  };
  const plan = compiledPlan('p', 1, { start: 's', steps });
  const bench = new Bench({
    ...{ ...base, hours: [never] },
    numbers: base.numbers.map((number) => (number.e164 === unroutedNumber ? { ...number, plan } : number)),
  });
  const { from = callerNumber, record, optedOut = false } = more;
  if (optedOut) bench.at(0, { kind: 'optedOut', e164: from });
  bench.at(1, {
    ...{ kind: 'callArrived', callId: 'c', to: unroutedNumber, from, priority: 0 },
    ...(record === undefined ? {} : { record }),
  });
  return bench;
}
const texts = (bench: Bench) => bench.effects.filter((effect) => effect.kind === 'text');

describe('Text back', () => {
  test('sends the caller a text with fields of their record, and goes on', () => {
    const bench = call({}, { record: ada });
    const [text] = texts(bench);
    expect(text).toMatchObject({ callId: 'c', numberId: 'n0', to: callerNumber });
    expect(text!.body).toMatch(/^Ada Mole, the 9:40 is cancelled\. Change it at example\.com\. \+1 /);
    expect(bench.exchange.view().calls.get('c')!.queue!.item.id).toBe('q');
    expect(ropeSteps(bench.records, null).find(({ caption }) => caption === 'text sent')?.reason).toContain(
      '9:40',
    );
  });

  test.each([
    ['a number that is withheld', {}, { from: 'anonymous' }, 'withheld'],
    ['who opted out', {}, { optedOut: true }, 'optedOut'],
    ['outside opening hours', { hoursId: 'h' }, {}, 'closed'],
    ['nothing left of the words', { words: '{{ record.name }}' }, {}, 'empty'],
    ['a number of ours that is gone', { numberId: 'gone' }, {}, 'numberGone'],
  ])('%s gets none, by a way of its own', (_who, config, more, why) => {
    const bench = call(config, more);
    expect(texts(bench)).toEqual([]);
    expect(bench.recordsOf('textNotSent')).toMatchObject([{ why }]);
    expect(bench.ended()[0]).toMatchObject({ result: 'turnedAway' });
  });

  test('fields that no record has are a doubt, with the nearest', () => {
    const plan = compiledPlan('p', 1, {
      start: 's',
      steps: {
        s: {
          kind: 'textBack',
          config: { numberId: 'n', words: '{{ record.teir }}', hoursId: '' },
          exits: {},
        },
      },
    });
    const codes = (recordFields: () => string[] | null) =>
      checkPlan(plan, checkView({ recordFields })).flatMap((each) =>
        each.code === 'textField' ? [each.said] : [],
      );
    expect(codes(() => ['tier'])).toEqual([expect.stringContaining('Perhaps record.tier?')]);
    expect(codes(() => null)).toEqual([]);
  });
});
