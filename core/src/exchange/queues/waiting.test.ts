import { describe, expect, test } from 'vitest';
import type { QueueItem } from '../../model/configuration.ts';
import { ropeSteps } from '../../story/describe.ts';
import { Bench, callerNumber, configuration, mainNumber, person, queue } from '../exchange.testing.ts';
import { Exchange } from '../exchange.ts';
import type { State } from '../kernel/state.ts';
import { phoneLinesOf } from '../offers/phone-lines.ts';
import { brokenInvariants } from '../snapshot.ts';

const french = (minimum: number, relaxes: { afterSeconds: number; minimum: number }[] = []) => ({
  ...{ skillId: 'french', name: 'French', minimum, relaxes },
});
const levels: Record<string, number> = { a: 5, b: 3, c: 0 };

/** People a, b, c with French at 5, 3 and 0, in queue q; queue r is for whom q sends on. */
function bench(change: Partial<QueueItem>, others: QueueItem[] = [], members = ['a', 'b', 'c']): Bench {
  const made = new Bench(
    configuration(
      ['a', 'b', 'c'].map((id) => person(id, { skills: { french: levels[id]! } })),
      [queue('q', members, { wrapUpSeconds: 0, ...change }), ...others],
    ),
  );
  made.register(0, 'a', 'b', 'c');
  return made;
}
const state = ({ exchange }: Bench) => exchange.view() as State;
const clock = (of: Bench, at: number) => of.at(at, { kind: 'clock' });
const away = (of: Bench, at: number, ...who: string[]) => {
  for (const personId of who) of.at(at, { kind: 'agentAway', personId, reason: 'lunch' });
};
const titles = (of: Bench, callId: string) =>
  ropeSteps(of.records.filter((record) => record.callId === callId)).map(({ title }) => title);
const answers = (of: Bench, at: number) => of.at(at, { kind: 'legAnswered', leg: of.lastLeg() });

describe('a wait gets easier', () => {
  test('a lower level is enough after its seconds, and the story says so', () => {
    const of = bench({ skills: [french(4, [{ afterSeconds: 40, minimum: 2 }])] }, [], ['b', 'c']);
    of.call(1);
    clock(of, 40);
    expect(of.rung()).toEqual([]);
    clock(of, 41);
    expect(of.rung()).toEqual(['b']);
    answers(of, 43);
    expect(titles(of, 'c1')).toContain('After 0:40 French at 2 is enough');
    const [before, after] = of.recordsOf('decision');
    const reasons = before!.candidates.listed.find(({ personId }) => personId === 'b')!.reasons;
    expect(reasons.map(({ code }) => code)).toEqual(['skillTooLow', 'notYet']);
    // c will never do: nothing is said of a later stage.
    expect(after!.candidates.listed.find(({ personId }) => personId === 'c')!.reasons).toEqual([
      { code: 'skillTooLow', skill: 'French', level: 0, minimum: 2 },
    ]);
  });

  test('more people join after their seconds, by name', () => {
    const of = bench({ joinsAfter: [0, 20, 30] });
    away(of, 1, 'a');
    of.call(2);
    clock(of, 21);
    expect(of.rung()).toEqual([]);
    clock(of, 22);
    expect(of.rung()).toEqual(['b']);
    expect(titles(of, 'c1')).toContain('After 0:20 Person b may be rung too');
  });

  test('who waits longer may be rung whom the first in line may not: nobody is held up', () => {
    const of = bench({ joinsAfter: [0, 30, 0] }, [], ['a', 'b']);
    away(of, 1, 'a', 'b');
    const early = of.call(2);
    // Before all others, and cannot be served yet by b.
    const late = of.call(20, mainNumber, 5);
    of.at(33, { kind: 'agentSignedIn', personId: 'b' });
    expect(of.effectsOf('ring').map(({ callId }) => callId)).toEqual([early]);
    answers(of, 34);
    of.at(35, { kind: 'callerHungUp', callId: early });
    expect(of.effectsOf('ring')).toHaveLength(1);
    clock(of, 50);
    expect(of.effectsOf('ring').at(-1)!.callId).toBe(late);
  });

  test('goes on after a restart where it was', () => {
    const of = bench({ skills: [french(4, [{ afterSeconds: 40, minimum: 2 }])] }, [], ['b']);
    of.call(1);
    clock(of, 30);
    const again = Exchange.restore(JSON.parse(JSON.stringify(of.exchange.snapshot())));
    expect(brokenInvariants(again.view())).toEqual([]);
    const { effects } = again.handle({ seq: again.seq + 1, at: 41_000, kind: 'clock' });
    expect(effects.some((effect) => effect.kind === 'ring' && effect.personId === 'b')).toBe(true);
  });

  test('whoever waits when the set-up changes is at the stage of the new one', () => {
    const of = bench({ skills: [french(4)] }, [], ['b']);
    of.call(1);
    const item = queue('q', ['b'], { skills: [french(4, [{ afterSeconds: 10, minimum: 3 }])] });
    of.at(30, { kind: 'configurationChanged', changes: { queues: [item] } });
    expect(of.rung()).toEqual(['b']);
  });
});

