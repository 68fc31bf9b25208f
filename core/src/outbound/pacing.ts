/** People who answered and calls abandoned of them, on one local day. */
export interface DayTally {
  /** Number of the local day (hours/zone-clock). */
  day: number;
  answered: number;
  abandoned: number;
}

/** Days over which the abandon rate is kept below its limit (United States practice; docs/definitions.md). */
export const abandonDays = 30;

/** Abandoned of those answered by a person, over the days up to and including `today`; 0 when nobody answered. */
export function abandonRate(tallies: readonly DayTally[], today: number, days: number): number {
  let answered = 0;
  let abandoned = 0;
  for (const tally of tallies) {
    if (tally.day > today - days && tally.day <= today) {
      answered += tally.answered;
      abandoned += tally.abandoned;
    }
  }
  return answered === 0 ? 0 : abandoned / answered;
}

/** How many calls to keep in the air, and whether an agent is kept free for each. */
export interface Pace {
  ratio: number;
  reserve: boolean;
  why: 'ratio' | 'oneEach' | 'atLimit';
}

/**
 * At or above the abandon limit, today or over 30 days, the ratio falls to 1.0 with an agent kept for each call in the
 * air; so does a ratio of 1.0 or less by its own nature. A limit of 0 keeps an agent for every call.
 */
export function paceOf(ratio: number, limit: number, tallies: readonly DayTally[], today: number): Pace {
  if (ratio <= 1) return { ratio, reserve: true, why: 'oneEach' };
  const rate = Math.max(abandonRate(tallies, today, 1), abandonRate(tallies, today, abandonDays));
  if (limit === 0 || (rate > 0 && rate >= limit)) return { ratio: 1, reserve: true, why: 'atLimit' };
  return { ratio, reserve: false, why: 'ratio' };
}

/**
 * Calls to launch now so that floor(ratio x free agents) are in the air. Calls that ring already are never cancelled,
 * so the answer is not below 0.
 *
 * @param free agents whom a call could be put through to now
 * @param inAir calls without an agent kept for them
 * @param reservations calls with one; those agents are not among the free
 * @param room calls that may be launched at most
 */
export function callsToLaunch(
  pace: Pace,
  free: number,
  inAir: number,
  reservations: number,
  room: number,
): number {
  // The little addition keeps 1.1 x 10 from being 10.999...
  const share = (agents: number) => Math.floor(pace.ratio * agents + 1e-9);
  const wanted = pace.reserve
    ? Math.min(share(free + reservations) - reservations, free) - inAir
    : share(free) - inAir;
  return Math.max(0, Math.min(room, wanted));
}
