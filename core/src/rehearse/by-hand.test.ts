import { describe, expect, test } from 'vitest';
import {
  Bench,
  callerNumber,
  configuration,
  mainNumber,
  person,
  queue,
  unroutedNumber,
} from '../exchange/exchange.testing.ts';
import type { CompiledPlan } from '../model/plan.ts';
import { compiledPlan } from '../plan/document.ts';
import { type BotReply, type HandMove, testCallAt, testCallNow, type TestResult } from './test-call.ts';

/** A menu: 1 to the queue, nothing to voicemail. */
const menu: CompiledPlan = {
  ...{ id: 'm', version: 1, start: 's1', fallback: { kind: 'end' } },
  steps: {
    s1: {
      kind: 'keys',
      config: { promptId: 'ask', keys: [{ key: '1', label: 'bookings' }], waitSeconds: 5, tries: 2 },
      exits: { key1: 's2', noKey: 's3' },
    },
    s2: { kind: 'queue', config: { queueId: 'q', priority: null }, exits: {} },
    s3: { kind: 'voicemail', config: { boxId: 'a.box' }, exits: {} },
  },
};
const set = {
  ...configuration([person('a'), person('b')], [queue('q', ['a', 'b'], { ringSeconds: 20 })]),
  prompts: [{ id: 'ask', name: 'Ask', seconds: 4, words: 'Press 1.' }],
};
const play = (untilMs: number, ...moves: HandMove[]) =>
  testCallAt(
    set,
    { to: unroutedNumber, from: callerNumber, at: 1_000_000, plan: menu, hand: { moves, untilMs } },
    () => 60_000,
  );

test('the steps a call came through are told, and by which exit it came to each', () => {
  const at = { to: unroutedNumber, from: callerNumber, at: 1_000_000, plan: menu };
  const path = (keys: string) => testCallAt(set, { ...at, keys }, () => 60_000).path;
  const first = { planId: 'm', stepId: 's1', by: null };
  expect(path('1')).toEqual([first, { planId: 'm', stepId: 's2', by: { stepId: 's1', exit: 'key1' } }]);
  expect(path('')).toEqual([first, { planId: 'm', stepId: 's3', by: { stepId: 's1', exit: 'noKey' } }]);
});

describe('a test call played by hand', () => {
  test('waits for the caller, and says what they hear and which keys are offered', () => {
    expect(play(0).hand).toEqual({
      ...{ atMs: 0, over: false, hears: { promptId: 'ask', words: 'Press 1.' }, keys: ['1'] },
      ...{ listens: false, rings: [], talksWith: null },
    });
  });

  test('a key leads on; whoever is rung neither lifts nor declines by themselves', () => {
    const { hand } = play(3_000, { afterMs: 2_000, does: 'key', key: '1' });
    expect(hand).toMatchObject({
      rings: [{ personId: 'a', name: 'Person a' }],
      hears: null,
      talksWith: null,
    });
  });

  test('who declines lets the next ring; who lifts talks until the caller hangs up', () => {
    const moves: HandMove[] = [
      { afterMs: 2_000, does: 'key', key: '1' },
      { afterMs: 4_000, does: 'decline', personId: 'a' },
    ];
    expect(play(5_000, ...moves).hand!.rings).toMatchObject([{ personId: 'b' }]);
    const lifted: HandMove[] = [...moves, { afterMs: 6_000, does: 'lift', personId: 'b' }];
    expect(play(7_000, ...lifted).hand).toMatchObject({ talksWith: 'Person b', rings: [] });
    const ended = play(9_000, ...lifted, { afterMs: 8_000, does: 'hangUp' });
    expect(ended.hand!.over).toBe(true);
    expect(ended.outcome).toMatchObject({ kind: 'ended', result: 'answered' });
  });

  test('waiting lets times run out, as they would', () => {
    const { hand, story } = play(25_000);
    expect(story.filter(({ kind }) => kind === 'noKey')).toHaveLength(2);
    expect(hand).toMatchObject({ over: false, hears: null, keys: [] });
    expect(story.at(-1)).toMatchObject({ kind: 'voicemail' });
  });

  test('a move that means nothing changes nothing', () => {
    const odd = play(
      3_000,
      { afterMs: 1_000, does: 'lift', personId: 'nobody' },
      { afterMs: 1_500, does: 'key', key: '#' },
    );
    expect(odd.hand!.over).toBe(false);
    expect(
      play(9_000, { afterMs: 1_000, does: 'hangUp' }, { afterMs: 2_000, does: 'hangUp' }).hand!.over,
    ).toBe(true);
  });

  test('in the exchange as it is now touches nobody', () => {
    const day = new Bench(set);
    day.register(1, 'a');
    day.at(1, { kind: 'agentSignedIn', personId: 'a' });
    const before = JSON.stringify(day.exchange.snapshot());
    const { hand } = testCallNow(
      day.exchange,
      {
        ...{ to: mainNumber, from: callerNumber, at: 5_000 },
        hand: { moves: [{ afterMs: 3_000, does: 'lift', personId: 'a' }], untilMs: 6_000 },
      },
      () => 60_000,
    );
    expect(hand).toMatchObject({ talksWith: 'Person a' });
    expect(JSON.stringify(day.exchange.snapshot())).toBe(before);
  });
});

