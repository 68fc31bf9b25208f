import { engineVersion } from './exchange.ts';
import type { ExchangeSnapshot } from './snapshot.ts';

type Older = ExchangeSnapshot & Record<string, unknown>;

/**
 * How the state of an engine becomes that of the next one, by the version it was saved by. A version that only decides
 * otherwise needs no step; one that keeps something more says here what it is for calls and agents of before.
 */
const steps: Record<number, (snapshot: Older) => Older> = {
  // 7: nobody is blamed for a call they picked up for a colleague.
  6: (snapshot) => ({ ...snapshot, calls: snapshot.calls.map((call) => ({ ...call, pickedUp: false })) }),
};

/** The oldest engine whose state can be continued. */
export const oldestContinued = Math.min(...Object.keys(steps).map(Number));

/** A state saved by the engine `version`, in the shape of this one; null when it cannot be continued. */
export function upgradeSnapshot(version: number, snapshot: ExchangeSnapshot): ExchangeSnapshot | null {
  if (version > engineVersion || version < oldestContinued) return null;
  let state = snapshot as Older;
  for (let at = version; at < engineVersion; at++) state = steps[at]?.(state) ?? state;
  return state;
}
