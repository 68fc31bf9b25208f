import Joi from 'joi';
import { id, name, seconds } from './fields.schema.ts';
import type { Outcome } from './outcomes.ts';
import { outcomeList, script } from './outcomes.schema.ts';

/** A campaign as edited. What is null has to be chosen before it can start. */
export interface CampaignDraft {
  name: string;
  queueId: string | null;
  trunkId: string | null;
  /** The number held that contacts see. */
  numberId: string | null;
  ratio: number;
  mostInAir: number | null;
  ringSeconds: number;
  /** Percent of people answering that may be abandoned. */
  abandonPercent: number;
  message: string;
  optOutKey: string | null;
  attempts: number;
  retryMinutes: number;
  /** Minutes of the contact's local day, half-open. */
  hoursFrom: number;
  hoursTo: number;
  script: string;
  outcomes: Outcome[];
}

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

export const campaignDraft = Joi.object<CampaignDraft>({
  name: name.required(),
  queueId: id.allow(null).default(null),
  trunkId: id.allow(null).default(null),
  numberId: id.allow(null).default(null),
  ratio: bounded(Joi.number().precision(2), 0.1, 5, ratioSentence).default(1.2),
  mostInAir: bounded(Joi.number().integer(), 1, 1_000, 'From 1 to 1,000 calls, or no limit.')
    .allow(null)
    .default(null),
  ringSeconds: seconds(15, 90).default(20),
  abandonPercent: bounded(Joi.number().precision(2), 0, 3, percentSentence).default(3),
  message: Joi.string().trim().min(10).max(500).default(usualMessage).messages({
    'string.empty': 'Say who called and how to get no more calls.',
    'string.min': 'Say who called and how to get no more calls.',
  }),
  optOutKey: Joi.string()
    .pattern(/^[0-9*#]$/)
    .allow(null)
    .default('9')
    .messages({ 'string.pattern.base': 'One key: 0 to 9, * or #.' }),
  attempts: bounded(Joi.number().integer(), 1, 20, attemptSentence).default(4),
  retryMinutes: bounded(Joi.number().integer(), 5, 43_200, 'From 5 minutes to 30 days.').default(240),
  hoursFrom: bounded(Joi.number().integer(), earliestMinute, latestMinute - 1, minuteSentence).default(
    earliestMinute,
  ),
  hoursTo: bounded(Joi.number().integer(), earliestMinute + 1, latestMinute, minuteSentence)
    .greater(Joi.ref('hoursFrom'))
    .default(latestMinute)
    .messages({ 'number.greater': 'Calling hours end after they begin.' }),
  script: script.default(''),
  outcomes: outcomeList.default([]),
});
