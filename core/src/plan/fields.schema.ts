import Joi from 'joi';
import type { Fields } from './fields.ts';

/** The check of a configuration described by `fields`. */
export function configSchema(fields: Fields): Joi.ObjectSchema {
  return Joi.object(
    Object.fromEntries(
      Object.entries(fields).map(([name, { label }]) => [
        name,
        Joi.string().min(1).max(80).required().label(label),
      ]),
    ),
  );
}
