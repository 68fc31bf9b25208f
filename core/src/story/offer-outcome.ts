import type { StoryRecord } from './records.ts';
import { notTakenWords } from './words.ts';

/** What became of the offer of the decision at `index` for one of those who were rung by it. */
export function offerOutcome(story: readonly StoryRecord[], index: number, personId: string): string {
  for (const record of story.slice(index + 1))
    switch (record.kind) {
      case 'answered':
        return record.personId === personId ? 'Answered' : `Taken by ${record.name}`;
      case 'notTaken':
        if (record.personId === personId) return notTakenWords(record.reason);
        break;
      case 'noneLifted':
        return notTakenWords('noAnswer');
      case 'ended':
        return 'Caller left';
      case 'decision':
      case 'sentOn':
        return 'Rang';
    }
  return 'Rings';
}
