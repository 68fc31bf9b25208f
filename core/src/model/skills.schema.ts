import Joi from 'joi';
import { name } from './fields.schema.ts';

/** A named ability, at a level from 1 to 5 on a person and with a minimum on a queue. */
export interface SkillDraft {
  name: string;
}

export const skillDraft = Joi.object<SkillDraft, true>({ name: name.required() });
