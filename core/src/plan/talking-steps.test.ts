import { describe, expect, test } from 'vitest';
import {
  Bench,
  callerNumber,
  configuration,
  person,
  queue,
  unroutedNumber,
} from '../exchange/exchange.testing.ts';
import { Exchange } from '../exchange/exchange.ts';
import { brokenInvariants } from '../exchange/snapshot.ts';
import type { BotAnswer } from '../model/bots.ts';
import type { CompiledStep } from '../model/plan.ts';
import type { RecordFacts } from '../story/facts.ts';
import { ropeSteps } from '../story/describe.ts';
import { compiledPlan, freshStep } from './document.ts';

const ada: RecordFacts = { id: 'r', name: 'Ada Mole', ownerId: null, fields: {} };
const answer: Answers[] = [
  { id: 'times', name: 'Times', phrases: ['times'] },
  { id: 'book', name: 'Book', phrases: ['book'] },
];
interface Answers {
  id: string;
  name: string;
  phrases: string[];
}

/** A caller in a plan of these steps, at second 1. Those named `q…` lead to the queue, those named `v…` to voicemail. */
function call(first: CompiledStep, more: { from?: string; record?: RecordFacts; optedOut?: boolean } = {}) {
  const base = configuration([person('a')], [queue('q', ['a'])]);
  const steps = {
    s: first,
    q: { kind: 'queue' as const, config: { queueId: 'q', priority: null }, exits: {} },
    v: { kind: 'voicemail' as const, config: { boxId: 'a.box' }, exits: {} },
    found: {
      kind: 'rules' as const,
      config: {
        rules: [
          { id: 'r1', name: '', all: [{ about: 'found', field: 'people', is: 'atLeast', value: '4' }] },
        ],
      },
      exits: { rule_r1: 'v', otherwise: 'q' },
    },
  };
  const bench = new Bench({
    ...base,
    bots: [{ id: 'bot', name: 'Ferry bot', limitSeconds: 4, mostTurns: 3 }],
    prompts: [{ id: 'how', name: 'How can we help', seconds: 2, words: 'How can we help?' }],
    numbers: base.numbers.map((number) =>
      number.e164 === unroutedNumber
        ? { ...number, plan: compiledPlan('p', 1, { start: 's', steps }) }
        : number,
    ),
  });
  const { from = callerNumber, record, optedOut = false } = more;
  bench.register(0, 'a');
  if (optedOut) bench.at(0, { kind: 'optedOut', e164: from });
  bench.at(1, {
    ...{ kind: 'callArrived', callId: 'c', to: unroutedNumber, from },
    ...(record === undefined ? {} : { record }),
  });
  expect(brokenInvariants(bench.exchange.view())).toEqual([]);
  return bench;
}
const at = (bench: Bench) => bench.exchange.view().calls.get('c')?.activity.kind ?? 'over';
const say = (bench: Bench, seconds: number, words: string, by: 'voice' | 'text' = 'voice') =>
  bench.at(seconds, { kind: 'spoken', leg: 'c.1', words, by }).refusal;
const titles = (bench: Bench) => ropeSteps(bench.records, null).map(({ title }) => title);

