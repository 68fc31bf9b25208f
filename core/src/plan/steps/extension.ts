import { digitsAndEnd, noteQuestion } from '../asking.ts';
import { endWhenOpen, gone, type Next, type StepContext, type StepKind } from '../step-kind.ts';

const fields = {
  promptId: { type: 'item', of: 'prompt', label: 'Prompt' },
  waitSeconds: { type: 'whole', label: 'Seconds to wait between digits', least: 1, most: 15, usual: 3 },
  tries: { type: 'whole', label: 'Tries', least: 1, most: 9, usual: 3 },
} as const;

/** What was typed so far, and how often it was asked. */
interface Typed {
  digits: string;
  tries: number;
}

interface Config {
  readonly promptId: string;
  readonly waitSeconds: number;
  readonly tries: number;
}

/** Time to remember the number after the question is over. */
const thinkSeconds = 5;

function ask(context: StepContext, { promptId }: Config, tries: number): Next<Typed> {
  const prompt = context.prompt(promptId);
  if (prompt === undefined) return { exit: gone.name };
  const playMs = context.say(prompt, digitsAndEnd);
  return { rest: { digits: '', tries }, until: context.now + playMs + thinkSeconds * 1000 };
}

/** Goes where the digits lead; asks again, or leaves, when they lead nowhere. */
function resolve(context: StepContext, config: Config, { digits, tries }: Typed): Next<Typed> {
  const destination = context.extension(digits);
  if (destination !== undefined) {
    context.note({ kind: 'extensionDialled', digits, name: context.nameOf(destination) });
    return { goTo: destination };
  }
  context.note({ kind: 'wrongExtension', digits, tries, most: config.tries });
  return tries < config.tries ? ask(context, config, tries + 1) : { exit: 'noExtension' };
}

/**
 * Lets the caller type an extension. Where one is the beginning of another the shorter waits for the inter-digit time-out
 * (docs/definitions.md, "Dialling rules"); # ends what is typed.
 */
export const extension: StepKind<typeof fields, Typed> = {
  kind: 'extension',
  word: 'Extension entry',
  fields,
  exits: () => [{ name: 'noExtension', label: 'no extension in the end', needed: true }, gone],
  main: null,
  fresh: { promptId: '', waitSeconds: 3, tries: 3 },
  destination: () => null,
  enter: (context, config) => {
    noteQuestion(context, config.promptId);
    return ask(context, config, 1);
  },
  on: {
    key: (context, config, typed, key) => {
      if (key === '#') return resolve(context, config, typed);
      if (!/^\d$/.test(key)) return null;
      const next = { ...typed, digits: typed.digits + key };
      if (context.isBegun(next.digits)) return { rest: next, until: context.now + config.waitSeconds * 1000 };
      // Nothing longer begins like this: it is this one, or none.
      return resolve(context, config, next);
    },
    timeout: (context, config, typed) => resolve(context, config, typed),
  },
  whenOpen: (exit) => (exit === gone.name ? { exit: 'noExtension' } : endWhenOpen(exit)),
  describe: ({ promptId }, names) => `Ask ${names('prompt', promptId)} for an extension`,
};
