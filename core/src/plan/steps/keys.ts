import { noteQuestion } from '../asking.ts';
import type { KeyChoice } from '../../model/plan.ts';
import { languageName } from '../../model/languages.ts';
import { endWhenOpen, gone, type Next, type StepContext, type StepKind } from '../step-kind.ts';

const fields = {
  promptId: { type: 'item', of: 'prompt', label: 'Prompt' },
  keys: { type: 'keys', label: 'Keys' },
  waitSeconds: { type: 'whole', label: 'Seconds to wait for a key', least: 1, most: 60, usual: 5 },
  tries: { type: 'whole', label: 'Tries', least: 1, most: 9, usual: 3 },
} as const;

/** How often the question was put, the first time included. */
interface Asked {
  tries: number;
}

interface Config {
  readonly promptId: string;
  readonly keys: readonly KeyChoice[];
  readonly waitSeconds: number;
}

const inWords = ({ key, label, language = null }: KeyChoice) =>
  `${key} ${label}`.trim() + (language === null ? '' : ` (in ${languageName(language)})`);

/** The exit behind a key. */
export const exitOfKey = (key: string) => `key${key}`;

function ask(context: StepContext, { promptId, keys, waitSeconds }: Config, tries: number): Next<Asked> {
  const prompt = context.prompt(promptId);
  if (prompt === undefined) return { exit: gone.name };
  const playMs = context.say(
    prompt,
    keys.map(({ key }) => key),
  );
  return { rest: { tries }, until: context.now + playMs + waitSeconds * 1000 };
}

/** A menu: a prompt, and a way on for each key. Asked again after a wrong key or none, as often as set. */
export const keys: StepKind<typeof fields, Asked> = {
  kind: 'keys',
  word: 'Keys',
  fields,
  exits: (config) => [
    ...config.keys.map(({ key, label }) => ({
      name: exitOfKey(key),
      label: label === '' ? `key ${key}` : label,
      needed: true as const,
      chosen: true as const,
    })),
    { name: 'noKey', label: 'no key in time', needed: true },
    { name: 'wrongKey', label: 'wrong keys only' },
    gone,
  ],
  main: null,
  fresh: { promptId: '', keys: [], waitSeconds: 5, tries: 3 },
  destination: () => null,
  enter: (context, config) => {
    noteQuestion(context, config.promptId);
    return ask(context, config, 1);
  },
  on: {
    key: (context, config, { tries }, key) => {
      const chosen = config.keys.find((each) => each.key === key);
      if (chosen !== undefined) {
        const others = config.keys.filter((each) => each !== chosen);
        const language = chosen.language ?? null;
        context.pressed(key);
        if (language !== null) context.speakIn(language);
        const spoken = language === null ? {} : { language };
        context.note({ kind: 'keyChosen', key, label: chosen.label, ...spoken, others });
        return { exit: exitOfKey(key) };
      }
      context.note({ kind: 'wrongKey', key, tries, most: config.tries });
      return tries < config.tries ? ask(context, config, tries + 1) : { exit: 'wrongKey' };
    },
    timeout: (context, config, { tries }) => {
      context.note({ kind: 'noKey', seconds: config.waitSeconds, tries, most: config.tries });
      return tries < config.tries ? ask(context, config, tries + 1) : { exit: 'noKey' };
    },
  },
  // Wrong keys only, and the lack of a prompt, are as good as no key; with nowhere to go the call ends.
  whenOpen: (exit) => (exit === 'wrongKey' || exit === gone.name ? { exit: 'noKey' } : endWhenOpen(exit)),
  describe: ({ promptId, keys: choices }, names) =>
    `Ask ${names('prompt', promptId)}: ${choices.map(inWords).join(', ') || 'no key yet'}`,
};