describe('ways out', () => {
  const other = queue('r', ['c'], { wrapUpSeconds: 0 });
  const toOther = { kind: 'queue', id: 'r' } as const;

  test('everybody away: the last who goes sends callers on; nobody signed in is another way', () => {
    const of = bench({ whenAllAway: toOther, whenNobody: { kind: 'end' } }, [other], ['a', 'b']);
    away(of, 1, 'a');
    of.at(2, { kind: 'agentSignedOut', personId: 'b' });
    expect(titles(of, of.call(3))).toContain('Sent on from Queue q');
    expect(of.recordsOf('sentOn').at(-1)!.because).toBe('allAway');
    of.at(4, { kind: 'agentSignedOut', personId: 'a' });
    of.call(5);
    expect(of.recordsOf('sentOn').at(-1)!.because).toBe('nobodySignedIn');
  });

  test('who waits leaves when the last goes away, also for not answering', () => {
    const of = bench({ whenAllAway: toOther, ringSeconds: 5 }, [other], ['a']);
    for (const at of [1, 2, 3]) {
      of.call(at * 40);
      clock(of, at * 40 + 6);
      of.at(at * 40 + 7, { kind: 'callerHungUp', callId: `c${at}` });
    }
    expect(state(of).agents.get('a')!.awayReason).toBe('not answering');
    of.call(200);
    expect(of.recordsOf('sentOn').at(-1)!.because).toBe('allAway');
  });

  test('a key leaves the queue, also while somebody is rung, who is let go without blame', () => {
    const of = bench({ leaveKey: '9', whenLeaves: toOther, ringSeconds: 20 }, [other], ['a']);
    const call = of.call(1);
    expect(of.at(2, { kind: 'keyPressed', leg: `${call}.1`, key: '3' }).refusal).toBe('notExpected');
    of.at(3, { kind: 'keyPressed', leg: `${call}.1`, key: '9' });
    expect(of.rung()).toEqual(['a', 'c']);
    expect(state(of).agents.get('a')!.backOffUntil).toBe(0);
    expect(of.effectsOf('stopRinging').map(({ why }) => why)).toEqual(['callerLeft']);
    expect(ropeSteps(of.records).map(({ reason }) => reason)).toContain('The caller pressed 9');
  });

  test('takes the time waited along, or begins anew', () => {
    for (const keepsTime of [true, false]) {
      const of = bench(
        { maxWaitSeconds: 60, whenTooLong: toOther, keepsTime: keepsTime ? ['waitedTooLong'] : [] },
        [queue('r', ['c'], { skills: [french(4, [{ afterSeconds: 70, minimum: 0 }])] })],
        ['a'],
      );
      away(of, 1, 'a');
      of.call(2);
      // In the next queue less than a level of 4 is enough after 70 s: 10 more, or all of them.
      clock(of, 72);
      expect(of.rung()).toEqual(keepsTime ? ['c'] : []);
      clock(of, 132);
      expect(of.rung()[0]).toBe('c');
      expect(of.recordsOf('enteredQueue').at(-1)!.waitedMs).toBe(keepsTime ? 60_000 : undefined);
    }
  });

  test('a chain that goes round ends: after ten the caller waits, and is not turned away', () => {
    const of = bench({ maxWaiting: 0, whenFull: toOther }, [
      queue('r', ['c'], { maxWaiting: 0, whenFull: { kind: 'queue', id: 'q' } }),
    ]);
    away(of, 1, 'a', 'b', 'c');
    of.call(2);
    expect(of.recordsOf('sentOn')).toHaveLength(10);
    expect(of.recordsOf('turnedAway')).toEqual([]);
    expect(state(of).calls.get('c1')!.activity.kind).toBe('waiting');
    of.at(3, { kind: 'agentSignedIn', personId: 'a' });
    expect(of.rung()).toEqual(['a']);
  });

  test('a chain of waits ends too: limits hold the caller no longer', () => {
    const of = bench({ maxWaitSeconds: 10, whenTooLong: toOther }, [
      queue('r', ['c'], { maxWaitSeconds: 10, whenTooLong: { kind: 'queue', id: 'q' } }),
    ]);
    away(of, 1, 'a', 'b', 'c');
    of.call(2);
    clock(of, 1_000);
    expect(of.recordsOf('sentOn')).toHaveLength(10);
    expect(state(of).calls.get('c1')!.queue!.item.id).toBe('q');
  });
});

