import { incompleteBeta } from './incomplete-beta.ts';

/**
 * The chance that all of c lines are busy, by the inverse recursion 1/B_k = 1 + (k/a) / B_{k-1} (docs/definitions.md,
 * "Waiting and staffing").
 *
 * @param traffic in erlangs
 */
export function erlangB(traffic: number, servers: number): number {
  if (traffic === 0) return servers === 0 ? 1 : 0;
  let inverse = 1;
  for (let k = 1; k <= servers; k++) inverse = 1 + (k / traffic) * inverse;
  return 1 / inverse;
}

/** Calls that wait as long as it takes: M/M/c. Without a steady state (traffic >= servers) everybody waits for ever. */
export interface ErlangC {
  stable: boolean;
  pWait: number;
  /** Answered within the threshold, of all. */
  serviceLevel: number;
  /** Mean wait of all, and of those who wait (seconds); null where there is none. */
  asa: number | null;
  asaOfDelayed: number | null;
  occupancy: number;
  meanQueueLength: number | null;
}

/**
 * @param handleSeconds talk and wrap-up
 * @param thresholdSeconds of the service level
 */
export function erlangC(
  traffic: number,
  servers: number,
  handleSeconds: number,
  thresholdSeconds: number,
): ErlangC {
  if (traffic >= servers) {
    return {
      ...{ stable: false, pWait: 1, serviceLevel: 0, asa: null, asaOfDelayed: null, occupancy: 1 },
      meanQueueLength: null,
    };
  }
  const blocking = erlangB(traffic, servers);
  const pWait = blocking / (1 - (traffic / servers) * (1 - blocking));
  const asaOfDelayed = handleSeconds / (servers - traffic);
  return {
    stable: true,
    pWait,
    serviceLevel: 1 - pWait * Math.exp(-thresholdSeconds / asaOfDelayed),
    asa: pWait * asaOfDelayed,
    asaOfDelayed,
    occupancy: traffic / servers,
    meanQueueLength: (pWait * traffic) / (servers - traffic),
  };
}

/** Calls whose callers give up, each after a patience that is exponential: M/M/c+M (Palm 1957). */
export interface ErlangA {
  pWait: number;
  pAbandon: number;
  /** Mean waits in seconds: of those answered, of everybody, of those who gave up. */
  asaAnswered: number;
  asaAll: number;
  meanTimeToAbandon: number;
  occupancy: number;
  meanQueueLength: number;
  /** Answered within the threshold: of all offered, of all answered, of all but those who gave up within it. */
  slOffered: number;
  slAnswered: number;
  slExcludingShortAbandons: number;
  pAbandonWithin: number;
  pWaitExceeds: number;
}

/**
 * Erlang A. A caller who finds c + j calls is served after j + 1 departures at the rates c mu + i theta, i = 0..j; of
 * that wait W, exp(-theta W) follows Beta(c mu / theta, j + 1), from which all figures follow (Garnett, Mandelbaum and
 * Reiman, MSOM 4, 2002).
 *
 * @param arrivals calls a second
 * @param patienceSeconds mean
 */
export function erlangA(
  arrivals: number,
  handleSeconds: number,
  patienceSeconds: number,
  servers: number,
  thresholdSeconds: number,
): ErlangA {
  const mu = 1 / handleSeconds;
  const theta = 1 / patienceSeconds;
  const shape = (servers * mu) / theta;
  const atThreshold = Math.exp(-theta * thresholdSeconds);
  // Relative to the chance that exactly all servers are busy.
  const below = 1 / erlangB(arrivals * handleSeconds, servers) - 1;
  let [weight, waiting, queue, inTime, exceeds, answered, answeredWait] = [1, 0, 0, 0, 0, 0, 0];
  let harmonic = 0;
  for (let j = 0; ; j++) {
    harmonic += 1 / (shape + 1 + j);
    const served = shape / (shape + j + 1);
    waiting += weight;
    queue += weight * j;
    answered += weight * served;
    answeredWait += (weight * served * harmonic) / theta;
    inTime += weight * served * (1 - incompleteBeta(atThreshold, shape + 1, j + 1));
    exceeds += weight * atThreshold * incompleteBeta(atThreshold, shape, j + 1);
    weight *= arrivals / (servers * mu + (j + 1) * theta);
    if (weight * (j + 1) < 1e-18 * waiting && arrivals < servers * mu + (j + 1) * theta) break;
  }
  const all = below + waiting;
  const pWait = waiting / all;
  const meanQueueLength = queue / all;
  const pAbandon = (theta * meanQueueLength) / arrivals;
  const asaAll = pAbandon / theta;
  const asaAnswered = answeredWait / (below + answered);
  const slOffered = (below + inTime) / all;
  const pWaitExceeds = exceeds / all;
  const pAbandonWithin = 1 - slOffered - pWaitExceeds;
  return {
    ...{ pWait, pAbandon, asaAnswered, asaAll, meanQueueLength, slOffered, pAbandonWithin, pWaitExceeds },
    meanTimeToAbandon: (asaAll - (1 - pAbandon) * asaAnswered) / pAbandon,
    occupancy: (arrivals * (1 - pAbandon)) / (servers * mu),
    slAnswered: slOffered / (1 - pAbandon),
    slExcludingShortAbandons: slOffered / (1 - pAbandonWithin),
  };
}

/** The smallest number of agents, from 1, with which `meets` holds; more agents must never be worse. */
export function requiredAgents(meets: (agents: number) => boolean): number {
  let high = 1;
  while (!meets(high)) high *= 2;
  let low = high / 2;
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2);
    if (meets(middle)) high = middle;
    else low = middle;
  }
  return high;
}
