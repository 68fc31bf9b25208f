import { longestGreetingSeconds, type MenuMessage } from '../../model/voicemail-menu.ts';
import { formatNumber } from '../../numbers/format.ts';
import { digitsAndEnd } from '../asking.ts';
import { gone, type Next, type StepContext, type StepKind } from '../step-kind.ts';

const fields = {
  boxId: {
    type: 'itemOrNone',
    of: 'voicemail',
    label: 'Voicemail box',
    otherwise: 'the caller’s own, else the one whose extension they type',
  },
} as const;

interface Open {
  boxId: string;
  messages: readonly (MenuMessage & { deleted?: true })[];
  index: number;
}

/** Which box is asked for, then its PIN; it is read; its messages are heard; a greeting is recorded; the last words. */
type Memory =
  | { at: 'box'; digits: string; tries: number }
  | { at: 'pin'; boxId: string; digits: string; tries: number }
  | { at: 'reading'; boxId: string; asked: number }
  | ({ at: 'menu'; silent: number } & Open)
  | ({ at: 'greeting' } & Open)
  | { at: 'leaving'; exit: 'done' | 'notAdmitted' | 'locked' };

const mostTries = 3;
const mostDigits = 12;
const typingMs = 12_000;
const readingMs = 5_000;
const thinkingMs = 10_000;
/** The tone, and whoever takes a breath. */
const toneMs = 1_500;
const menuKeys = ['1', '2', '3', '4', '*'];
const menuWords =
  'Press 1 to hear it again, 2 for the next, 3 to delete it, 4 to record your greeting, star to end.';

const countWords = (count: number, one: string, many: string) =>
  count === 1 ? `1 ${one}` : `${count} ${many}`;

function say(
  context: StepContext,
  words: string,
  keys: readonly string[],
  memory: Memory,
  ms: number,
): Next<Memory> {
  return { rest: memory, until: context.now + context.speak(words, keys) + ms };
}

function leave(
  context: StepContext,
  words: string,
  exit: (Memory & { at: 'leaving' })['exit'],
): Next<Memory> {
  return say(context, words, [], { at: 'leaving', exit }, 0);
}

function askBox(context: StepContext, tries: number): Next<Memory> {
  const words = `${tries === 0 ? '' : 'No box has that extension. '}Type the extension of your voicemail box, then the pound key.`;
  return say(context, words, digitsAndEnd, { at: 'box', digits: '', tries }, typingMs);
}

function openBox(context: StepContext, boxId: string, tries: number): Next<Memory> {
  const box = context.box(boxId);
  if (box === undefined) return { exit: gone.name };
  switch (context.pinOf(boxId)) {
    case 'none':
      context.note({ kind: 'boxNotOpened', name: box.name, why: 'noPin' });
      return leave(context, 'This box has no PIN yet. It is set at the desk.', 'notAdmitted');
    case 'locked':
      context.note({ kind: 'boxNotOpened', name: box.name, why: 'locked' });
      return leave(
        context,
        'This box is locked after wrong PINs. Try again in a quarter of an hour.',
        'locked',
      );
    case 'asked': {
      const words = `${tries === 0 ? '' : 'That is not the PIN. '}Type the PIN of ${box.name}, then the pound key.`;
      return say(context, words, digitsAndEnd, { at: 'pin', boxId, digits: '', tries }, typingMs);
    }
  }
}

function tryPin(context: StepContext, { boxId, digits, tries }: Memory & { at: 'pin' }): Next<Memory> {
  if (context.isPin(boxId, digits)) {
    context.note({ kind: 'boxOpened', name: context.box(boxId)?.name ?? '' });
    const asked = context.readBox(boxId);
    return { rest: { at: 'reading', boxId, asked }, until: context.now + readingMs };
  }
  context.note({ kind: 'wrongPin', tries: tries + 1 });
  if (tries + 1 >= mostTries && context.pinOf(boxId) === 'asked')
    return leave(context, 'That is not the PIN. Goodbye.', 'notAdmitted');
  return openBox(context, boxId, tries + 1);
}

function tryBox(context: StepContext, { digits, tries }: Memory & { at: 'box' }): Next<Memory> {
  const boxId = context.boxOf(digits);
  if (boxId !== null) return openBox(context, boxId, 0);
  return tries + 1 < mostTries ? askBox(context, tries + 1) : leave(context, 'Goodbye.', 'notAdmitted');
}

/** Says which message it is, plays it, and says what may be done. */
function hear(context: StepContext, { boxId, messages, index }: Open, before = ''): Next<Memory> {
  const message = messages[index];
  const from =
    message === undefined ? '' : message.from === '' ? 'a withheld number' : formatNumber(message.from);
  const words =
    message === undefined
      ? `${before}Press 4 to record your greeting, star to end.`
      : `${before}Message ${index + 1} of ${messages.length}${message.fresh ? ', new' : ''}, from ${from}.`;
  let ms = context.speak(words, menuKeys);
  if (message !== undefined) {
    ms += context.playMessage(message.id, message.seconds, menuKeys);
    if (message.fresh) context.doneWithMessage(boxId, message.id, 'heard');
    ms += context.speak(menuWords, menuKeys);
  }
  return { rest: { at: 'menu', boxId, messages, index, silent: 0 }, until: context.now + ms + thinkingMs };
}

