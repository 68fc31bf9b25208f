import Joi from 'joi';
import { name } from './fields.schema.ts';

/** A connection to the customer records as edited. */
export interface ConnectionDraft {
  name: string;
  address: string;
  /** Left out: the key that is stored stays. */
  key?: string;
  /** Address of a record's own page, with merge fields; empty for none. */
  link: string;
}

export const connectionDraft = Joi.object<ConnectionDraft>({
  name: name.required(),
  address: Joi.string()
    .trim()
    .uri({ scheme: ['http', 'https'] })
    .max(300)
    .required()
    .messages({
      'string.empty': 'Type the address of the customer system, for example https://crm.example/api.',
      'string.uri': 'An address begins with http:// or https://.',
      'string.uriCustomScheme': 'An address begins with http:// or https://.',
    }),
  key: Joi.string().trim().min(8).max(400).messages({ 'string.min': 'A key has at least 8 characters.' }),
  link: Joi.string()
    .trim()
    .allow('')
    .max(500)
    .pattern(/^https?:\/\//)
    .default('')
    .messages({ 'string.pattern.base': 'A link begins with http:// or https://.' }),
});
