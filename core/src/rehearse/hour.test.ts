import { describe, expect, test } from 'vitest';
import { distributionKinds } from '../model/distribution.ts';
import { configuration, mainNumber, person, queue } from '../exchange/exchange.testing.ts';
import { erlangA, erlangC } from '../staffing/erlang.ts';
import { deviation, mean } from '../staffing/judging.ts';
import { differences, type HourFigures, hourFigures, hourSetUp } from './comparison.ts';
import { drawHour, drawnReactions, runHour } from './hour.ts';

const seeds = Array.from({ length: 20 }, (_, i) => i + 1);
/** At 19 degrees of freedom, both tails, 5 % (Fisher and Yates, table III). */
const student = 2.093;

/** The mean over seeds, and how far the 95 % interval reaches, widened by half. */
function interval(values: number[]): { middle: number; reach: number } {
  return { middle: mean(values), reach: (1.5 * student * deviation(values)) / Math.sqrt(values.length) };
}

/** Agents who lift at once and wrap nothing up; what comes of callers behind the first tenth, when it has settled. */
function hours(agents: number, calls: number, talkSeconds: number, patienceSeconds: number | null) {
  const people = Array.from({ length: agents }, (_, i) => `p${i}`);
  const set = configuration(
    people.map((id) => person(id)),
    [queue('q', people, { wrapUpSeconds: 0, ringSeconds: 3_600 })],
  );
  return seeds.map((seed) => {
    const drawn = drawHour(seed, { calls, talkSeconds, talkVariation: 1, patienceSeconds });
    const run = runHour(set, mainNumber, drawn, () => ({ does: 'answer', afterMs: 0 }));
    const settled = run.calls.slice(Math.floor(run.calls.length / 10));
    const share = (of: (call: (typeof settled)[number]) => boolean) =>
      settled.filter(of).length / settled.length;
    return {
      pWait: share(({ waitedMs }) => waitedMs > 0),
      asa: mean(settled.map(({ waitedMs }) => waitedMs / 1_000)),
      inTime: share(({ waitedMs, personId }) => personId !== null && waitedMs <= 20_000),
      lost: share(({ personId }) => personId === null),
    };
  });
}

/** Whether the formula's value lies where the simulated hours say it should. */
function agrees(values: number[], formula: number, what: string): void {
  const { middle, reach } = interval(values);
  expect(
    Math.abs(middle - formula),
    `${what}: ${middle} simulated, ${formula} by formula`,
  ).toBeLessThanOrEqual(reach);
}

describe('the exchange itself, with nothing but chance in its way', () => {
  test('waits as Erlang C says: M/M/c', () => {
    // 1,440 calls an hour of 10 s are 4 erlangs: short ones, so that an hour holds many.
    const runs = hours(6, 1_440, 10, null);
    const c = erlangC(4, 6, 10, 20);
    agrees(
      runs.map(({ pWait }) => pWait),
      c.pWait,
      'waits',
    );
    agrees(
      runs.map(({ asa }) => asa),
      c.asa!,
      'mean wait',
    );
  });

  test('waits and loses as Erlang A says: M/M/c+M', () => {
    const runs = hours(5, 2_160, 10, 15);
    const a = erlangA(2_160 / 3_600, 10, 15, 5, 20);
    agrees(
      runs.map(({ pWait }) => pWait),
      a.pWait,
      'waits',
    );
    agrees(
      runs.map(({ lost }) => lost),
      a.pAbandon,
      'lost',
    );
    agrees(
      runs.map(({ asa }) => asa),
      a.asaAll,
      'mean wait of all',
    );
    agrees(
      runs.map(({ inTime }) => inTime),
      a.slOffered,
      'service level',
    );
  });
});

test('an hour is drawn once: the same seed has the same callers and the same hands, another has others', () => {
  const shape = { calls: 300, talkSeconds: 180, patienceSeconds: 240 };
  expect(drawHour(3, shape)).toEqual(drawHour(3, shape));
  expect(drawHour(3, shape)).not.toEqual(drawHour(4, shape));
  for (const time of [1, 2])
    expect(drawnReactions(3)('call-1', 'a', time)).toEqual(drawnReactions(3)('call-1', 'a', time));
  const counts = seeds.map((seed) => drawHour(seed, shape).length);
  expect(Math.abs(mean(counts) - 300)).toBeLessThan(20);
});

