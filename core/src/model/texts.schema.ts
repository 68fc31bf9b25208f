import Joi from 'joi';
import { id, publicNumber } from './fields.schema.ts';
import { longestText } from './texts.ts';

/** A text of ours: from a number held, to whoever texted it before or anybody else. */
export interface TextDraft {
  numberId: string;
  to: string;
  body: string;
}

export const textBody = Joi.string()
  .trim()
  .required()
  .max(longestText)
  .messages({
    'string.empty': 'Write something first.',
    'any.required': 'Write something first.',
    'string.max': `A text has at most ${longestText} characters.`,
  });

export const textDraft = Joi.object<TextDraft, true>({
  numberId: id.required(),
  to: publicNumber.required(),
  body: textBody,
});
