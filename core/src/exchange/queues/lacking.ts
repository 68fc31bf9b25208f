import { minimumAfter } from '../../distribute/stages.ts';
import type { QueueState } from './queue.ts';

/**
 * The skills for which no member of a queue is ever rung, however long a caller waits; all it asks for when each has
 * somebody, and nobody has all. None when somebody fits in the end, or there is nobody.
 */
export function lackingSkills({ item, members }: QueueState): string[] {
  if (members.length === 0 || members.some(({ fitsFrom }) => Number.isFinite(fitsFrom))) return [];
  const missing = item.skills.filter((skill, place) => {
    const least = minimumAfter(skill, Number.POSITIVE_INFINITY);
    return members.every(({ levels }) => (levels[place] ?? 0) < least);
  });
  return (missing.length > 0 ? missing : item.skills).map(({ name }) => name);
}
