import Joi from 'joi';
import { readNumber } from '../numbers/e164.ts';
import { type Destination, destinationKinds, type NoAnswerStep, passingSteps } from './destination.ts';
import { extensionFault } from './extension.ts';
import { roles } from './roles.ts';

/** Fields that several schemas share. Each refuses with a sentence a person can act on. */

export const id = Joi.string().guid().messages({ 'string.guid': 'This is not an id of Night Bell.' });

/** Words of a person or thing: one line, no control characters. */
export const name = Joi.string()
  .trim()
  .min(1)
  .max(80)
  .pattern(/^[^\p{Cc}]+$/u)
  .messages({
    'string.empty': 'A name is needed.',
    'any.required': 'A name is needed.',
    'string.max': 'A name has at most 80 characters.',
    'string.pattern.base': 'A name is one line without control characters.',
  });

export const login = Joi.string()
  .trim()
  .lowercase()
  .pattern(/^[a-z0-9][a-z0-9._-]{1,59}$/)
  .messages({
    'string.pattern.base': 'A login has 2 to 60 of these: a-z, 0-9, dot, hyphen, underscore.',
  });

export const extension = Joi.string()
  .trim()
  .custom((value: string, helpers) => {
    const fault = extensionFault(value);
    return fault === null ? value : helpers.message({ custom: fault });
  });

/** A public number in any way people type it; becomes E.164. */
export const publicNumber = Joi.string()
  .max(40)
  .custom((value: string, helpers) => {
    const reading = readNumber(value);
    return reading.ok ? reading.e164 : helpers.message({ custom: reading.reason });
  })
  .messages({ 'string.empty': 'Type a number, for example +1 360 555 0117.' });

export const role = Joi.string().valid(...roles);

/** Whole seconds within bounds. */
export function seconds(least: number, most: number) {
  const sentence = `Whole seconds from ${least} to ${most}.`;
  return Joi.number().integer().min(least).max(most).messages({
    'number.base': sentence,
    'number.integer': sentence,
    'number.min': sentence,
    'number.max': sentence,
    'number.unsafe': sentence,
  });
}

const somewhere = Joi.object({
  kind: Joi.string()
    .valid(...destinationKinds)
    .required(),
  id: id.required(),
});
const unchosen = {
  'alternatives.match': 'Choose where the call goes.',
  'alternatives.types': 'Choose where the call goes.',
};
const end = Joi.object({ kind: Joi.string().valid('end').required() });

/** Where a call may be sent. */
export const destination = Joi.alternatives<Destination>(end, somewhere).messages(unchosen);

/** A destination, or null for none. */
export const destinationOrNull = Joi.alternatives<Destination | null>(
  Joi.valid(null),
  end,
  somewhere,
).messages(unchosen);

/** What follows when nobody lifts: at most five steps, of which only the last may be one where nobody has to lift. */
export const noAnswerSteps = Joi.array<NoAnswerStep[]>()
  .items(
    Joi.alternatives<NoAnswerStep>(
      Joi.object({ kind: Joi.string().valid('end', 'otherPhones').required() }),
      somewhere,
    ).messages(unchosen),
  )
  .max(5)
  .unique((one: NoAnswerStep, other: NoAnswerStep) => JSON.stringify(one) === JSON.stringify(other))
  .custom((steps: NoAnswerStep[], helpers) => {
    const stop = steps.findIndex((step) => !passingSteps.includes(step.kind));
    if (stop < 0 || stop === steps.length - 1) return steps;
    return helpers.error('array.afterLast', { stop: stop + 1 });
  })
  .messages({
    'array.max': 'At most five steps: after that a caller has given up.',
    'array.unique': 'This step is there already.',
    'array.afterLast': 'Nothing comes after step {#stop}: there the call rests.',
  });

/** Whether two texts are the same to people; what is no text, and refused elsewhere, is the same as nothing. */
export function sameText(one: unknown, other: unknown): boolean {
  return typeof one === 'string' && typeof other === 'string' && one.toLowerCase() === other.toLowerCase();
}

/** A day of the calendar, as ISO 8601 writes it. */
export const day = Joi.string()
  .pattern(/^\d{4}-\d\d-\d\d$/)
  .custom((value: string, helpers) => (isDay(value) ? value : helpers.error('string.pattern.base')))
  .messages({ 'string.pattern.base': 'A day is written like 2026-11-27.' });

function isDay(text: string): boolean {
  const [year = 0, month = 0, date = 0] = text.split('-').map(Number);
  const leap = (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;
  const lengths = [31, leap ? 29 : 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
  return year >= 1 && date >= 1 && date <= (lengths[month - 1] ?? 0);
}

/** A password of one's own: long rather than odd (NIST SP 800-63B, 5.1.1). */
export const ownPassword = Joi.string().min(12).max(200).messages({
  'string.min': 'A password has at least 12 characters. A few words in a row do well.',
  'string.empty': 'A password has at least 12 characters. A few words in a row do well.',
});

/** A PIN of a conference room or a voicemail box. */
export const pin = Joi.string()
  .pattern(/^\d{4,10}$/)
  .messages({
    'string.pattern.base': 'A PIN has 4 to 10 digits.',
    'string.empty': 'A PIN has 4 to 10 digits.',
  });