function pressed(context: StepContext, open: Open, key: string): Next<Memory> | null {
  const message = open.messages[open.index];
  switch (key) {
    case '1':
      return hear(context, open);
    case '2':
      return open.index + 1 < open.messages.length
        ? hear(context, { ...open, index: open.index + 1 })
        : say(
            context,
            'That was the last message.',
            menuKeys,
            { at: 'menu', silent: 0, ...open },
            thinkingMs,
          );
    case '3': {
      if (message === undefined) return null;
      const { deleted, ...kept } = message;
      context.doneWithMessage(open.boxId, message.id, deleted === true ? 'restored' : 'deleted');
      const now = deleted === true ? kept : { ...kept, deleted: true as const };
      const messages = open.messages.map((each, i) => (i === open.index ? now : each));
      const words = deleted === true ? 'It is back.' : 'Deleted. Press 3 to bring it back, 2 for the next.';
      return say(context, words, menuKeys, { at: 'menu', silent: 0, ...open, messages }, thinkingMs);
    }
    case '4': {
      const words = 'Speak your greeting after the tone. Press the pound key when you are done.';
      const ms = context.speak(words, ['#']);
      context.recordGreeting(open.boxId, 'start');
      const until = context.now + ms + toneMs + longestGreetingSeconds * 1000;
      return {
        rest: { at: 'greeting', boxId: open.boxId, messages: open.messages, index: open.index },
        until,
      };
    }
    case '*':
      return leave(context, 'Goodbye.', 'done');
    default:
      return null;
  }
}

function greetingDone(context: StepContext, { boxId, messages, index }: Open): Next<Memory> {
  context.recordGreeting(boxId, 'stop');
  context.note({ kind: 'greetingRecorded', name: context.box(boxId)?.name ?? '' });
  const words = 'Your greeting is kept. Callers hear it in a moment.';
  return say(context, words, menuKeys, { at: 'menu', boxId, messages, index, silent: 0 }, thinkingMs);
}

/**
 * Opens a voicemail box from any phone, by its PIN: messages are heard and deleted, and a greeting is recorded. Wrong PINs
 * in a row lock the box for a while, however many calls they come in.
 */
export const voicemailMenu: StepKind<typeof fields, Memory> = {
  kind: 'voicemailMenu',
  word: 'Open voicemail',
  fields,
  exits: () => [
    { name: 'done', label: 'they are done' },
    { name: 'notAdmitted', label: 'the PIN is not typed' },
    { name: 'locked', label: 'the box is locked' },
    gone,
  ],
  main: 'done',
  fresh: { boxId: '' },
  destination: () => null,
  enter: (context, { boxId }) => {
    const own = boxId === '' ? context.ownBox() : boxId;
    return own === null ? askBox(context, 0) : openBox(context, own, 0);
  },
  on: {
    key: (context, _config, memory, key) => {
      switch (memory.at) {
        case 'box':
        case 'pin': {
          if (!/^[\d#]$/.test(key)) return null;
          const digits = key === '#' ? memory.digits : memory.digits + key;
          const typed = { ...memory, digits };
          if (key !== '#' && digits.length < mostDigits)
            return { rest: typed, until: context.now + typingMs };
          return typed.at === 'box' ? tryBox(context, typed) : tryPin(context, typed);
        }
        case 'menu':
          return pressed(context, memory, key);
        case 'greeting':
          return key === '#' ? greetingDone(context, memory) : null;
        default:
          return null;
      }
    },
    replied: (context, _config, memory, reply) => {
      if (reply.of !== 'box' || memory.at !== 'reading' || reply.asked !== memory.asked) return null;
      const { messages } = reply;
      const fresh = messages.filter((message) => message.fresh).length;
      const counted =
        messages.length === 0
          ? 'There are no messages. '
          : `${countWords(fresh, 'new message', 'new messages')}, ${countWords(messages.length - fresh, 'other', 'others')}. `;
      return hear(context, { boxId: memory.boxId, messages, index: 0 }, counted);
    },
    timeout: (context, _config, memory) => {
      switch (memory.at) {
        case 'box':
          return tryBox(context, memory);
        case 'pin':
          return memory.digits === '' ? leave(context, 'Goodbye.', 'notAdmitted') : tryPin(context, memory);
        case 'reading':
          return leave(context, 'The messages cannot be read just now. Try again in a moment.', 'done');
        case 'greeting':
          return greetingDone(context, memory);
        case 'leaving':
          return { exit: memory.exit };
        case 'menu':
          return memory.silent > 0
            ? leave(context, 'Goodbye.', 'done')
            : say(context, menuWords, menuKeys, { ...memory, silent: 1 }, thinkingMs);
      }
    },
  },
  whenOpen: () => ({ goTo: { kind: 'end' } }),
  describe: ({ boxId }, names) =>
    boxId === '' ? 'Open a voicemail box by its PIN' : `Open ${names('voicemail', boxId)} by its PIN`,
};