test('one call that is not taken sets nobody away for the rest of the hour, whoever they are', () => {
  const shares = Array.from({ length: 150 }, (_, i) => {
    const people = [person(`a${i}`), person(`b${i}`)];
    const ids = people.map(({ id }) => id);
    const set = hourSetUp(queue('q', ids, { wrapUpSeconds: 0 }), people);
    const shape = { calls: 30, talkSeconds: 120, patienceSeconds: 200 };
    const { answered, lost } = hourFigures(set, 'roundRobin', shape, { seed: i, goalSeconds: 20 });
    return answered / (answered + lost);
  });
  expect(Math.min(...shares)).toBeGreaterThan(0.5);
});

describe('ways to ring on the same hour', () => {
  const skills = [{ skillId: 's', name: 'S', minimum: 1 }];
  const people = Array.from({ length: 8 }, (_, i) => person(`p${i}`, { skills: { s: 1 + (i % 5) } }));
  const setUp = hourSetUp(
    queue(
      'q',
      people.map(({ id }) => id),
      { skills, wrapUpSeconds: 20 },
    ),
    people,
  );
  const shape = { calls: 60, talkSeconds: 170, patienceSeconds: 180 };
  const run = (kind: (typeof distributionKinds)[number], of = seeds.slice(0, 5)) =>
    of.map((seed) => hourFigures(setUp, kind, shape, { seed, goalSeconds: 20 }));

  test('the same seed gives the same figures; every caller of it is answered or lost', () => {
    for (const kind of distributionKinds) {
      const [one, again] = [run(kind, [7]), run(kind, [7])];
      expect(one).toEqual(again);
      expect(one[0]!.answered + one[0]!.lost).toBe(drawHour(7, shape).length);
      expect(one[0]!.calls.reduce((sum, calls) => sum + calls, 0)).toBe(one[0]!.answered);
    }
  });

  test('who always stands first has most to do: in order shares calls less evenly than longest idle, more than chance', () => {
    const [inOrder] = differences(run('longestIdle'), [run('inOrder'), run('roundRobin')]);
    expect(inOrder!.callsSpread).toMatchObject({ holds: true });
    expect(inOrder!.callsSpread.by).toBeGreaterThan(0);
  });

  test('a way compared with itself differs in nothing', () => {
    const present = run('longestIdle');
    for (const { by, holds } of Object.values(differences(present, [present])[0]!))
      expect([by, holds]).toEqual([0, false]);
  });

  test('what is more than chance among one is not among six, where it would not be', () => {
    const figures = (lost: number): HourFigures => ({
      ...{ answered: 100, lost, median: 5, p90: 20, inTime: 0.8, calls: [1], idle: [0.5] },
    });
    const present = [1, 2, 3, 4, 5].map(() => figures(10));
    const slightly = [12, 11, 13, 10, 12].map(figures);
    const nothing = [11, 9, 10, 11, 9].map(figures);
    expect(differences(present, [slightly])[0]!.lost.holds).toBe(true);
    const among = differences(present, [slightly, nothing, nothing, nothing, nothing, nothing]);
    expect(among[0]!.lost.holds).toBe(false);
    expect(among[0]!.lost.by).toBeCloseTo(1.6, 12);
  });

  test('a queue that sends callers on, is closed or plays something is compared as one that does not', () => {
    const item = queue('q', ['p0'], {
      ...{ hoursId: 'gone', maxWaitSeconds: 30, whenTooLong: { kind: 'queue', id: 'elsewhere' } },
      ...{ recording: 'always', recordingNoticeId: 'gone', leaveKey: '9' },
    });
    const [figures] = [
      hourFigures(hourSetUp(item, people.slice(0, 1)), 'longestIdle', shape, { seed: 1, goalSeconds: 20 }),
    ];
    expect(figures!.lost).toBeGreaterThan(30);
    expect(figures!.answered).toBeGreaterThan(5);
  });
});
