import { pinLock } from '../../model/voicemail-menu.ts';
import { pinHash } from '../../plan/steps/room.ts';
import type { State } from '../kernel/state.ts';

/** Wrong PINs in a row of a box, and until when it is locked (UTC milliseconds, 0 for not). */
export interface BoxLock {
  wrong: number;
  until: number;
}

export function isLocked(state: Readonly<State>, boxId: string): boolean {
  return (state.boxLocks.get(boxId)?.until ?? 0) > state.now;
}

/** Whether this opens the box. A right one forgets the wrong ones before it; too many of these in a row lock the box. */
export function isPin(state: State, boxId: string, pin: string): boolean {
  const box = state.boxes.get(boxId);
  if (box === undefined || isLocked(state, boxId)) return false;
  if (pinHash(boxId, pin) === box.pinHash) {
    state.boxLocks.delete(boxId);
    return true;
  }
  const wrong = (state.boxLocks.get(boxId)?.wrong ?? 0) + 1;
  const locks = wrong >= pinLock.wrong;
  state.boxLocks.set(boxId, {
    wrong: locks ? 0 : wrong,
    until: locks ? state.now + pinLock.minutes * 60_000 : 0,
  });
  return false;
}
