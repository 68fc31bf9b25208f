import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { endWhenOpen, gone, type Next, type StepContext, type StepKind } from '../step-kind.ts';

const fields = { roomId: { type: 'item', of: 'room', label: 'Conference room' } } as const;

const pinSeconds = 30;
const pinTries = 3;

/** What was typed at the door so far, and how often wrongly. */
interface AtTheDoor {
  keys: string;
  tries: number;
}

/** What is kept of a PIN: enough to check one, not to read it. */
export function pinHash(roomId: string, pin: string): string {
  return bytesToHex(sha256(utf8ToBytes(`${roomId}:${pin}`)));
}

function askPin(context: StepContext, tries: number): Next<AtTheDoor> {
  context.play('enterPin');
  return { rest: { keys: '', tries }, until: context.now + pinSeconds * 1000 };
}

/** Into a conference room, or to its door, where the PIN is asked for. */
export const room: StepKind<typeof fields, AtTheDoor> = {
  kind: 'room',
  word: 'Room',
  fields,
  exits: () => [{ name: 'notAdmitted', label: 'the PIN is not typed' }, gone],
  main: null,
  fresh: { roomId: '' },
  destination: ({ roomId }) => ({ kind: 'room', id: roomId }),
  enter: (context, { roomId }) => {
    const item = context.room(roomId);
    if (item === undefined) return { exit: gone.name };
    return item.pinHash === null ? { begin: { kind: 'conference', roomId } } : askPin(context, 0);
  },
  on: {
    /** `#` ends what was typed; so does its last digit. */
    key: (context, { roomId }, memory, key) => {
      const item = context.room(roomId);
      if (!/^[\d#]$/.test(key)) return null;
      if (item === undefined) return { exit: 'notAdmitted' };
      const keys = key === '#' ? memory.keys : memory.keys + key;
      if (key !== '#' && keys.length < item.pinLength) return { rest: { ...memory, keys }, until: null };
      if (pinHash(roomId, keys) === item.pinHash) return { begin: { kind: 'conference', roomId } };
      const tries = memory.tries + 1;
      context.note({ kind: 'wrongPin', tries });
      return tries < pinTries ? askPin(context, tries) : { exit: 'notAdmitted' };
    },
    timeout: () => ({ exit: 'notAdmitted' }),
  },
  whenOpen: (exit) => (exit === 'notAdmitted' ? { goTo: { kind: 'end' } } : endWhenOpen(exit)),
  describe: ({ roomId }, names) => `Join ${names('room', roomId)}`,
};
