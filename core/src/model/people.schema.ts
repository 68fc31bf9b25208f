import Joi from 'joi';
import { extension, id, login, name, publicNumber, role, seconds } from './fields.schema.ts';
import type { Role } from './roles.ts';

/** A public number on which a person is reached, and the trunk over which it is dialled. */
export interface OutsideNumber {
  e164: string;
  trunkId: string;
}

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
  /** The softphone registers from outside the house. */
  home?: boolean;
  outsideNumber?: OutsideNumber | null;
}

const outsideNumber = Joi.object<OutsideNumber, true>({
  e164: publicNumber.required(),
  trunkId: id.required().messages({
    'any.required': 'Choose the trunk over which it is dialled.',
    'string.guid': 'Choose the trunk over which it is dialled.',
  }),
}).allow(null);

const callLimit = Joi.number().integer().min(1).max(5).messages({
  'number.base': 'From 1 to 5 calls at once.',
  'number.min': 'From 1 to 5 calls at once.',
  'number.max': 'From 1 to 5 calls at once.',
  'number.integer': 'From 1 to 5 calls at once.',
});

export const personDraft = Joi.object<PersonDraft>({
  name: name.required(),
  teamId: id.allow(null),
  login,
  extension,
  role,
  callLimit,
  ringSeconds: seconds(5, 120),
  signInWithPhone: Joi.boolean(),
  home: Joi.boolean(),
  outsideNumber,
});

export type PersonChange = Required<PersonDraft>;

/** A person as edited: everything is stated. */
export const personChange = Joi.object<PersonChange>({
  name: name.required(),
  teamId: id.allow(null).required(),
  login: login.required(),
  extension: extension.required(),
  role: role.required(),
  callLimit: callLimit.required(),
  ringSeconds: seconds(5, 120).required(),
  signInWithPhone: Joi.boolean().required(),
  home: Joi.boolean().default(false),
  outsideNumber: outsideNumber.default(null),
});
