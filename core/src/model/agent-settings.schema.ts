import Joi from 'joi';
import { sameText } from './fields.schema.ts';

/** What holds for all agents: the seats that are rented, and why one may be away. */
export interface AgentSettings {
  /** Agents who may be signed in at once; null for no limit. */
  seats: number | null;
  awayReasons: string[];
}

const seatsSentence = 'Seats are a whole number from 0 to 100,000, or nothing for no limit.';

export const agentSettings = Joi.object<AgentSettings, true>({
  seats: Joi.number().integer().min(0).max(100_000).allow(null).required().messages({
    'number.base': seatsSentence,
    'number.integer': seatsSentence,
    'number.min': seatsSentence,
    'number.max': seatsSentence,
  }),
  awayReasons: Joi.array()
    .items(
      Joi.string().trim().min(1).max(40).messages({
        'string.empty': 'A reason has a word.',
        'string.max': 'A reason has at most 40 characters.',
      }),
    )
    .min(1)
    .max(20)
    .unique(sameText)
    .required()
    .messages({
      'array.min': 'At least one reason is needed.',
      'array.max': 'At most 20 reasons.',
      'array.unique': 'This reason is there already.',
    }),
});
