import type { Destination } from '../../model/destination.ts';
import type { State } from './state.ts';

/** The name a person reads for a destination, as it is now. */
export function destinationName(state: Readonly<State>, destination: Destination): string {
  switch (destination.kind) {
    case 'queue':
      return state.queues.get(destination.id)?.item.name ?? 'a queue that is gone';
    case 'person':
      return state.agents.get(destination.id)?.person.name ?? 'a person who is gone';
    case 'voicemail':
      return state.boxes.get(destination.id)?.name ?? 'a voicemail box that is gone';
    case 'outside':
      return state.outsideNumbers.get(destination.id)?.name ?? 'an outside number that is gone';
    case 'room':
      return state.rooms.get(destination.id)?.name ?? 'a conference room that is gone';
    case 'ringGroup':
      return state.ringGroups.get(destination.id)?.item.name ?? 'a ring group that is gone';
    case 'fax':
      return state.faxBoxes.get(destination.id)?.name ?? 'a fax box that is gone';
    case 'number':
      return state.numbers.get(destination.id)?.label ?? 'a number that is gone';
    case 'plan':
      return state.plans.get(destination.id)?.name ?? 'an answering plan that is gone';
    case 'end':
      return 'the end of the call';
  }
}
