import type { Direction } from './facts.ts';
import type { StoryRecord } from './records.ts';

/** Which way a call goes, as the first of its story that says so. */
export function directionOf(story: readonly StoryRecord[]): Direction {
  for (const { kind } of story) {
    if (kind === 'launched') return 'outbound';
    if (kind === 'lineDialled') return 'line';
    if (kind === 'dialledBy') return 'dialled';
  }
  return 'inbound';
}
