import type { Distribution, QueueMember } from './distribution.ts';
import { compared } from './in-turns.ts';
import { longerIdle } from './longest-idle.ts';

/** The highest level of the first skill the queue asks for, then of the next; then longest idle. */
export function moreSkilled(one: QueueMember, other: QueueMember): boolean {
  for (let i = 0; i < one.levels.length; i++) {
    const level = one.levels[i]!;
    const otherLevel = other.levels[i]!;
    if (level !== otherLevel) return level > otherLevel;
  }
  return longerIdle(one, other);
}

export const bestSkill: Distribution = { kind: 'bestSkill', ring: 'one', makeIndex: compared(moreSkilled) };
