import { noteQuestion } from '../asking.ts';
import { type Answer, answerIn } from '../phrases.ts';
import { endWhenOpen, gone, type Next, type StepContext, type StepKind } from '../step-kind.ts';
import { sendText } from './text-back.ts';

const fields = {
  promptId: { type: 'item', of: 'prompt', label: 'Prompt' },
  answers: { type: 'answers', label: 'Answers' },
  waitSeconds: { type: 'whole', label: 'Seconds to wait for a word', least: 2, most: 30, usual: 5 },
  tries: { type: 'whole', label: 'Times asked', least: 1, most: 5, usual: 2 },
  numberId: {
    type: 'itemOrNone',
    of: 'number',
    label: 'Number of a text they may answer instead',
    otherwise: 'by voice only',
  },
  words: { type: 'text', label: 'Text they may answer', most: 300, otherwise: 'no text at all' },
} as const;

/** How often it was asked. */
interface Asked {
  tries: number;
}

type Config = Parameters<StepKind<typeof fields, Asked>['enter']>[1];

/** Whoever types has longer than who speaks. */
const typingSeconds = 45;

/** The exit behind an answer. */
export const exitOfAnswer = (id: string) => `answer${id}`;

function ask(context: StepContext, config: Config, tries: number, byText: boolean): Next<Asked> {
  const prompt = context.prompt(config.promptId);
  if (prompt === undefined) return { exit: gone.name };
  const playMs = context.say(prompt, []);
  const seconds = byText ? Math.max(typingSeconds, config.waitSeconds) : config.waitSeconds;
  context.listen(
    config.answers.flatMap(({ phrases }) => phrases),
    playMs / 1000 + config.waitSeconds,
  );
  return { rest: { tries }, until: context.now + playMs + seconds * 1000 };
}

function again(context: StepContext, config: Config, tries: number, exit: string): Next<Asked> {
  return tries < config.tries ? ask(context, config, tries + 1, false) : { exit };
}

/** A question that is answered in words, spoken or, where a text goes with it, typed. */
export const askStep: StepKind<typeof fields, Asked> = {
  kind: 'ask',
  word: 'Ask',
  fields,
  exits: ({ answers }) => [
    ...answers.map(({ id, name }, index) => ({
      name: exitOfAnswer(id),
      label: name === '' ? `answer ${index + 1}` : name,
      needed: true as const,
      chosen: true as const,
    })),
    { name: 'notUnderstood', label: 'did not understand', needed: true },
    { name: 'saidNothing', label: 'said nothing' },
    gone,
  ],
  main: null,
  fresh: { promptId: '', answers: [], waitSeconds: 5, tries: 2, numberId: '', words: '' },
  destination: () => null,
  enter: (context, config) => {
    noteQuestion(context, config.promptId);
    const { numberId, words } = config;
    return ask(context, config, 1, numberId !== '' && sendText(context, { numberId, words, hoursId: '' }));
  },
  on: {
    spoken: (context, config, { tries }, { words, by }) => {
      const found = answerIn(words, config.answers as readonly Answer[]);
      if (found !== null) {
        const { name, id } = found.answer;
        context.note({ kind: 'understood', words, by, answer: name, phrase: found.phrase });
        return { exit: exitOfAnswer(id) };
      }
      context.note({ kind: 'notUnderstood', words, by, tries, most: config.tries });
      return again(context, config, tries, 'notUnderstood');
    },
    timeout: (context, config, { tries }) => {
      context.note({ kind: 'saidNothing', seconds: config.waitSeconds, tries, most: config.tries });
      return again(context, config, tries, 'saidNothing');
    },
  },
  // Silence, and a question nobody can put, are as good as what was not understood.
  whenOpen: (exit) =>
    exit === 'saidNothing' || exit === gone.name ? { exit: 'notUnderstood' } : endWhenOpen(exit),
  describe: ({ promptId, answers, numberId }, names) => {
    const called = answers.map(({ name, phrases }) => name || phrases[0] || 'an answer').join(', ');
    const byText = numberId === '' ? '' : `, or let them answer a text from ${names('number', numberId)}`;
    return `Ask ${names('prompt', promptId)} and listen for ${called || 'no answer yet'}${byText}`;
  },
};
