import Joi from 'joi';
import { readPattern, shortest } from '../dialling/pattern.ts';
import type { DiallingRule } from '../dialling/rules.ts';
import { id, name } from './fields.schema.ts';

export type RuleDraft = Omit<DiallingRule, 'id'>;

export const ruleDraft = Joi.object<RuleDraft, true>({
  name: name.required(),
  pattern: Joi.string()
    .trim()
    .max(80)
    .required()
    .custom((value: string, helpers) => {
      const reading = readPattern(value);
      return reading.ok ? value : helpers.message({ custom: reading.reason });
    })
    .messages({ 'string.empty': 'Type a pattern, for example +1NxxNxxxxxx.' }),
  strip: Joi.number()
    .integer()
    .min(0)
    .max(40)
    .default(0)
    .messages({ 'number.base': 'How many symbols are left out: 0 to 40.' }),
  prepend: Joi.string()
    .trim()
    .allow('')
    .max(20)
    .pattern(/^[\d*#+]*$/)
    .default('')
    .messages({ 'string.pattern.base': 'Only digits, *, # and + can be put in front.' }),
  trunkIds: Joi.array().items(id).max(10).unique().default([]).messages({
    'array.unique': 'A trunk is named twice.',
  }),
  use: Joi.string().valid('everybody', 'people', 'campaigns').default('everybody'),
  teamIds: Joi.array().items(id).max(200).unique().default([]),
})
  .custom((rule: RuleDraft, helpers) => {
    const reading = readPattern(rule.pattern);
    if (!reading.ok) return rule;
    const least = shortest(reading.pattern);
    return rule.strip > least ? helpers.error('rule.strip', { least }) : rule;
  })
  .messages({
    'rule.strip': 'The pattern is sure of {#least} symbols only; no more can be left out.',
  });
