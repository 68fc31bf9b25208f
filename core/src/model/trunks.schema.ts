import Joi from 'joi';
import { name } from './fields.schema.ts';

/** A connection to a provider as edited. */
export interface TrunkDraft {
  name: string;
  host: string;
  account: string;
  channels: number;
}

const channelSentence = 'From 1 to 10,000 calls at once.';

export const trunkDraft = Joi.object<TrunkDraft, true>({
  name: name.required(),
  host: Joi.string()
    .trim()
    .lowercase()
    .max(200)
    .pattern(/^[a-z0-9]([a-z0-9.-]*[a-z0-9])?$/)
    .required()
    .messages({
      'string.empty': "Type the provider's host, for example sip.provider.example.",
      'string.pattern.base': 'A host is a name like sip.provider.example, without sip: and without a port.',
    }),
  account: Joi.string()
    .trim()
    .max(80)
    .pattern(/^[A-Za-z0-9._+-]+$/)
    .required()
    .messages({
      'string.empty': 'Type the account the provider gave you.',
      'string.pattern.base': 'An account has letters, digits, dot, hyphen, underscore or +.',
    }),
  channels: Joi.number().integer().min(1).max(10_000).required().messages({
    'number.base': channelSentence,
    'number.min': channelSentence,
    'number.max': channelSentence,
    'number.integer': channelSentence,
  }),
});
