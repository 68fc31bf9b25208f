import Joi from 'joi';
import { extension, id, login, name, role, seconds } from './fields.schema.ts';
import type { Role } from './roles.ts';

/** What makes a person: only the name must be typed, the rest is proposed. */
export interface PersonDraft {
  name: string;
  teamId?: string | null;
  login?: string;
  extension?: string;
  role?: Role;
  callLimit?: number;
  ringSeconds?: number;
  signInWithPhone?: boolean;
}

const callLimit = Joi.number().integer().min(1).max(5).messages({
  'number.base': 'From 1 to 5 calls at once.',
  'number.min': 'From 1 to 5 calls at once.',
  'number.max': 'From 1 to 5 calls at once.',
  'number.integer': 'From 1 to 5 calls at once.',
});

export const personDraft = Joi.object<PersonDraft, true>({
  name: name.required(),
  teamId: id.allow(null),
  login,
  extension,
  role,
  callLimit,
  ringSeconds: seconds(5, 120),
  signInWithPhone: Joi.boolean(),
});

export type PersonChange = Required<PersonDraft>;

/** A person as edited: everything is stated. */
export const personChange = Joi.object<PersonChange, true>({
  name: name.required(),
  teamId: id.allow(null).required(),
  login: login.required(),
  extension: extension.required(),
  role: role.required(),
  callLimit: callLimit.required(),
  ringSeconds: seconds(5, 120).required(),
  signInWithPhone: Joi.boolean().required(),
});
