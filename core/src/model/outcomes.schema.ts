import Joi from 'joi';
import { sameText } from './fields.schema.ts';
import type { Outcome } from './outcomes.ts';

export const outcomeList = Joi.array()
  .items(
    Joi.object<Outcome, true>({
      name: Joi.string()
        .trim()
        .min(1)
        .max(40)
        .required()
        .messages({ 'string.empty': 'An outcome needs a name.' }),
      good: Joi.boolean().default(false),
      then: Joi.string().valid('done', 'tryAgain', 'optOut').default('done'),
    }),
  )
  .max(20)
  .unique((one: Partial<Outcome> | null, other: Partial<Outcome> | null) => sameText(one?.name, other?.name))
  .messages({
    'array.unique': 'Two outcomes have the same name; agents could not tell them apart.',
    'array.max': 'At most 20 outcomes.',
  });

export const script = Joi.string().allow('').max(8_000).messages({
  'string.max': 'A script has at most 8,000 characters.',
});
