import type { VoicemailBoxItem } from '../model/configuration.ts';
import { noGreetings } from '../voicemail/greeting.ts';

/** A voicemail box as engines up to 9 knew it: one greeting of a length, never full. */
interface OldBox {
  id: string;
  name: string;
  greetingSeconds: number;
  maxMessageSeconds: number;
}

/** A box in the shape of today, whichever engine saved it. */
export function carryBox(box: OldBox | VoicemailBoxItem): VoicemailBoxItem {
  if ('greetings' in box) return box;
  const { id, name, maxMessageSeconds } = box;
  return {
    ...{ id, name, maxMessageSeconds, extension: null, hoursId: null },
    ...{ greetings: noGreetings, mostMessages: 100, whenFull: null },
  };
}
