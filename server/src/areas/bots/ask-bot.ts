import Joi from 'joi';
import {
  type BotAnswer,
  type BotFault,
  longestFact,
  longestSaid,
  mostFacts,
} from '@night-bell/core/model/bots';
import { isLanguage } from '@night-bell/core/model/languages';
import type { BotAsked, BotReply } from '@night-bell/core/rehearse/test-call';
import { type Outgoing, OutgoingFault } from '../../outgoing/outgoing.ts';

/** No answer of a turn is longer. */
const mostBytes = 64 * 1024;

const answered = Joi.object<BotAnswer, true>({
  say: Joi.string().allow('').max(longestSaid).default(''),
  then: Joi.string().valid('listen', 'done', 'handOver').default('listen'),
  facts: Joi.object()
    .pattern(Joi.string().min(1).max(40), Joi.string().allow('').max(longestFact))
    .max(mostFacts)
    .default({}),
  language: Joi.string()
    .custom((value: string, helpers) => (isLanguage(value) ? value : helpers.error('any.invalid')))
    .allow(null)
    .default(null),
})
  .options({ stripUnknown: true, convert: false })
  .required();

/** Asks a bot what to say next (docs/bots.md). Never throws: what comes to nothing says why, in one word. */
export async function askBot(
  outgoing: Outgoing,
  door: { address: string; key: string | null },
  asked: Omit<BotAsked, 'asked' | 'botId'>,
): Promise<BotReply> {
  const { callId, turn, said, language, from, to, found, withinSeconds } = asked;
  try {
    const { status, text } = await outgoing.ask(door.address, {
      method: 'POST',
      headers: { accept: 'application/json', 'content-type': 'application/json' },
      ...(door.key === null ? {} : { secretHeaders: { authorization: `Bearer ${door.key}` } }),
      body: JSON.stringify({ call: callId, turn, said, language, from, to, facts: found }),
      timeoutMs: withinSeconds * 1_000,
      mostBytes,
    });
    if (status >= 300) return nothing('fault');
    const { error, value } = answered.validate(JSON.parse(text));
    return error === undefined ? { answer: value, why: null } : nothing('nonsense');
  } catch (error) {
    if (error instanceof SyntaxError) return nothing('nonsense');
    const code = error instanceof OutgoingFault ? error.code : 'away';
    return nothing(code === 'slow' ? 'slow' : code === 'tooLong' ? 'tooLarge' : 'fault');
  }
}

const nothing = (why: BotFault): BotReply => ({ answer: null, why });
