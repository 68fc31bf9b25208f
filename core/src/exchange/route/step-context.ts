import type { StepContext } from '../../plan/step-kind.ts';
import type { ItemKind } from '../../plan/fields.ts';
import type { Call } from '../calls/call.ts';
import { note, play } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';

/** What a step of this call sees and may do. */
export function contextOf(state: State, call: Call): StepContext {
  return {
    now: state.now,
    has: (kind, id) => isThere(state, kind, id),
    room: (id) => state.rooms.get(id),
    play: (prompt) => play(state, call, call.legs[0]!.id, prompt),
    note: (record) => note(state, call, record),
  };
}

function isThere(state: State, kind: ItemKind, id: string): boolean {
  switch (kind) {
    case 'person':
      return state.agents.get(id)?.retired === false;
    case 'queue':
      return state.queues.get(id)?.retired === false;
    case 'voicemail':
      return state.boxes.has(id);
    case 'outside':
      return state.outsideNumbers.has(id);
    case 'room':
      return state.rooms.has(id);
    case 'fax':
      return state.faxBoxes.has(id);
    case 'number':
      return state.numbers.get(id)?.plan != null;
  }
}
