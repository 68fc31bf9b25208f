import Joi from 'joi';
import type { UsedBy } from '../spine/items.ts';

export const usedByView = Joi.array().items(
  Joi.object<UsedBy, true>({
    id: Joi.string().required(),
    kind: Joi.string().required(),
    name: Joi.string().required(),
    how: Joi.string().required(),
  }),
);