describe('ask', () => {
  const ask = (config: object = {}): CompiledStep => ({
    ...freshStep('ask'),
    config: { ...freshStep('ask').config, promptId: 'how', answers: answer, ...config },
    exits: { answertimes: 'q', answerbook: 'v', notUnderstood: 'v' },
  });

  test('what is said leads on by the answer it stands for', () => {
    const bench = call(ask());
    expect(bench.effectsOf('listen')).toMatchObject([{ leg: 'c.1', phrases: ['times', 'book'], seconds: 7 }]);
    expect(say(bench, 3, 'The sailing times, please')).toBeNull();
    expect(at(bench)).toBe('offered');
    expect(bench.recordsOf('understood')).toMatchObject([{ answer: 'Times', phrase: 'times', by: 'voice' }]);
    expect(say(bench, 4, 'times')).toBe('notExpected');
    expect(titles(bench)).toContain('Said “The sailing times, please”');
  });

  test('what is not understood, and silence, are asked again as often as set, then have their way', () => {
    const bench = call(ask());
    say(bench, 3, 'A horse');
    expect(at(bench)).toBe('step');
    say(bench, 5, 'A horse!');
    expect(at(bench)).toBe('recording');
    expect(bench.recordsOf('notUnderstood').map(({ tries }) => tries)).toEqual([1, 2]);
    const silent = call(ask());
    silent.at(8, { kind: 'clock' });
    silent.at(15, { kind: 'clock' });
    expect(silent.recordsOf('saidNothing')).toHaveLength(2);
    expect(at(silent)).toBe('recording');
  });

  test('a text goes with it: who types has longer, and the answer counts as spoken', () => {
    const bench = call(ask({ numberId: 'n0', words: 'Times or book?' }));
    expect(bench.effectsOf('text')).toMatchObject([
      { numberId: 'n0', to: callerNumber, body: 'Times or book?' },
    ]);
    bench.at(40, { kind: 'clock' });
    expect(say(bench, 41, 'book', 'text')).toBeNull();
    expect(titles(bench)).toContain('Wrote “book”');
    const silent = call(ask({ numberId: 'n0', words: 'Times or book?' }), { optedOut: true });
    expect(silent.effectsOf('text')).toEqual([]);
    expect(silent.recordsOf('textNotSent')).toMatchObject([{ why: 'optedOut' }]);
    silent.at(8, { kind: 'clock' });
    expect(silent.recordsOf('saidNothing')).toHaveLength(1);
  });

  test('a prompt that is gone is as good as no answer', () => {
    expect(at(call(ask({ promptId: 'gone' })))).toBe('recording');
  });
});

describe('a bot', () => {
  const bot: CompiledStep = {
    ...{ kind: 'bot', config: { botId: 'bot', waitSeconds: 5 } },
    exits: { done: 'found', handOver: 'q', noAnswer: 'v' },
  };
  const turn = (change: Partial<BotAnswer> = {}): BotAnswer => ({
    ...{ say: 'Which sailing do you mean?', then: 'listen', facts: {}, language: null },
    ...change,
  });
  const reply = (bench: Bench, seconds: number, asked: number, change: Partial<BotAnswer> = {}) =>
    bench.at(seconds, { kind: 'botAnswered', callId: 'c', asked, answer: turn(change), why: null }).refusal;

  test('talks turn by turn, and what it found out goes on with the call', () => {
    const bench = call(bot);
    expect(bench.effectsOf('askBot')).toMatchObject([
      { asked: 1, botId: 'bot', turn: 1, said: '', from: callerNumber, found: {}, withinSeconds: 4 },
    ]);
    reply(bench, 2, 1);
    expect(bench.effectsOf('say')).toMatchObject([{ promptId: null, words: 'Which sailing do you mean?' }]);
    say(bench, 5, 'The 9:40, four of us');
    expect(bench.effectsOf('askBot')[1]).toMatchObject({ asked: 2, turn: 2, said: 'The 9:40, four of us' });
    reply(bench, 6, 2, {
      say: 'On time.',
      then: 'done',
      facts: { sailing: '9:40', people: '4' },
      language: 'fr',
    });
    expect(at(bench)).toBe('step');
    bench.at(9, { kind: 'clock' });
    expect(at(bench)).toBe('recording');
    expect(bench.exchange.view().calls.get('c')).toMatchObject({
      ...{ language: 'fr', found: { sailing: '9:40', people: '4' } },
    });
    expect(titles(bench)).toEqual(
      expect.arrayContaining(['The bot said “Which sailing do you mean?”', 'Said “The 9:40, four of us”']),
    );
  });

  test('hands over at once when it says nothing, and a restart in between forgets no turn', () => {
    const bench = call(bot);
    reply(bench, 2, 1);
    const again = Exchange.restore(bench.exchange.snapshot());
    again.handle({
      seq: again.seq + 1,
      at: 4_000,
      kind: 'spoken',
      leg: 'c.1',
      words: 'A person',
      by: 'voice',
    });
    again.handle({
      ...{ seq: again.seq + 1, at: 5_000, kind: 'botAnswered', callId: 'c', asked: 2, why: null },
      answer: turn({ say: '', then: 'handOver' }),
    });
    again.handle({ seq: again.seq + 1, at: 5_001, kind: 'clock' });
    expect(again.view().calls.get('c')!.activity.kind).toBe('offered');
  });

  test.each(['slow', 'fault', 'nonsense', 'tooLarge'] as const)('that is %s has a way of its own', (why) => {
    const bench = call(bot);
    if (why === 'slow') bench.at(5, { kind: 'clock' });
    else bench.at(2, { kind: 'botAnswered', callId: 'c', asked: 1, answer: null, why });
    expect(at(bench)).toBe('recording');
    expect(bench.recordsOf('botFailed')).toMatchObject([{ name: 'Ferry bot', why }]);
    expect(reply(bench, 6, 1)).toBe('notExpected');
  });

  test('silence is told to it; one that comes to no end is stopped, and hands over', () => {
    const bench = call(bot);
    for (const [seconds, asked] of [
      [2, 1],
      [11, 2],
      [20, 3],
    ] as const)
      reply(bench, seconds, asked);
    bench.at(29, { kind: 'clock' });
    expect(bench.effectsOf('askBot').map(({ said }) => said)).toEqual(['', '', '']);
    expect(bench.recordsOf('botStopped')).toMatchObject([{ turns: 3 }]);
    expect(at(bench)).toBe('offered');
  });

  test('an answer to another turn, and words while it thinks, change nothing', () => {
    const bench = call(bot);
    expect(reply(bench, 2, 9)).toBe('notExpected');
    expect(say(bench, 2, 'hello')).toBe('notExpected');
    expect(at(bench)).toBe('step');
  });
});

