import type { ExchangeEvent } from './kernel/events.ts';
import { carryPlan, carryVersion7, type Version7 } from './upgrade-7.ts';
import { carryBox } from './upgrade-9.ts';
import { engineVersion, type ExchangeSnapshot, migrateSlices } from './snapshot.ts';

/** The oldest engine whose state can be continued. */
export const oldestContinued = 6;

/** A state saved by the engine `version`, in the shape of this one; null when it cannot be continued. */
export function upgradeSnapshot(version: number, snapshot: unknown): ExchangeSnapshot | null {
  if (version > engineVersion || version < oldestContinued) return null;
  return migrateSlices(version < 8 ? carryVersion7(snapshot as Version7) : (snapshot as ExchangeSnapshot));
}

/** An event as the log has it, whichever engine wrote it, in the shape of this one. */
export function upgradeEvent(event: ExchangeEvent): ExchangeEvent {
  if (event.kind !== 'configurationChanged') return event;
  const { numbers, voicemailBoxes } = event.changes;
  if (numbers === undefined && voicemailBoxes === undefined) return event;
  return {
    ...event,
    changes: {
      ...event.changes,
      ...(numbers === undefined
        ? {}
        : { numbers: numbers.map((number) => ({ ...number, plan: carryPlan(number.plan) })) }),
      ...(voicemailBoxes === undefined ? {} : { voicemailBoxes: voicemailBoxes.map(carryBox) }),
    },
  };
}
