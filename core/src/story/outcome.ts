import type { CallResult } from './facts.ts';
import type { StoryRecord } from './records.ts';

/** What a call comes to, and how long after it began (milliseconds). */
export type Outcome =
  | { kind: 'answered'; personId: string; name: string; afterMs: number }
  | { kind: 'voicemail'; name: string; afterMs: number }
  | { kind: 'forwarded' | 'joinedRoom' | 'faxTone'; name: string; afterMs: number }
  | { kind: 'ended'; result: CallResult; afterMs: number }
  | { kind: 'stillWaiting'; afterMs: number };

/** What is told beside a talk that has begun, and changes nothing of what the call came to. */
const besideTalks: ReadonlySet<StoryRecord['kind']> = new Set(['recordingBegan', 'notRecorded']);

/** What the call has come to, when it has: told by the last of its story. */
export function outcomeOf(story: readonly StoryRecord[]): Outcome | null {
  const last = story.findLast(({ kind }) => !besideTalks.has(kind));
  if (last === undefined) return null;
  const afterMs = last.at - story[0]!.at;
  switch (last.kind) {
    case 'answered':
      return { kind: 'answered', personId: last.personId, name: last.name, afterMs };
    // Who lifted and talks with nobody yet, waits.
    case 'calledBack':
      return last.personId === null
        ? null
        : { kind: 'answered', personId: last.personId, name: last.name!, afterMs };
    case 'voicemail':
    case 'forwarded':
    case 'joinedRoom':
    case 'faxTone':
      return { kind: last.kind, name: last.name, afterMs };
    case 'ended':
      return { kind: 'ended', result: last.result, afterMs };
    default:
      return null;
  }
}
