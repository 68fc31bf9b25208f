import { describe, expect, test } from 'vitest';
import type { PersonItem, QueueItem } from '../../model/configuration.ts';
import { Bench, configuration, directNumber, person, queue } from '../exchange.testing.ts';
import { brokenInvariants } from '../snapshot.ts';

const french: QueueItem['skills'] = [{ skillId: 'french', name: 'French', minimum: 3 }];

function bench(people: PersonItem[], change: Partial<QueueItem> = {}, seats: number | null = null): Bench {
  const members = people.map((each) => each.id);
  const set = configuration(people, [queue('q', members, change)]);
  return new Bench({ ...set, settings: { ...set.settings, seats } });
}

describe('skills', () => {
  const people = [
    person('a', { skills: { french: 2 } }),
    person('b', { skills: { french: 3 } }),
    person('c'),
  ];

  test('a member below the minimum is not rung, and the decision says the level', () => {
    const day = bench(people, { skills: french });
    day.register(0, 'a', 'b', 'c');
    day.call(1);
    expect(day.rung()).toEqual(['b']);
    const { candidates } = day.recordsOf('decision')[0]!;
    expect(candidates).toMatchObject({ total: 3, eligible: 1, counts: { skillTooLow: 2 } });
    expect(candidates.listed.find((each) => each.personId === 'a')!.reasons).toEqual([
      { code: 'skillTooLow', skill: 'French', level: 2, minimum: 3 },
    ]);
    expect(candidates.listed.find((each) => each.personId === 'c')!.reasons).toMatchObject([{ level: 0 }]);
  });

  test('a caller whom nobody is able to serve waits until somebody has learnt it', () => {
    const day = bench([person('a')], { skills: french });
    day.register(0, 'a');
    day.call(1);
    expect(day.rung()).toEqual([]);
    day.at(2, {
      kind: 'configurationChanged',
      changes: { people: [person('a', { skills: { french: 5 } })] },
    });
    expect(day.rung()).toEqual(['a']);
    expect(brokenInvariants(day.exchange.view())).toEqual([]);
  });

  test('a queue that asks for less serves who waits', () => {
    const day = bench([person('a')], { skills: french });
    day.register(0, 'a');
    day.call(1);
    day.at(2, { kind: 'configurationChanged', changes: { queues: [queue('q', ['a'])] } });
    expect(day.rung()).toEqual(['a']);
  });

  test('a call made straight to somebody rings whatever they can', () => {
    const day = bench([person('a')], { skills: french });
    day.register(0, 'a');
    day.call(1, directNumber);
    expect(day.rung()).toEqual(['a']);
  });
});

describe('seats', () => {
  test('when all are taken nobody more signs in, and the next who signs out makes room', () => {
    const day = bench([person('a'), person('b'), person('c')], {}, 2);
    day.register(0, 'a', 'b', 'c');
    const agents = day.exchange.view().agents;
    expect(agents.get('c')).toMatchObject({ presence: 'signedOut', phone: { state: 'registered' } });
    expect(day.at(1, { kind: 'agentSignedIn', personId: 'c' }).refusal).toBe('noSeat');
    day.at(2, { kind: 'agentAway', personId: 'a', reason: 'lunch' });
    expect(day.at(3, { kind: 'agentSignedIn', personId: 'a' }).refusal).toBeNull();
    day.at(4, { kind: 'agentSignedOut', personId: 'a' });
    expect(day.at(5, { kind: 'agentSignedIn', personId: 'c' }).refusal).toBeNull();
    expect(day.exchange.view().signedIn).toBe(2);
  });
});

describe('how a sign-in begins', () => {
  test('away for those who want that, until they say they are ready', () => {
    const day = bench([person('a', { startAway: true })]);
    day.register(0, 'a');
    expect(day.exchange.view().agents.get('a')).toMatchObject({
      presence: 'away',
      awayReason: 'not ready yet',
    });
    day.call(1);
    expect(day.rung()).toEqual([]);
    day.at(2, { kind: 'agentSignedIn', personId: 'a', asUsual: true });
    expect(day.rung()).toEqual(['a']);
  });

  test('somebody else may sign them in as available', () => {
    const day = bench([person('a', { startAway: true, signInWithPhone: false })]);
    day.register(0, 'a');
    day.at(1, { kind: 'agentSignedIn', personId: 'a' });
    expect(day.exchange.view().agents.get('a')!.presence).toBe('available');
  });
});

test('a phone set to answer by itself is told to lift', () => {
  const day = bench([person('a', { answerBySelf: true })]);
  day.register(0, 'a');
  day.call(1);
  expect(day.effectsOf('ring')).toMatchObject([{ answerBySelf: true }]);
});

test("a person's own wrap-up goes before the queue's", () => {
  const day = bench([person('a', { wrapUpSeconds: 3 })], { wrapUpSeconds: 60 });
  day.register(0, 'a');
  day.call(1);
  day.at(2, { kind: 'legAnswered', leg: day.lastLeg() });
  day.at(12, { kind: 'callerHungUp', callId: 'c1' });
  expect(day.exchange.view().agents.get('a')!.wrapUpUntil).toBe(15_000);
});
