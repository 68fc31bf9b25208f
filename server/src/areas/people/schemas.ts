import Joi from 'joi';
import { roles } from '@night-bell/core/model/roles';
import type { UsedBy } from '../../spine/items.ts';
import type { NewPerson } from './create.ts';
import type { PersonView } from './store.ts';

const idName = Joi.object({ id: Joi.string().required(), name: Joi.string().required() });

export const personView = Joi.object<PersonView, true>({
  id: Joi.string().required(),
  version: Joi.number().integer().required(),
  retired: Joi.boolean().required(),
  name: Joi.string().required(),
  login: Joi.string().required(),
  role: Joi.string()
    .valid(...roles)
    .required(),
  teamId: Joi.string().allow(null).required(),
  teamName: Joi.string().allow(null).required(),
  extension: Joi.string().allow('').required(),
  callLimit: Joi.number().integer().required(),
  ringSeconds: Joi.number().integer().required(),
  signInWithPhone: Joi.boolean().required(),
  hasOwnPassword: Joi.boolean().required(),
  phone: Joi.object({ id: Joi.string().required(), account: Joi.string().required() }).allow(null).required(),
  voicemailBoxId: Joi.string().allow(null).required(),
  queues: Joi.array().items(idName).required(),
});

export const newPerson = Joi.object<NewPerson, true>({
  id: Joi.string().required(),
  name: Joi.string().required(),
  login: Joi.string().required(),
  extension: Joi.string().required(),
  signInCode: Joi.string().required(),
  account: Joi.string().required(),
  registrationSecret: Joi.string().required(),
  enrolmentCode: Joi.string().required(),
});

export const usedByView = Joi.array().items(
  Joi.object<UsedBy, true>({
    id: Joi.string().required(),
    kind: Joi.string().required(),
    name: Joi.string().required(),
    how: Joi.string().required(),
  }),
);
