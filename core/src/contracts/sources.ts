import Joi from 'joi';
import { day } from '../model/fields.schema.ts';
import { type DraftOf, itemContract, type ViewOf } from './item.ts';
import { choice, id, list, name, object, part, text, usually } from './parts.ts';

export const sourceKinds = ['advert', 'poster', 'page', 'leaflet', 'radio', 'partner', 'other'] as const;

/** Decimal amount as text, so that nothing is rounded on its way: `1250.00`. */
const cost = part<string>(
  Joi.string()
    .trim()
    .pattern(/^\d{1,9}(\.\d{1,2})?$/)
    .messages({
      'string.pattern.base': 'Write the cost like 1250 or 1250.00.',
      'string.empty': 'Write the cost, or 0.',
    }),
);
const fromDay = part<string>(
  day.required().messages({
    'any.required': 'Say from which day it costs something.',
    'string.empty': 'Say from which day it costs something.',
  }),
);

/** Call sources: what makes the phone ring, and what it costs. */
export const sources = itemContract(
  { area: 'Sources', path: '/api/sources', one: 'a call source', many: 'call sources' },
  {
    name,
    kind: usually(choice(...sourceKinds), 'advert'),
    cost: usually(cost, '0'),
    costPer: usually(choice('month', 'once'), 'month'),
    /** First day it costs something. */
    fromDay,
  },
  {
    /** Numbers that carry it. */
    numbers: list(object({ id, e164: text(16), label: text(80) }), 1_000_000),
  },
);

export type SourcesContract = typeof sources;
export type SourceDraft = DraftOf<SourcesContract>;
export type SourceView = ViewOf<SourcesContract>;