describe('place and priority', () => {
  test('whoever is transferred to a queue stands where their wait began', () => {
    const of = bench({}, [queue('r', ['b'], { wrapUpSeconds: 0 })], ['a']);
    of.call(1);
    answers(of, 3);
    away(of, 4, 'b', 'c');
    const later = of.call(10, '+12065550151');
    of.at(20, { kind: 'callTransferred', leg: 'c1.2', to: { kind: 'queue', id: 'r' } });
    of.at(30, { kind: 'agentSignedIn', personId: 'b' });
    expect(of.effectsOf('ring').map(({ callId }) => callId)).toEqual(['c1', 'c1']);
    expect(later).toBe('c2');
  });

  test('a talk that breaks off on our side brings the caller back to the head of the line', () => {
    const of = bench({}, [], ['a', 'b']);
    of.call(1);
    answers(of, 3);
    away(of, 4, 'b');
    const later = of.call(10);
    of.at(20, { kind: 'legFailed', leg: 'c1.2', cause: 'unreachable' });
    of.at(30, { kind: 'agentSignedIn', personId: 'b' });
    const rung = of.effectsOf('ring').map(({ callId, personId }) => [callId, personId]);
    expect(rung.slice(1)).toEqual([
      ['c1', 'a'],
      [later, 'b'],
    ]);
    expect(titles(of, 'c1')).toContain('The talk with Person a broke off');
    expect(of.ended()).toEqual([]);
  });

  test('who talks without a queue is not brought back: the talk is over', () => {
    const of = bench({});
    of.call(1, '+12065550141');
    answers(of, 3);
    of.at(20, { kind: 'legFailed', leg: 'c1.2', cause: 'unreachable' });
    expect(of.ended().map(({ result }) => result)).toEqual(['answered']);
  });

  test('age brings the patient before the important, and the plan, the record or the number say how important', () => {
    const records = [{ field: 'tier', value: 'Gold', priority: 6 }];
    const of = bench({ agePoints: 2, recordPriorities: records }, [], ['a']);
    away(of, 1, 'a');
    const call = (at: number, callId: string, tier: string) =>
      of.at(at, {
        ...{ kind: 'callArrived', callId, to: mainNumber, from: callerNumber },
        record: { id: callId, name: callId, ownerId: null, fields: { tier } },
      });
    call(2, 'x1', 'none');
    call(170, 'x2', 'gold ');
    call(190, 'x3', 'gold');
    expect([...state(of).calls.values()].map(({ priority }) => priority)).toEqual([0, 6, 6]);
    // 6 points are three minutes: x1 comes before who entered after 3:02.
    const order: string[] = [];
    of.at(200, { kind: 'agentSignedIn', personId: 'a' });
    for (let at = 200; order.length < 3; at += 10) {
      const { callId } = of.effectsOf('ring').at(-1)!;
      order.push(callId);
      answers(of, at + 1);
      of.at(at + 2, { kind: 'callerHungUp', callId });
    }
    expect(order).toEqual(['x2', 'x1', 'x3']);
  });

  test('a number gives its callers a priority', () => {
    const set = configuration([person('a')], [queue('q', ['a'])]);
    const of = new Bench({ ...set, numbers: set.numbers.map((each) => ({ ...each, priority: 4 })) });
    of.at(1, { kind: 'callArrived', callId: 'x', to: mainNumber, from: callerNumber });
    expect(state(of).calls.get('x')!.priority).toBe(4);
  });
});

