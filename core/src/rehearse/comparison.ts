import type { Configuration, PersonItem, QueueItem } from '../model/configuration.ts';
import { emptyConfiguration } from '../model/configuration.ts';
import type { DistributionKind } from '../model/distribution.ts';
import { planOf } from '../plan/compile.ts';
import { deviation, holm, mean, pairedChance, quantile } from '../staffing/judging.ts';
import { drawHour, drawnReactions, type HourRun, type HourShape, runHour } from './hour.ts';

/** What one hour came to. */
export interface HourFigures {
  answered: number;
  lost: number;
  /** Seconds waited by those who were answered, at the median and the 90th percentile; null when nobody was. */
  median: number | null;
  p90: number | null;
  /** Of all who called, the share answered within the queue's aim. */
  inTime: number;
  /** Of every agent, in the order of the members. */
  calls: number[];
  idle: number[];
}

const number = '+12065550100';

/**
 * A set-up of one queue and its people: who else there is, where it sends callers on to, when it is open and what it plays
 * is left out; a caller who is sent on is lost.
 */
export function hourSetUp(queue: QueueItem, people: readonly PersonItem[]): Configuration {
  const end = { kind: 'end' } as const;
  const item: QueueItem = {
    ...queue,
    ...{ extension: null, hoursId: null, recording: 'never', callBack: null, leaveKey: null },
    ...{ whenFull: end, whenTooLong: end, whenNobody: null, whenAllAway: null },
  };
  delete item.hears;
  return {
    ...emptyConfiguration,
    people: people.map((person) => ({
      ...{ ...person, extension: null, noAnswer: [], voicemailBoxId: null, callLimit: 1 },
      ...{ startAway: false, answerBySelf: false },
    })),
    phones: people.map(({ id }) => ({
      ...{ id: `${id}-phone`, personId: id, kind: 'softphone', account: id, home: false, e164: null },
      ...{ trunkId: null, callerId: null, dialTrunkId: null, emergencyAddress: null },
    })),
    queues: [item],
    numbers: [
      ...[
        {
          id: 'n',
          e164: number,
          label: '',
          sourceId: null,
          plan: planOf('n', 1, { kind: 'queue', id: queue.id }),
        },
      ],
    ],
  };
}

/** The hour of a seed with the queue ringing in this way: the same seed gives the same figures. */
export function hourFigures(
  setUp: Configuration,
  distribution: DistributionKind,
  shape: HourShape,
  { seed, goalSeconds }: { seed: number; goalSeconds: number },
): HourFigures {
  const queues = setUp.queues.map((item) => ({ ...item, distribution }));
  const run = runHour({ ...setUp, queues }, number, drawHour(seed, shape), drawnReactions(seed));
  return figuresOf(run, goalSeconds);
}

function figuresOf({ calls, agents }: HourRun, goalSeconds: number): HourFigures {
  const waits = calls.filter(({ personId }) => personId !== null).map(({ waitedMs }) => waitedMs / 1_000);
  return {
    answered: waits.length,
    lost: calls.length - waits.length,
    median: quantile(waits, 0.5),
    p90: quantile(waits, 0.9),
    inTime: calls.length === 0 ? 0 : waits.filter((wait) => wait <= goalSeconds).length / calls.length,
    calls: agents.map((agent) => agent.calls),
    idle: agents.map((agent) => agent.idle),
  };
}

/** What is judged of a way to ring, each a number of one run. */
export const judged = {
  median: ({ median }: HourFigures) => median ?? 0,
  p90: ({ p90 }: HourFigures) => p90 ?? 0,
  lost: ({ lost }: HourFigures) => lost,
  inTime: ({ inTime }: HourFigures) => inTime,
  callsSpread: ({ calls }: HourFigures) => deviation(calls),
  idleSpread: ({ idle }: HourFigures) => deviation(idle),
};
export type Judged = keyof typeof judged;
export const judgedFigures = Object.keys(judged) as Judged[];

/** By how much another way differs from the present one, over the same hours; `holds` when that is more than chance. */
export interface Difference {
  by: number;
  holds: boolean;
}

/**
 * What of the other ways is different from the present one: paired over seeds, corrected over all the others.
 *
 * @param present its hours, one for each seed
 * @param others theirs, for the same seeds
 */
export function differences(
  present: readonly HourFigures[],
  others: readonly (readonly HourFigures[])[],
): Record<Judged, Difference>[] {
  const judgedBy = (figure: Judged) => {
    const paired = others.map((runs) =>
      runs.map((run, i) => judged[figure](run) - judged[figure](present[i]!)),
    );
    const holds = holm(paired.map(pairedChance));
    return paired.map((each, i) => ({ by: mean(each), holds: holds[i]! }));
  };
  const all = judgedFigures.map((figure) => [figure, judgedBy(figure)] as const);
  return others.map(
    (_runs, i) =>
      Object.fromEntries(all.map(([figure, of]) => [figure, of[i]!])) as Record<Judged, Difference>,
  );
}
