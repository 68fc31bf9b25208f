import Joi from 'joi';
import type { Outcome } from '@night-bell/core/model/outcomes';
import type { Role } from '@night-bell/core/model/roles';

/** An auditor changes nothing, also not the state of a phone of their own. */
export const workers: readonly Role[] = ['administrator', 'supervisor', 'agent'];

export const outcomesView = Joi.array().items(
  Joi.object<Outcome, true>({
    name: Joi.string().required(),
    good: Joi.boolean().required(),
    then: Joi.string().valid('done', 'tryAgain', 'optOut').required(),
  }),
);
