import { digitsAndEnd, languageField, noteQuestion } from '../asking.ts';
import { endWhenOpen, gone, type Next, type StepContext, type StepKind } from '../step-kind.ts';
import { speakAsKnown } from './record.ts';

const fields = {
  promptId: { type: 'item', of: 'prompt', label: 'Prompt' },
  field: {
    type: 'text',
    label: 'Field it is compared with',
    most: 80,
    otherwise: 'the number of the record',
  },
  waitSeconds: { type: 'whole', label: 'Seconds to wait for a digit', least: 2, most: 30, usual: 6 },
  tries: { type: 'whole', label: 'Tries', least: 1, most: 9, usual: 3 },
  limitSeconds: { type: 'whole', label: 'Seconds the customer system has', least: 1, most: 15, usual: 4 },
  languageField,
} as const;

/** What was typed so far, how often it was asked, and the look-up that is out. */
interface Typed {
  digits: string;
  tries: number;
  asked: number | null;
}

type Config = Parameters<StepKind<typeof fields, Typed>['enter']>[1];

const mostDigits = 20;
const thinkSeconds = 8;

function ask(context: StepContext, { promptId }: Config, tries: number): Next<Typed> {
  const prompt = context.prompt(promptId);
  if (prompt === undefined) return { exit: gone.name };
  const playMs = context.say(prompt, digitsAndEnd);
  return { rest: { digits: '', tries, asked: null }, until: context.now + playMs + thinkSeconds * 1000 };
}

function lookUp(context: StepContext, config: Config, { digits, tries }: Typed): Next<Typed> {
  if (digits === '') return again(context, config, tries, 0);
  const asked = context.lookUp({ digits, field: config.field, withinSeconds: config.limitSeconds });
  return { rest: { digits, tries, asked }, until: context.now + config.limitSeconds * 1000 };
}

function again(context: StepContext, config: Config, tries: number, digits: number): Next<Typed> {
  context.note({ kind: 'wrongCustomerNumber', digits, tries, most: config.tries });
  return tries < config.tries ? ask(context, config, tries + 1) : { exit: 'notKnown' };
}

/**
 * Lets the caller type a number or PIN by which the customer system knows them; # ends it. What was typed is never kept
 * whole, nor read back: a story says how many digits it had.
 */
export const customerNumber: StepKind<typeof fields, Typed> = {
  kind: 'customerNumber',
  word: 'Customer number',
  fields,
  exits: () => [
    { name: 'known', label: 'found', needed: true },
    { name: 'notKnown', label: 'not found in the end', needed: true },
    { name: 'noAnswer', label: 'the customer system did not answer' },
    gone,
  ],
  main: 'known',
  fresh: { promptId: '', field: '', waitSeconds: 6, tries: 3, limitSeconds: 4, languageField: '' },
  destination: () => null,
  enter: (context, config) => {
    noteQuestion(context, config.promptId);
    return ask(context, config, 1);
  },
  on: {
    key: (context, config, typed, key) => {
      if (typed.asked !== null || !/^[\d#]$/.test(key)) return null;
      if (key === '#') return lookUp(context, config, typed);
      const next = { ...typed, digits: typed.digits + key };
      if (next.digits.length >= mostDigits) return lookUp(context, config, next);
      return { rest: next, until: context.now + config.waitSeconds * 1000 };
    },
    timeout: (context, config, typed) => {
      if (typed.asked === null) return lookUp(context, config, typed);
      context.note({ kind: 'lookUpFailed', withinSeconds: config.limitSeconds, why: 'slow' });
      return { exit: 'noAnswer' };
    },
    replied: (context, config, typed, reply) => {
      if (reply.of !== 'record' || reply.asked !== typed.asked) return null;
      if (reply.failed) {
        context.note({ kind: 'lookUpFailed', withinSeconds: config.limitSeconds, why: 'fault' });
        return { exit: 'noAnswer' };
      }
      if (reply.record === null) return again(context, config, typed.tries, typed.digits.length);
      context.identify(reply.record);
      context.note({ kind: 'recordAsked', name: reply.record.name, by: 'typed' });
      speakAsKnown(context, config.languageField);
      return { exit: 'known' };
    },
  },
  // A system that does not answer knows nobody.
  whenOpen: (exit) => (exit === 'known' || exit === 'notKnown' ? endWhenOpen(exit) : { exit: 'notKnown' }),
  describe: ({ promptId, field = '' }, names) =>
    `Ask ${names('prompt', promptId)} and look up ${field === '' ? 'the customer number' : field}`,
};
