import Joi from 'joi';
import { keyActions, keySituations, type LineKey, longestAlert } from '../phones/line-keys.ts';
import { id } from './fields.schema.ts';

const seconds = Joi.number()
  .integer()
  .min(0)
  .max(longestAlert)
  .allow(null)
  .messages({
    'number.base': `Seconds, from 0 to ${longestAlert}.`,
    'number.integer': 'Whole seconds.',
    'number.min': `Seconds, from 0 to ${longestAlert}.`,
    'number.max': `Seconds, from 0 to ${longestAlert}.`,
  });

export const lineKey = Joi.object<LineKey>({
  position: Joi.number().integer().min(1).max(99).required(),
  label: Joi.string()
    .trim()
    .allow('')
    .max(24)
    .pattern(/^[^\p{Cc}]*$/u)
    .default('')
    .messages({ 'string.max': 'A label has at most 24 characters: more does not fit on a key.' }),
  personId: id.required().messages({ 'any.required': 'Whose extension does it watch?' }),
  alertAfter: seconds.default(null),
  callerSeconds: seconds.default(null),
  press: Joi.object(
    Object.fromEntries(
      keySituations.map((situation) => [
        situation,
        Joi.string()
          .valid(...keyActions[situation])
          .default(keyActions[situation][0]),
      ]),
    ),
  ).default(Object.fromEntries(keySituations.map((situation) => [situation, keyActions[situation][0]]))),
});

export const lineKeys = Joi.array()
  .items(lineKey)
  .unique('position')
  .max(99)
  .default([])
  .messages({ 'array.unique': 'Two keys are at the same place.' });
