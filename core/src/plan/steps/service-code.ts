import { listed, spokenSeconds } from '../spoken.ts';
import { standingAt } from '../../hours/opening-hours.ts';
import type { ServiceCodeItem } from '../../model/configuration.ts';
import { gone, type Next, type StepContext, type StepKind } from '../step-kind.ts';
import { pinHash } from './room.ts';

const fields = {
  codeId: { type: 'item', of: 'code', label: 'Service code' },
  personId: { type: 'item', of: 'person', label: 'Who dialled it' },
} as const;

const pinSeconds = 30;
const pinTries = 3;
const confirmSeconds = 15;
const confirmKey = '1';
const hourMs = 3_600_000;

/** What was typed of the PIN, or that what the code does was read back and waits for the key. */
type Memory =
  { asks: 'pin'; keys: string; tries: number } | { asks: 'confirm'; on: boolean } | { asks: 'nothing' };

function askPin(context: StepContext, tries: number): Next<Memory> {
  context.play('enterPin');
  return { rest: { asks: 'pin', keys: '', tries }, until: context.now + pinSeconds * 1000 };
}

/** Says it, and listens for a key meanwhile and for so long after. */
function say(context: StepContext, words: string, keys: readonly string[], afterSeconds: number): number {
  const prompt = { id: 'readBack', name: 'Read back', words, seconds: spokenSeconds(words) };
  return context.now + context.say(prompt, keys) + afterSeconds * 1000;
}

/** Reads back what is about to happen; it holds once the key is pressed. */
function readBack(context: StepContext, code: ServiceCodeItem): Next<Memory> {
  const sets = code.hoursIds.flatMap((id) => context.hours(id) ?? []);
  const names = listed(sets.map(({ name }) => name));
  if (sets.length === 0)
    return { rest: { asks: 'nothing' }, until: say(context, 'There are no opening hours to close.', [], 0) };
  const on = sets.some((set) => standingAt(set, context.now).state !== 'storm');
  const hours = code.forHours === 1 ? '1 hour' : `${code.forHours} hours`;
  const words = on
    ? `This closes ${names} for ${hours}. Press 1 to close.`
    : `${names} ${sets.length === 1 ? 'is' : 'are'} closed by storm. Press 1 to open again.`;
  return { rest: { asks: 'confirm', on }, until: say(context, words, [confirmKey], confirmSeconds) };
}

/** A code dialled on a phone of ours: the PIN, what it is about to do, and the key by which it holds. */
export const serviceCode: StepKind<typeof fields, Memory> = {
  kind: 'serviceCode',
  word: 'Service code',
  fields,
  exits: () => [gone],
  main: null,
  fresh: { codeId: '', personId: '' },
  destination: () => null,
  enter: (context, { codeId }) => {
    const code = context.code(codeId);
    if (code === undefined) return { exit: gone.name };
    if (code.pinHash === null)
      return { rest: { asks: 'nothing' }, until: say(context, 'This code has no PIN yet.', [], 0) };
    return askPin(context, 0);
  },
  on: {
    key: (context, { codeId, personId }, memory, key) => {
      const code = context.code(codeId);
      if (code === undefined || memory.asks === 'nothing') return null;
      if (memory.asks === 'confirm') {
        if (key !== confirmKey) return null;
        const until = memory.on ? context.now + code.forHours * hourMs : null;
        context.storm(code.hoursIds, until, personId);
        context.note({ kind: 'stormByCode', name: code.name, until });
        const words = memory.on ? 'Closed.' : 'Open again.';
        return { rest: { asks: 'nothing' }, until: say(context, words, [], 0) };
      }
      if (!/^[\d#]$/.test(key)) return null;
      const keys = key === '#' ? memory.keys : memory.keys + key;
      if (key !== '#' && keys.length < code.pinLength) return { rest: { ...memory, keys }, until: null };
      if (pinHash(codeId, keys) === code.pinHash) return readBack(context, code);
      const tries = memory.tries + 1;
      context.note({ kind: 'wrongPin', tries });
      return tries < pinTries ? askPin(context, tries) : { goTo: { kind: 'end' } };
    },
    timeout: () => ({ goTo: { kind: 'end' } }),
  },
  whenOpen: () => ({ end: 'turnedAway', why: null }),
  describe: ({ codeId, personId }, names) =>
    `Do what ${names('code', codeId)} does, for ${names('person', personId)}`,
};