describe('who may be rung when', () => {
  test('who is away for a reason the queue names is rung, and by no other queue', () => {
    const of = bench({ ringsAway: ['back office'] }, [queue('r', ['a'], { wrapUpSeconds: 0 })], ['a']);
    of.at(1, { kind: 'agentAway', personId: 'a', reason: 'back office' });
    of.call(2, '+12065550151');
    expect(of.rung()).toEqual([]);
    of.call(3);
    expect(of.rung()).toEqual(['a']);
    // Going away for that reason while it rings does not stop it; for another it does.
    of.at(4, { kind: 'agentAway', personId: 'a', reason: 'back office' });
    expect(of.effectsOf('stopRinging')).toEqual([]);
    of.at(5, { kind: 'agentAway', personId: 'a', reason: 'lunch' });
    expect(of.effectsOf('stopRinging').map(({ why }) => why)).toEqual(['setAway']);
  });

  test('wrap-up does not keep a queue that says so from ringing', () => {
    for (const ringsInWrapUp of [true, false]) {
      const of = bench({ wrapUpSeconds: 60, ringsInWrapUp }, [], ['a']);
      of.call(1);
      answers(of, 2);
      of.at(5, { kind: 'callerHungUp', callId: 'c1' });
      of.call(6);
      expect(of.rung()).toEqual(ringsInWrapUp ? ['a', 'a'] : ['a']);
    }
  });

  test('open text conversations count where the queue says how many are too many', () => {
    const of = bench({ mostTexts: 2 }, [queue('r', ['a'])], ['a']);
    of.at(1, { kind: 'textsOpen', personId: 'a', count: 2 });
    const first = of.call(2);
    expect(of.rung()).toEqual([]);
    expect(of.recordsOf('decision').at(-1)!.candidates.counts).toEqual({ texting: 1 });
    of.at(3, { kind: 'textsOpen', personId: 'a', count: 1 });
    expect(of.effectsOf('ring').map(({ callId }) => callId)).toEqual([first]);
    expect(of.at(4, { kind: 'textsOpen', personId: 'nobody', count: 1 }).refusal).toBe('unknownPerson');
  });

  test('a phone shows what the queue wants it to, in its order; what is not known is left out', () => {
    const set = configuration(
      [person('a')],
      [queue('q', ['a'], { phoneShows: ['source', 'number', 'caller', 'queue'] }), queue('r', ['a'])],
    );
    const numbers = set.numbers.map((each) => ({ ...each, sourceName: 'Autumn flyer' }));
    const of = new Bench({ ...set, numbers });
    of.register(0, 'a');
    of.call(1);
    expect(shown(of, 'c1')).toEqual([...['Autumn flyer', 'Queue q', '+1 360 555 0117', 'Queue q']]);
    of.at(2, { kind: 'callerHungUp', callId: 'c1' });
    of.call(3, '+12065550151', 0, '');
    expect(shown(of, 'c2')).toEqual(['Queue r', 'Number withheld']);
  });
});

const shown = (of: Bench, call: string) => phoneLinesOf(state(of), state(of).calls.get(call)!);

describe('what is heard while waiting', () => {
  const hears = {
    ...{ musicId: 'tide', everySeconds: 30, promptId: 'soon' },
    ...{ tellsPlace: true, tellsWait: true },
  };
  const prompts = [
    { id: 'tide', name: 'Slow tide', seconds: 60, words: '' },
    { id: 'soon', name: 'Soon', seconds: 3, words: 'We are with you soon.' },
  ];
  function sounding(change: Partial<typeof hears> = {}): Bench {
    const set = configuration([person('a')], [queue('q', ['a'], { hears: { ...hears, ...change } })]);
    const of = new Bench({ ...set, prompts });
    of.register(0, 'a');
    return of;
  }
  const said = (of: Bench) => of.effectsOf('say').map(({ leg, words }) => `${leg} ${words}`);

  test('music, then the prompt and the place every so often; a wait that cannot be known is not told', () => {
    const of = sounding();
    away(of, 1, 'a');
    of.call(2);
    of.call(3);
    expect(of.effectsOf('play').at(-1)).toMatchObject({ prompt: 'waiting', promptId: 'tide' });
    clock(of, 33);
    expect(said(of)).toEqual([
      ...['c1.1 We are with you soon.', 'c1.1 You are next in line.'],
      ...['c2.1 We are with you soon.', 'c2.1 You are number 2 in line.'],
    ]);
    expect(of.recordsOf('announced')[1]).toMatchObject({ place: 2, waitMs: null });
    clock(of, 63);
    expect(said(of)).toHaveLength(8);
    of.at(64, { kind: 'callerHungUp', callId: 'c1' });
    of.at(65, { kind: 'callerHungUp', callId: 'c2' });
    clock(of, 200);
    expect(said(of)).toHaveLength(8);
  });

  test('the music of a wait is heard on the rope, where the queue has its own', () => {
    const of = sounding();
    away(of, 1, 'a');
    of.call(2);
    clock(of, 33);
    const [coil] = ropeSteps(of.records, 33_000).filter(({ mark }) => mark === 'coil');
    expect(coil!.sounds).toEqual([{ promptId: 'tide', words: 'Slow tide', language: null }]);
  });

  test('the wait is told once enough calls were measured, and somebody is there', () => {
    const of = sounding({ promptId: null as never });
    state(of).queues.get('q')!.measured = {
      ...{ handled: 40, handledMs: 40 * 120_000, waited: 40, waitedMs: 0, abandoned: 0 },
    };
    of.call(1);
    of.call(2);
    answers(of, 3);
    clock(of, 32);
    expect(said(of)).toEqual(['c2.1 You are next in line. It may take about 2 minutes.']);
    expect(titles(of, 'c2')).toContain('Told: next in line, about 2:00 more');
    away(of, 40, 'a');
    clock(of, 62);
    expect(said(of).at(-1)).toBe('c2.1 You are next in line.');
  });

  test('in the language the caller chose, where it is written', () => {
    const of = sounding({ promptId: null as never });
    away(of, 1, 'a');
    of.call(2);
    state(of).calls.get('c1')!.language = 'fr-CA';
    clock(of, 32);
    expect(said(of)).toEqual(['c1.1 Vous êtes le prochain appel.']);
  });
});
