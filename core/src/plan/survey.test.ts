import { describe, expect, test } from 'vitest';
import {
  Bench,
  callerNumber,
  configuration,
  person,
  queue,
  unroutedNumber,
} from '../exchange/exchange.testing.ts';
import { brokenInvariants } from '../exchange/snapshot.ts';
import { Exchange } from '../exchange/exchange.ts';
import { ropeSteps } from '../story/describe.ts';
import { compiledPlan } from './document.ts';

const plan = compiledPlan('p', 1, {
  start: 'after',
  steps: {
    after: { kind: 'afterTalk', config: {}, exits: { next: 'q', afterwards: 'one' } },
    q: { kind: 'queue', config: { queueId: 'q', priority: null }, exits: {} },
    one: {
      kind: 'survey',
      config: { promptId: 'how', question: 'Friendly', waitSeconds: 6 },
      exits: { next: 'two', noAnswer: 'two' },
    },
    two: { kind: 'survey', config: { promptId: 'how', question: '', waitSeconds: 6 }, exits: {} },
  },
});
const set = () => {
  const base = configuration([person('a')], [queue('q', ['a'], { wrapUpSeconds: 30 })]);
  return {
    ...base,
    prompts: [{ id: 'how', name: 'How was it', seconds: 2, words: 'Press 1 to 5.' }],
    numbers: base.numbers.map((number) => (number.e164 === unroutedNumber ? { ...number, plan } : number)),
  };
};
/** A caller who talks with an agent since 10 s. */
function talking() {
  const bench = new Bench(set());
  bench.register(0, 'a');
  bench.at(1, { kind: 'callArrived', callId: 'c', to: unroutedNumber, from: callerNumber, priority: 0 });
  const legs = () => bench.exchange.view().calls.get('c')!.legs;
  bench.at(10, { kind: 'legAnswered', leg: legs().find(({ party }) => party === 'agent')!.id });
  return { bench, legs, agentLeg: legs().find(({ party }) => party === 'agent')!.id };
}
const press = ({ bench, legs }: ReturnType<typeof talking>, at: number, key: string) =>
  bench.at(at, { kind: 'keyPressed', leg: legs().find(({ party }) => party === 'caller')!.id, key });
const answers = (bench: Bench) =>
  bench.effects.flatMap((effect) =>
    effect.kind === 'surveyAnswered'
      ? [[effect.question, effect.answer, effect.personId, effect.queueId]]
      : [],
  );

describe('after the talk', () => {
  test('our side hangs up first: the caller is asked, the agent wraps up meanwhile, the call was answered', () => {
    const call = talking();
    const { bench, agentLeg } = call;
    bench.at(70, { kind: 'legEnded', leg: agentLeg });
    expect(brokenInvariants(bench.exchange.view())).toEqual([]);
    expect(bench.exchange.view().calls.get('c')!.activity.kind).toBe('step');
    expect(bench.exchange.view().agents.get('a')!.wrapUpUntil).toBe(100_000);
    press(call, 74, '4');
    press(call, 80, '5');
    expect(answers(bench)).toEqual([
      ['Friendly', 4, 'a', 'q'],
      ['How it was', 5, 'a', 'q'],
    ]);
    expect(bench.ended()[0]).toMatchObject({
      ...{ result: 'answered', personId: 'a', queueId: 'q', talkedMs: 60_000, waitedMs: 9_000 },
      ...{ endedAt: 80_000 },
    });
    const titles = ropeSteps(bench.records, null).map(({ title }) => title);
    expect(titles).toEqual(
      expect.arrayContaining(['Person a hangs up', 'Answered 4 of 5', 'Answered 5 of 5']),
    );
  });

  test('the caller hangs up in the middle: what was answered is kept, and the call was answered', () => {
    const call = talking();
    call.bench.at(70, { kind: 'legEnded', leg: call.agentLeg });
    press(call, 74, '2');
    call.bench.at(75, { kind: 'callerHungUp', callId: 'c' });
    expect(answers(call.bench)).toEqual([['Friendly', 2, 'a', 'q']]);
    expect(call.bench.ended()[0]).toMatchObject({ result: 'answered', endedBy: 'caller', talkedMs: 60_000 });
  });

  test('nobody presses anything: the call ends by itself, answered', () => {
    const { bench, agentLeg } = talking();
    bench.at(70, { kind: 'legEnded', leg: agentLeg });
    bench.at(200, { kind: 'clock' });
    expect(answers(bench)).toEqual([]);
    expect(bench.ended()[0]).toMatchObject({ result: 'answered' });
  });

  test('a wrong key asks once more', () => {
    const call = talking();
    call.bench.at(70, { kind: 'legEnded', leg: call.agentLeg });
    press(call, 74, '9');
    expect(call.bench.recordsOf('wrongKey')).toMatchObject([{ key: '9', tries: 1, most: 2 }]);
    press(call, 76, '3');
    expect(answers(call.bench)).toEqual([['Friendly', 3, 'a', 'q']]);
  });

  test('the caller hangs up first: nothing is asked', () => {
    const { bench } = talking();
    bench.at(70, { kind: 'callerHungUp', callId: 'c' });
    expect(bench.ended()[0]).toMatchObject({ result: 'answered', endedBy: 'caller' });
    expect(bench.recordsOf('talkOver')).toEqual([]);
  });

  test('a restart in the midst of the talk forgets nothing of it', () => {
    const { bench, agentLeg } = talking();
    const again = Exchange.restore(bench.exchange.snapshot());
    again.handle({ seq: again.seq + 1, at: 70_000, kind: 'legEnded', leg: agentLeg });
    expect(again.view().calls.get('c')).toMatchObject({ talkIsOver: true, activity: { kind: 'step' } });
  });
});
