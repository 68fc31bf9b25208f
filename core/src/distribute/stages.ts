import type { WantedSkill } from '../model/wanted-skill.ts';

/**
 * A caller's wait has stages: from one to the next it becomes easier to be served, since a minimum level gives way or
 * more people join. Both only ever admit more, so that a member fits from one stage on, and a caller who waits passes
 * them in order.
 */

/** What of a queue its stages follow from. */
export interface Staged {
  skills: readonly WantedSkill[];
  /** Of each member, the seconds of waiting after which they may be rung; absent when all may from the beginning. */
  joinsAfter?: readonly number[];
}

/** Seconds after which each stage but the first begins, in order. */
export function stagesOf({ skills, joinsAfter = [] }: Staged): number[] {
  const begins = new Set(joinsAfter);
  for (const { relaxes = [] } of skills) for (const { afterSeconds } of relaxes) begins.add(afterSeconds);
  begins.delete(0);
  return [...begins].sort((one, other) => one - other);
}

/** The stage of somebody who has waited so long; a stage has begun at exactly its second. */
export function stageAfter(stages: readonly number[], waitedMs: number): number {
  let stage = 0;
  while (stage < stages.length && stages[stage]! * 1_000 <= waitedMs) stage++;
  return stage;
}

/** The level of a skill that is enough after `seconds`. */
export function minimumAfter({ minimum, relaxes = [] }: WantedSkill, seconds: number): number {
  let enough = minimum;
  for (const step of relaxes) if (step.afterSeconds <= seconds) enough = Math.min(enough, step.minimum);
  return enough;
}

/** When a stage began, in seconds of waiting. */
export const beginOf = (stages: readonly number[], stage: number): number =>
  stage === 0 ? 0 : stages[stage - 1]!;

/**
 * The first stage at which a member with these levels may be rung; infinite for one who never may.
 *
 * @param levels 1 to 5 by skill; one that is missing is level 0
 * @param joinsAfter seconds after which they are among those who may be rung at all
 */
export function fitsFrom(
  { skills }: Pick<Staged, 'skills'>,
  stages: readonly number[],
  levels: Readonly<Record<string, number>>,
  joinsAfter: number,
): number {
  for (let stage = 0; stage <= stages.length; stage++) {
    const seconds = beginOf(stages, stage);
    if (
      joinsAfter <= seconds &&
      skills.every((skill) => (levels[skill.skillId] ?? 0) >= minimumAfter(skill, seconds))
    )
      return stage;
  }
  return Number.POSITIVE_INFINITY;
}
