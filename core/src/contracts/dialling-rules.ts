import Joi from 'joi';
import { readPattern, shortest } from '../dialling/pattern.ts';
import { id } from '../model/fields.schema.ts';
import { type DraftOf, itemContract, type ViewOf } from './item.ts';
import { choice, name, part, usually } from './parts.ts';

const pattern = part<string>(
  Joi.string()
    .trim()
    .max(80)
    .required()
    .custom((value: string, helpers) => {
      const reading = readPattern(value);
      return reading.ok ? value : helpers.message({ custom: reading.reason });
    })
    .messages({ 'string.empty': 'Type a pattern, for example +1NxxNxxxxxx.' }),
);
const strip = part<number>(
  Joi.number()
    .integer()
    .min(0)
    .max(40)
    .messages({ 'number.base': 'How many symbols are left out: 0 to 40.' }),
);
const prepend = part<string>(
  Joi.string()
    .trim()
    .allow('')
    .max(20)
    .pattern(/^[\d*#+]*$/)
    .messages({ 'string.pattern.base': 'Only digits, *, # and + can be put in front.' }),
);
const trunkIds = part<string[]>(
  Joi.array().items(id).max(10).unique().messages({ 'array.unique': 'A trunk is named twice.' }),
);

/** Dialling rules: what was dialled, and what goes out over which trunks. */
export const diallingRules = itemContract(
  {
    ...{
      area: 'Dialling rules',
      path: '/api/dialling-rules',
      one: 'a dialling rule',
      many: 'dialling rules',
    },
    example: { name: 'National', pattern: 'NxxNxxxxxx' },
  },
  {
    name,
    pattern,
    strip: usually(strip, 0),
    prepend: usually(prepend, ''),
    trunkIds: usually(trunkIds, []),
    use: usually(choice('everybody', 'people', 'campaigns'), 'everybody'),
    teamIds: usually(part<string[]>(Joi.array().items(id).max(200).unique()), []),
  },
  {},
  {
    rule: (draft) => {
      const reading = readPattern(draft.pattern);
      if (!reading.ok || draft.strip <= shortest(reading.pattern)) return null;
      return `The pattern is sure of ${shortest(reading.pattern)} symbols only; no more can be left out.`;
    },
  },
);

export type DiallingRulesContract = typeof diallingRules;
export type RuleDraft = DraftOf<DiallingRulesContract>;
export type RuleView = ViewOf<DiallingRulesContract>;
