import Joi from 'joi';
import { lastTurn } from '../model/distribution.ts';
import { id as idSchema } from '../model/fields.schema.ts';
import { announcementSeconds, notAnswering, type RecordPriority } from '../model/waiting.ts';
import { type CallBackRules, callBackFirst } from '../model/call-back.ts';
import { choice, part, seconds, whole } from './parts.ts';

/** A skill that is asked for, and the levels that are enough later. */
export interface QueueSkill {
  skillId: string;
  minimum: number;
  relaxes: { afterSeconds: number; minimum: number }[];
}

const waitingSentence = 'From 0 to 1,000 callers, or no limit.';
const levelSentence = 'A level is 1 to 5.';

/** One sentence, whatever is wrong with a value. */
const sameSentence = (sentence: string) =>
  Object.fromEntries(
    [
      'any.required',
      'number.base',
      'number.integer',
      'number.min',
      'number.max',
      'string.base',
      'string.empty',
    ]
      .concat('string.min', 'string.max')
      .map((code) => [code, sentence]),
  );

export const priority = part<number>(
  Joi.number().integer().min(0).max(9).messages({
    'number.base': 'Priority is 0 to 9.',
    'number.min': 'Priority is 0 to 9.',
    'number.max': 'Priority is 0 to 9.',
  }),
);
export const members = part<string[]>(
  Joi.array()
    .items(idSchema)
    .unique()
    .max(500)
    .messages({ 'array.unique': 'Somebody is in this queue twice.' }),
);
const turnSentence = `A turn is 1 to ${lastTurn}.`;
export const turns = part<{ memberId: string; turn: number }[]>(
  Joi.array()
    .items(
      Joi.object({
        memberId: idSchema.required(),
        turn: Joi.number().strict().integer().min(1).max(lastTurn).required().messages({
          'number.base': turnSentence,
          'number.integer': turnSentence,
          'number.min': turnSentence,
          'number.max': turnSentence,
        }),
      }),
    )
    .max(500)
    .unique('memberId')
    .messages({ 'array.unique': 'Somebody has two turns.' }),
);
/** Seconds from a caller's beginning to wait. */
const afterSeconds = seconds(1, 3_600).schema;
const stepsDown = 'Each step comes later and asks for less than the one before.';
const relaxes = Joi.array()
  .items(
    Joi.object({
      afterSeconds,
      minimum: Joi.number()
        .strict()
        .integer()
        .min(0)
        .max(4)
        .required()
        .messages(sameSentence('A level that gives way is 0 to 4; 0 asks for it no longer.')),
    }),
  )
  .max(5)
  .default([])
  .messages({ 'array.max': 'A level gives way in at most 5 steps.' });
export const skills = part<QueueSkill[]>(
  Joi.array()
    .items(
      Joi.object({
        skillId: idSchema.required().messages({ 'any.required': 'Choose a skill.' }),
        minimum: Joi.number().integer().min(1).max(5).required().messages({
          'number.base': levelSentence,
          'number.min': levelSentence,
          'number.max': levelSentence,
        }),
        relaxes,
      }).custom((skill: QueueSkill, helpers) => {
        let { minimum } = skill;
        let after = 0;
        for (const step of skill.relaxes) {
          if (step.afterSeconds <= after || step.minimum >= minimum)
            return helpers.message({ custom: stepsDown });
          ({ minimum, afterSeconds: after } = step);
        }
        return skill;
      }),
    )
    .max(10)
    .unique('skillId')
    .messages({ 'array.unique': 'This skill is asked for twice.', 'array.max': 'At most 10 skills.' }),
);
/** Members who may be rung only once a caller has waited so long. */
export const joins = part<{ memberId: string; afterSeconds: number }[]>(
  Joi.array()
    .items(Joi.object({ memberId: idSchema.required(), afterSeconds }))
    .max(500)
    .unique('memberId')
    .messages({ 'array.unique': 'Somebody joins twice.' }),
);
export const key = part<string | null>(
  Joi.string()
    .pattern(/^[0-9*#]$/)
    .allow(null)
    .messages({ 'string.pattern.base': 'A key is 0 to 9, * or #.' }),
);
export const recordPriorities = part<RecordPriority[]>(
  Joi.array()
    .items(
      Joi.object({
        field: Joi.string()
          .trim()
          .min(1)
          .max(100)
          .required()
          .messages(sameSentence('Name a field of the record.')),
        value: Joi.string()
          .trim()
          .min(1)
          .max(200)
          .required()
          .messages(sameSentence('Say which value it has.')),
        priority: priority.schema.required(),
      }),
    )
    .max(20)
    .messages({ 'array.max': 'At most 20 of these.' }),
);
export const awayReasons = part<string[]>(
  Joi.array()
    .items(
      Joi.string().trim().min(1).max(100).invalid(notAnswering).messages({
        'any.invalid': 'Who is away for not answering is never rung: that is what it is for.',
      }),
    )
    .unique()
    .max(20),
);
const { least, most } = announcementSeconds;
const between = `From ${least} to ${most} seconds: more often than that nobody can bear it.`;
/** How callers are called back who do not want to wait; null for not at all. */
export const callBack = part<CallBackRules | null>(
  Joi.object({
    key: key.schema.required(),
    offerAfterSeconds: seconds(30, 3_600).schema.allow(null).required(),
    first: choice(...callBackFirst).schema,
    tries: whole(1, 10).schema,
    retryMinutes: whole(1, 240).schema,
    fromHour: whole(0, 23).schema,
    toHour: whole(1, 24).schema,
  })
    .allow(null)
    .custom((rules: CallBackRules | null, helpers) => {
      if (rules === null) return rules;
      if (rules.toHour <= rules.fromHour)
        return helpers.message({ custom: 'Calling ends later on the same day than it begins.' });
      return rules.offerAfterSeconds !== null && rules.key === null
        ? helpers.message({ custom: 'Choose the key by which a caller takes the offer.' })
        : rules;
    }),
);
export const announceSeconds = part<number | null>(
  Joi.number().strict().integer().min(least).max(most).allow(null).messages(sameSentence(between)),
);
export const some = <const Words extends readonly string[]>(words: Words, fewest = 0) =>
  part<Words[number][]>(
    Joi.array()
      .items(Joi.string().valid(...words))
      .unique()
      .min(fewest)
      .messages({ 'array.min': 'Choose at least one.', 'array.unique': 'One of these stands here twice.' }),
  );
export const maxWaiting = part<number | null>(
  Joi.number().integer().min(0).max(1_000).allow(null).messages({
    'number.base': waitingSentence,
    'number.min': waitingSentence,
    'number.max': waitingSentence,
  }),
);
