import { noteQuestion } from '../asking.ts';
import { endWhenOpen, gone, type Next, type StepContext, type StepKind } from '../step-kind.ts';

const fields = {
  promptId: { type: 'item', of: 'prompt', label: 'Prompt' },
  question: { type: 'text', label: 'Called in figures', most: 60, otherwise: 'how it was' },
  waitSeconds: { type: 'whole', label: 'Seconds to wait for a key', least: 2, most: 30, usual: 6 },
} as const;

/** The best first. */
export const surveyKeys = ['5', '4', '3', '2', '1'] as const;

/** How often the question was put. */
interface Asked {
  tries: number;
}
const mostTries = 2;

type Config = Parameters<StepKind<typeof fields, Asked>['enter']>[1];

/** How a question is called where it has no name. */
export const questionName = (question: string) => (question.trim() === '' ? 'How it was' : question.trim());

function ask(context: StepContext, { promptId, waitSeconds }: Config, tries: number): Next<Asked> {
  const prompt = context.prompt(promptId);
  if (prompt === undefined) return { exit: gone.name };
  const playMs = context.say(prompt, surveyKeys);
  return { rest: { tries }, until: context.now + playMs + waitSeconds * 1000 };
}

/** One question to the caller, answered by a key from 1 to 5; several are several of these. */
export const survey: StepKind<typeof fields, Asked> = {
  kind: 'survey',
  word: 'Survey',
  fields,
  exits: () => [{ name: 'next', label: 'answered' }, { name: 'noAnswer', label: 'no answer' }, gone],
  main: 'next',
  fresh: { promptId: '', question: '', waitSeconds: 6 },
  destination: () => null,
  enter: (context, config) => {
    noteQuestion(context, config.promptId);
    return ask(context, config, 1);
  },
  on: {
    key: (context, config, { tries }, key) => {
      if ((surveyKeys as readonly string[]).includes(key)) {
        const question = questionName(config.question);
        context.answered(question, Number(key));
        context.note({ kind: 'surveyAnswered', question, answer: Number(key) });
        return { exit: 'next' };
      }
      context.note({ kind: 'wrongKey', key, tries, most: mostTries });
      return tries < mostTries ? ask(context, config, tries + 1) : { exit: 'noAnswer' };
    },
    timeout: (context, { waitSeconds }) => {
      context.note({ kind: 'noKey', seconds: waitSeconds, tries: mostTries, most: mostTries });
      return { exit: 'noAnswer' };
    },
  },
  // Who does not answer, and a question nobody can put, go the usual way.
  whenOpen: (exit) => (exit === 'next' ? endWhenOpen(exit) : { exit: 'next' }),
  describe: ({ promptId, question }, names) =>
    `Ask ${names('prompt', promptId)} and keep the answer, 1 to 5, as ${questionName(question)}`,
};
