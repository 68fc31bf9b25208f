import Joi from 'joi';
import { day, name } from './fields.schema.ts';

export const sourceKinds = ['advert', 'poster', 'page', 'leaflet', 'radio', 'partner', 'other'] as const;

/** A call source as edited: what makes the phone ring, and what it costs. */
export interface SourceDraft {
  name: string;
  kind: (typeof sourceKinds)[number];
  /** Decimal amount as text, so that nothing is rounded on its way: `1250.00`. */
  cost: string;
  costPer: 'month' | 'once';
  /** First day it costs something, `2026-11-24`. */
  fromDay: string;
}

export const sourceDraft = Joi.object<SourceDraft, true>({
  name: name.required(),
  kind: Joi.string()
    .valid(...sourceKinds)
    .default('advert'),
  cost: Joi.string()
    .trim()
    .pattern(/^\d{1,9}(\.\d{1,2})?$/)
    .default('0')
    .messages({
      'string.pattern.base': 'Write the cost like 1250 or 1250.00.',
      'string.empty': 'Write the cost, or 0.',
    }),
  costPer: Joi.string().valid('month', 'once').default('month'),
  fromDay: day.required().messages({
    'any.required': 'Say from which day it costs something.',
    'string.empty': 'Say from which day it costs something.',
  }),
});
