import { listed } from '../spoken.ts';
import { gone, type Next, type StepContext, type StepKind } from '../step-kind.ts';

const fields = {
  codeId: { type: 'item', of: 'code', label: 'Service code' },
  personId: { type: 'item', of: 'person', label: 'Who dialled it' },
} as const;

/** Says it, and the call ends. */
function say(context: StepContext, words: string): Next<null> {
  return { rest: null, until: context.now + context.speak(words) };
}

/**
 * A code dialled on a phone of ours: its person sits out of ring groups, or takes part again. Who takes part in any of them
 * sits out of all of them, so that one code does both; no PIN is asked for, since nothing but their own phone is meant.
 */
export const takePart: StepKind<typeof fields, null> = {
  kind: 'takePart',
  word: 'Take part',
  fields,
  exits: () => [gone],
  main: null,
  fresh: { codeId: '', personId: '' },
  destination: () => null,
  enter: (context, { codeId, personId }) => {
    const code = context.code(codeId);
    if (code === undefined) return { exit: gone.name };
    const named = code.groupIds ?? [];
    const groups = context.groupsOf(personId).filter(({ id }) => named.length === 0 || named.includes(id));
    if (groups.length === 0) return say(context, 'You are a member of no ring group here.');
    const takesPart = !groups.some((group) => group.takesPart);
    for (const { id } of groups) context.takePart(id, personId, takesPart);
    const names = groups.map(({ name }) => name);
    context.note({ kind: 'tookPart', groups: names, takesPart });
    const all = listed(names);
    return say(context, takesPart ? `You take part in ${all} again.` : `You sit out of ${all}.`);
  },
  on: { timeout: () => ({ goTo: { kind: 'end' } }) },
  whenOpen: () => ({ end: 'turnedAway', why: null }),
  describe: ({ codeId, personId }, names) =>
    `Do what ${names('code', codeId)} does, for ${names('person', personId)}`,
};