describe('when the caller has left', () => {
  const left = (config: object = {}): CompiledStep => ({
    ...{ kind: 'whenLeft', exits: { next: 'q' } },
    config: {
      ...{ when: 'notAnswered', note: 'Called {{ call.number }} in vain', hoursId: '' },
      ...{ numberId: 'n0', words: 'Sorry, {{ record.name }}. We call back.', ...config },
    },
  });
  const notes = (bench: Bench) => bench.effectsOf('recordNote').map(({ words }) => words);
  const texts = (bench: Bench) => bench.effectsOf('text').map(({ body }) => body);

  test('unanswered: their record is told, and they have a text, once', () => {
    const bench = call(left(), { record: ada });
    expect(texts(bench)).toEqual([]);
    bench.at(9, { kind: 'callerHungUp', callId: 'c' });
    expect(notes(bench)).toEqual(['Called +1 206 555 0142 in vain']);
    expect(texts(bench)).toEqual(['Sorry, Ada Mole. We call back.']);
    expect(titles(bench)).toEqual(expect.arrayContaining(['Note to Ada Mole']));
  });

  test('answered: nothing, unless it is for all of them', () => {
    for (const [when, count] of [
      ['notAnswered', 0],
      ['always', 1],
    ] as const) {
      const bench = call(left({ when }), { record: ada });
      bench.at(5, { kind: 'legAnswered', leg: bench.lastLeg() });
      bench.at(60, { kind: 'callerHungUp', callId: 'c' });
      expect([notes(bench).length, texts(bench).length]).toEqual([count, count]);
    }
  });

  test('a caller nobody knows has no note, one who wants none no text', () => {
    const bench = call(left(), { optedOut: true });
    bench.at(9, { kind: 'callerHungUp', callId: 'c' });
    expect([notes(bench), texts(bench)]).toEqual([[], []]);
    expect(bench.recordsOf('noteNotLeft')).toMatchObject([{ why: 'notKnown' }]);
    expect(bench.recordsOf('textNotSent')).toMatchObject([{ why: 'optedOut' }]);
    const plain = call(left({ note: '', numberId: '' }), { record: ada });
    plain.at(9, { kind: 'callerHungUp', callId: 'c' });
    expect([notes(plain), texts(plain)]).toEqual([[], []]);
  });

  test('a restart forgets none of it', () => {
    const bench = call(left(), { record: ada });
    const again = Exchange.restore(bench.exchange.snapshot());
    const { effects } = again.handle({ seq: again.seq + 1, at: 9_000, kind: 'callerHungUp', callId: 'c' });
    expect(effects.map(({ kind }) => kind)).toEqual(expect.arrayContaining(['recordNote', 'text']));
  });
});
