import type { StoryRecord } from './records.ts';

export interface Handler {
  personId: string;
  name: string;
  /** The colleague from whom they have the caller, when they have them from one. */
  passedBy: string | null;
}

/** Who handled the call as its story tells: the last who talked with the caller; null when nobody has. */
export function handledBy(story: readonly StoryRecord[]): Handler | null {
  let handler: Handler | null = null;
  let passedBy: string | null = null;
  for (const record of story) {
    // Who called a caller back talked with them as whoever answered one.
    if ((record.kind === 'answered' || record.kind === 'calledBack') && record.personId !== null) {
      handler = { personId: record.personId, name: record.name!, passedBy };
      passedBy = null;
    } else if (record.kind === 'enteredQueue') passedBy = null;
    else if (record.kind === 'pickedUp') passedBy = record.fromName;
    else if (record.kind === 'transferred') {
      passedBy = record.name;
      if (record.attended) handler = { personId: record.toId!, name: record.to, passedBy };
    }
  }
  return handler;
}

/** Whether this person talked with the caller or was told of them, also when the call went on to somebody else. */
export function tookPart(story: readonly StoryRecord[], personId: string): boolean {
  return story.some(
    (record) =>
      (record.kind === 'answered' || record.kind === 'calledBack' || record.kind === 'consulted') &&
      record.personId === personId,
  );
}
