import { gone, type StepKind } from '../step-kind.ts';

const fields = {
  promptId: { type: 'item', of: 'prompt', label: 'Prompt' },
  againKey: { type: 'key', label: 'Key to hear it again' },
} as const;

/** How long a caller may think before the key to hear it again means nothing any more. */
const againSeconds = 4;

/** Plays a prompt, then goes on. A caller may have it again by a key, while it plays and shortly after. */
export const say: StepKind<typeof fields, null> = {
  kind: 'say',
  word: 'Say',
  fields,
  exits: () => [{ name: 'next', label: 'when it is over', needed: true }, gone],
  main: 'next',
  fresh: { promptId: '', againKey: null },
  destination: () => null,
  enter: (context, { promptId, againKey }) => {
    const prompt = context.prompt(promptId);
    if (prompt === undefined) return { exit: gone.name };
    context.note({ kind: 'said', promptId, name: prompt.name, seconds: prompt.seconds });
    const playMs = context.say(prompt, againKey === null ? [] : [againKey]);
    return { rest: null, until: context.now + playMs + (againKey === null ? 0 : againSeconds * 1000) };
  },
  on: {
    key: (context, { promptId, againKey }, _memory, key) => {
      const prompt = context.prompt(promptId);
      if (key !== againKey || prompt === undefined) return null;
      context.note({ kind: 'askedAgain', promptId, name: prompt.name });
      return { rest: null, until: context.now + context.say(prompt, [againKey]) + againSeconds * 1000 };
    },
    timeout: () => ({ exit: 'next' }),
  },
  // A sound that is not there keeps nobody from going on.
  whenOpen: (exit) => (exit === gone.name ? { exit: 'next' } : { end: 'turnedAway', why: null }),
  describe: ({ promptId, againKey }, names) =>
    `Say ${names('prompt', promptId)}${againKey === null ? '' : `, ${againKey} to hear it again`}`,
};
