import Joi from 'joi';
import type { Outcome } from '@night-bell/core/model/outcomes';

export const outcomesView = Joi.array().items(
  Joi.object<Outcome, true>({
    name: Joi.string().required(),
    good: Joi.boolean().required(),
    then: Joi.string().valid('done', 'tryAgain', 'optOut').required(),
  }),
);
