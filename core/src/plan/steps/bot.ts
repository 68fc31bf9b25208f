import type { BotFault } from '../../model/bots.ts';
import { isLanguage } from '../../model/languages.ts';
import { endWhenOpen, gone, type Next, type StepContext, type StepKind } from '../step-kind.ts';

const fields = {
  botId: { type: 'item', of: 'bot', label: 'Bot' },
  waitSeconds: { type: 'whole', label: 'Seconds to wait for a word', least: 2, most: 30, usual: 6 },
} as const;

/** The turn that is under way: the bot is asked, the caller is listened to, or the last words are said. */
interface Turn {
  turn: number;
  asked: number | null;
  leaves: 'done' | 'handOver' | null;
}

function askBot(context: StepContext, botId: string, turn: number, said: string): Next<Turn> {
  const bot = context.bot(botId);
  if (bot === undefined) return { exit: gone.name };
  if (turn > bot.mostTurns) {
    context.note({ kind: 'botStopped', name: bot.name, turns: bot.mostTurns });
    return { exit: 'tooLong' };
  }
  const asked = context.askBot({ botId, turn, said, withinSeconds: bot.limitSeconds });
  return { rest: { turn, asked, leaves: null }, until: context.now + bot.limitSeconds * 1000 };
}

function noAnswer(context: StepContext, botId: string, why: BotFault): Next<Turn> {
  const name = context.bot(botId)?.name ?? 'The bot';
  context.note({ kind: 'botFailed', name, why });
  return { exit: 'noAnswer' };
}

/**
 * Hands the caller to a bot outside, turn by turn, and goes on with what it found out. A bot that does not answer within
 * its seconds, or answers what is no answer, has a way of its own.
 */
export const bot: StepKind<typeof fields, Turn> = {
  kind: 'bot',
  word: 'Bot',
  fields,
  exits: () => [
    { name: 'done', label: 'the bot is done' },
    { name: 'handOver', label: 'the bot hands over', needed: true },
    { name: 'noAnswer', label: 'the bot did not answer', needed: true },
    { name: 'tooLong', label: 'it took too many turns' },
    gone,
  ],
  main: 'handOver',
  fresh: { botId: '', waitSeconds: 6 },
  destination: () => null,
  enter: (context, { botId }) => askBot(context, botId, 1, ''),
  on: {
    replied: (context, { botId, waitSeconds }, { turn, asked }, reply) => {
      if (reply.of !== 'bot' || reply.asked !== asked) return null;
      const { answer } = reply;
      if (answer === null) return noAnswer(context, botId, reply.why);
      context.found(answer.facts);
      if (answer.language !== null && isLanguage(answer.language)) context.speakIn(answer.language);
      context.note({ kind: 'botSaid', turn, words: answer.say, found: answer.facts });
      const playMs = context.speak(answer.say);
      if (answer.then !== 'listen')
        return { rest: { turn, asked: null, leaves: answer.then }, until: context.now + playMs };
      context.listen([], playMs / 1000 + waitSeconds);
      const until = context.now + playMs + waitSeconds * 1000;
      return { rest: { turn, asked: null, leaves: null }, until };
    },
    spoken: (context, { botId }, { turn, asked, leaves }, { words, by }) => {
      if (asked !== null || leaves !== null) return null;
      context.note({ kind: 'saidToBot', words, by });
      return askBot(context, botId, turn + 1, words);
    },
    timeout: (context, { botId }, { turn, asked, leaves }) => {
      if (leaves !== null) return { exit: leaves };
      if (asked !== null) return noAnswer(context, botId, 'slow');
      // Silence is told to the bot: what to make of it is its own.
      context.note({ kind: 'saidToBot', words: '', by: 'voice' });
      return askBot(context, botId, turn + 1, '');
    },
  },
  // A bot that is done, does not come to an end, or is gone, hands over.
  whenOpen: (exit) => (exit === 'noAnswer' || exit === 'handOver' ? endWhenOpen(exit) : { exit: 'handOver' }),
  describe: ({ botId }, names) => `Hand the caller to ${names('bot', botId)}`,
};
