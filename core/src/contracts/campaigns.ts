import Joi from 'joi';
import { outcomeList, script } from '../model/outcomes.schema.ts';
import type { Outcome } from '../model/outcomes.ts';
import { type DraftOf, itemContract, type ViewOf } from './item.ts';
import { choice, id, list, name, nullable, part, seconds, text, usually, whole } from './parts.ts';

/** The United States' rules for telephone sales are the defaults and the bounds (47 CFR 64.1200, 16 CFR 310.4). */
export const earliestMinute = 8 * 60;
export const latestMinute = 21 * 60;

const usualMessage =
  'This is {{ company.name }}. Nobody is free to speak with you at this moment. To get no more calls, press 9.';

const ratioSentence = 'From 0.1 to 5 calls for each free agent.';
const percentSentence = 'From 0 to 3 percent.';
const attemptSentence = 'From 1 to 20 attempts.';
const minuteSentence = 'Calling hours lie between 8:00 and 21:00 at the contact’s own clock.';

function bounded(schema: Joi.NumberSchema, least: number, most: number, sentence: string): Joi.NumberSchema {
  return schema.min(least).max(most).messages({
    'number.base': sentence,
    'number.min': sentence,
    'number.max': sentence,
    'number.integer': sentence,
    'number.precision': sentence,
    'number.unsafe': sentence,
  });
}
const integer = () => Joi.number().integer();
const decimal = () => Joi.number().precision(2);

const message = Joi.string().trim().min(10).max(500).messages({
  'string.empty': 'Say who called and how to get no more calls.',
  'string.min': 'Say who called and how to get no more calls.',
});
const optOutKey = Joi.string()
  .pattern(/^[0-9*#]$/)
  .allow(null)
  .messages({ 'string.pattern.base': 'One key: 0 to 9, * or #.' });
const hoursTo = bounded(integer(), earliestMinute + 1, latestMinute, minuteSentence)
  .greater(Joi.ref('hoursFrom'))
  .messages({ 'number.greater': 'Calling hours end after they begin.' });

/** Campaigns. What is null has to be chosen before one can start. */
export const campaigns = itemContract(
  {
    ...{ area: 'Campaigns', path: '/api/campaigns', one: 'a campaign', many: 'campaigns' },
    example: { name: 'Season renewal' },
  },
  {
    name,
    queueId: usually(nullable(id), null),
    trunkId: usually(nullable(id), null),
    /** The number held that contacts see. */
    numberId: usually(nullable(id), null),
    ratio: usually(part<number>(bounded(decimal(), 0.1, 5, ratioSentence)), 1.2),
    mostInAir: usually(
      part<number | null>(bounded(integer(), 1, 1_000, 'From 1 to 1,000 calls, or no limit.').allow(null)),
      null,
    ),
    ringSeconds: usually(seconds(15, 90), 20),
    /** Percent of people answering that may be abandoned. */
    abandonPercent: usually(part<number>(bounded(decimal(), 0, 3, percentSentence)), 3),
    message: usually(part<string>(message), usualMessage),
    optOutKey: usually(part<string | null>(optOutKey), '9'),
    attempts: usually(part<number>(bounded(integer(), 1, 20, attemptSentence)), 4),
    retryMinutes: usually(part<number>(bounded(integer(), 5, 43_200, 'From 5 minutes to 30 days.')), 240),
    /** Minutes of the contact's local day, half-open. */
    hoursFrom: usually(
      part<number>(bounded(integer(), earliestMinute, latestMinute - 1, minuteSentence)),
      earliestMinute,
    ),
    hoursTo: usually(part<number>(hoursTo), latestMinute),
    script: usually(part<string>(script), ''),
    outcomes: usually(part<Outcome[]>(outcomeList), []),
  },
  {
    status: choice('draft', 'running', 'paused', 'finished'),
    since: text(40),
    /** Own fields of its contacts, as merge fields name them. */
    fields: list(text(200), 1_000),
    contacts: whole(0, Number.MAX_SAFE_INTEGER),
    callerId: nullable(text(16)),
  },
);

export type CampaignsContract = typeof campaigns;
export type CampaignDraft = DraftOf<CampaignsContract>;
export type CampaignView = ViewOf<CampaignsContract>;
export type CampaignStatus = CampaignView['status'];
