import { type DraftOf, itemContract, type ViewOf } from './item.ts';
import { name, whole } from './parts.ts';

/** A named ability, at a level from 1 to 5 on a person and with a minimum on a queue. */
export const skills = itemContract(
  { area: 'Skills', path: '/api/skills', one: 'a skill', many: 'skills' },
  { name },
  {
    /** People who have it, at any level. */
    people: whole(0, 1_000_000),
  },
);

export type SkillsContract = typeof skills;
export type SkillDraft = DraftOf<SkillsContract>;
export type SkillView = ViewOf<SkillsContract>;