describe('a test call that is spoken in', () => {
  const answers = [
    { id: 'a1', name: 'Times', phrases: ['times'] },
    { id: 'a2', name: 'Book', phrases: ['book'] },
  ];
  const plan = compiledPlan('m', 1, {
    start: 's1',
    steps: {
      s1: {
        kind: 'ask',
        config: { promptId: 'ask', answers, waitSeconds: 5, tries: 2, numberId: '', words: '' },
        exits: { answera1: 's2', answera2: 's3', notUnderstood: 's3' },
      },
      s2: { kind: 'bot', config: { botId: 'b', waitSeconds: 5 }, exits: { handOver: 's3', noAnswer: 's3' } },
      s3: { kind: 'end', config: {}, exits: {} },
    },
  });
  const spoken = { ...set, bots: [{ id: 'b', name: 'Ferry bot', limitSeconds: 4, mostTurns: 5 }] };
  const at = { to: unroutedNumber, from: callerNumber, at: 1_000_000, plan };
  const run = (says: string[], botAnswers: BotReply[] = []) =>
    testCallAt(spoken, { ...at, says, botAnswers }, () => 60_000);
  const kinds = (result: TestResult) => result.story.map(({ kind }) => kind);

  test('words are said one after the other, each where somebody listens; with none left there is silence', () => {
    expect(kinds(run(['A horse', 'Book it']))).toEqual(
      expect.arrayContaining(['notUnderstood', 'understood']),
    );
    expect(kinds(run([])).filter((kind) => kind === 'saidNothing')).toHaveLength(2);
  });

  test('what a bot is asked first without an answer is told; with its answer the call goes on from there', () => {
    const first = run(['The times', 'Nine forty']);
    expect(first.asksBot).toMatchObject({ botId: 'b', turn: 1, said: '' });
    expect(first.assumptions).toContain('botWasAsked');
    const answer = { say: 'Which?', then: 'listen', facts: {}, language: null } as const;
    const second = run(['The times', 'Nine forty'], [{ answer, why: null }]);
    expect(second.asksBot).toMatchObject({ turn: 2, said: 'Nine forty' });
    expect(kinds(second)).toContain('botSaid');
    const third = run(['The times'], [{ answer: null, why: 'nonsense' }]);
    expect(third.asksBot).toBeUndefined();
    expect(kinds(third)).toContain('botFailed');
  });

  test('by hand the caller is told that somebody listens, and says something when they like', () => {
    const hand = (moves: HandMove[], untilMs: number) =>
      testCallAt(spoken, { ...at, hand: { moves, untilMs } }, () => 60_000);
    expect(hand([], 1_000).hand).toMatchObject({ listens: true });
    const said = hand([{ afterMs: 3_000, does: 'say', words: 'book' }], 4_000);
    expect(said.hand).toMatchObject({ over: true, listens: false });
    expect(kinds(said)).toContain('understood');
  });
});
