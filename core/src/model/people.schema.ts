import Joi from 'joi';
import type { ModelId } from '../phones/catalogue.ts';
import type { NoAnswerStep } from './destination.ts';
import { noAnswerSteps, extension, id, login, name, publicNumber, role, seconds } from './fields.schema.ts';
import { modelField } from './phones.schema.ts';
import type { Role } from './roles.ts';

/** A public number on which a person is reached, and the trunk over which it is dialled. */
export interface OutsideNumber {
  e164: string;
  trunkId: string;
}

/** What happens when somebody signs in who is still signed in elsewhere. */
export type Elsewhere = 'warn' | 'takeOver' | 'refuse';

export interface SkillLevel {
  skillId: string;
  /** 1 to 5. */
  level: number;
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
  /** Seconds of wrap-up after a queue's call; null for the queue's own. */
  wrapUpSeconds?: number | null;
  /** Sign-ins begin away. */
  startAway?: boolean;
  /** The phone lifts by itself. */
  answerBySelf?: boolean;
  elsewhere?: Elsewhere;
  skills?: SkillLevel[];
  /** Teams a supervisor looks after; none named means everybody. */
  looksAfter?: string[];
  /** An address of theirs; null for none. */
  mail?: string | null;
  /** What a call straight to them does, in this order, when nobody lifts; then their own voicemail. */
  noAnswer?: NoAnswerStep[];
  outsideNumber?: OutsideNumber | null;
  /** Team, role, settings, skills and queues come from this person where nothing else is said. */
  likeId?: string;
  /** The device made with them; null for none. Left open: a softphone for those who take calls. */
  phoneModel?: ModelId | null;
  /** That device stands outside the house. */
  home?: boolean;
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

/** A mail address. */
export const mailAddress = Joi.string()
  .trim()
  .lowercase()
  .email({ tlds: false })
  .max(120)
  .messages({ 'string.email': 'This is no mail address. It reads like ann@ferries.example.' });

const skillLevel = Joi.object<SkillLevel, true>({
  skillId: id.required().messages({ 'any.required': 'Choose a skill.' }),
  level: Joi.number().integer().min(1).max(5).required().messages({
    'number.base': 'A level is 1 to 5.',
    'number.min': 'A level is 1 to 5.',
    'number.max': 'A level is 1 to 5.',
    'number.integer': 'A level is 1 to 5.',
  }),
});
const skills = Joi.array()
  .items(skillLevel)
  .max(50)
  .unique('skillId')
  .messages({ 'array.unique': 'This skill is named twice.', 'array.max': 'At most 50 skills.' });
const looksAfter = Joi.array()
  .items(id)
  .max(200)
  .unique()
  .messages({ 'array.unique': 'A team is named twice.' });
const elsewhere = Joi.string().valid('warn', 'takeOver', 'refuse');

export const personDraft = Joi.object<PersonDraft>({
  name: name.required(),
  teamId: id.allow(null),
  login,
  extension,
  role,
  callLimit,
  ringSeconds: seconds(5, 120),
  signInWithPhone: Joi.boolean(),
  wrapUpSeconds: seconds(0, 900).allow(null),
  startAway: Joi.boolean(),
  answerBySelf: Joi.boolean(),
  elsewhere,
  skills,
  looksAfter,
  mail: mailAddress.allow(null),
  noAnswer: noAnswerSteps,
  outsideNumber,
  likeId: id,
  phoneModel: modelField.allow(null),
  home: Joi.boolean(),
});

export type PersonChange = Required<Omit<PersonDraft, 'likeId' | 'phoneModel' | 'home'>>;

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
  wrapUpSeconds: seconds(0, 900).allow(null).default(null),
  startAway: Joi.boolean().default(false),
  answerBySelf: Joi.boolean().default(false),
  elsewhere: elsewhere.default('warn'),
  skills: skills.default([]),
  looksAfter: looksAfter.default([]),
  mail: mailAddress.allow(null).default(null),
  noAnswer: noAnswerSteps.default([]),
  outsideNumber: outsideNumber.default(null),
})
  // Earlier histories carry it; it is a setting of the phone now.
  .append<PersonChange & { home?: unknown }>({ home: Joi.any().strip() }) as Joi.ObjectSchema<PersonChange>;
