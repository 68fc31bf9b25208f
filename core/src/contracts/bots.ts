import Joi from 'joi';
import { type DraftOf, itemContract, type ViewOf } from './item.ts';
import { longestFact, mostFacts } from '../model/bots.ts';
import { flag, name, nullable, object, optional, type Out, part, text, usually, whole } from './parts.ts';

const address = part<string>(
  Joi.string()
    .trim()
    .uri({ scheme: ['http', 'https'] })
    .max(300)
    .required()
    .messages({
      'string.empty': 'Type the address of the bot, for example https://bot.example/talk.',
      'string.uri': 'An address begins with http:// or https://.',
      'string.uriCustomScheme': 'An address begins with http:// or https://.',
    }),
);
const key = part<string>(
  Joi.string().trim().min(8).max(400).messages({ 'string.min': 'A key has at least 8 characters.' }),
);

const factsSoFar = Joi.object()
  .pattern(Joi.string().max(40), Joi.string().allow('').max(longestFact))
  .max(mostFacts);

/** Bots outside that talk with callers (docs/bots.md). The key is written, never read. */
export const bots = itemContract(
  {
    ...{ area: 'Bots', path: '/api/bots', one: 'a bot', many: 'bots' },
    example: { name: 'Sailing times', address: 'https://bot.example/talk' },
  },
  {
    name,
    address,
    /** It has so long to answer each turn. */
    limitSeconds: usually(whole(1, 15), 4),
    mostTurns: usually(whole(1, 50), 12),
  },
  { hasKey: flag, uses: whole(0, 1_000_000) },
  { written: { key: optional(key) } },
);

export type BotsContract = typeof bots;
export type BotDraft = DraftOf<BotsContract>;
export type BotView = ViewOf<BotsContract>;

/** A turn to try a bot with, as a call would have it. */
export const botTrial = object({
  said: text(300),
  turn: usually(whole(1, 50), 1),
  facts: usually(part<Record<string, string>>(factsSoFar), {}),
  language: usually(nullable(text(20)), null),
});
export type BotTrial = Out<typeof botTrial>;
