import Joi from 'joi';
import { dialKeys, type Field, type Fields } from './fields.ts';

/** The check of a configuration described by `fields`. In a draft, items may still be to be chosen. */
export function configSchema(fields: Fields, isDraft = false): Joi.ObjectSchema {
  return Joi.object(
    Object.fromEntries(
      Object.entries(fields).map(([name, field]) => [name, schemaOf(field, isDraft).label(field.label)]),
    ),
  );
}

const key = Joi.string().valid(...dialKeys);

function schemaOf(field: Field, isDraft: boolean): Joi.Schema {
  switch (field.type) {
    case 'item':
      return isDraft ? Joi.string().allow('').max(80).required() : Joi.string().min(1).max(80).required();
    case 'whole':
      return Joi.number().strict().integer().min(field.least).max(field.most).required();
    case 'seconds':
      return Joi.number().strict().integer().min(field.least).max(field.most).allow(null).required();
    case 'key':
      return key.allow(null).required();
    case 'keys':
      return Joi.array()
        .items(Joi.object({ key: key.required(), label: Joi.string().trim().allow('').max(60).required() }))
        .unique('key')
        .max(dialKeys.length)
        .required();
  }
}
