import { Problem } from '../http/problems.ts';

/** Where a stretch of a list ended, as text for whoever asks for the next: values of its order, in their order. */
export function writeCursor(place: readonly (string | number)[]): string {
  return Buffer.from(JSON.stringify(place)).toString('base64url');
}

/** Throws a problem when it is no place written for a list of so many values. */
export function readCursor(text: string, length: number): string[] {
  try {
    const read: unknown = JSON.parse(Buffer.from(text, 'base64url').toString());
    const isPlace =
      Array.isArray(read) &&
      read.length === length &&
      read.every((each) => ['string', 'number'].includes(typeof each) && !String(each).includes('\0'));
    if (isPlace) return read.map(String);
  } catch {
    // Falls through to the sentence.
  }
  throw movedOn();
}

export function movedOn(): Problem {
  return Problem.field('after', 'This is no place in the list as it is asked for. Begin at its top.');
}

const uuid = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** An id read from a cursor. */
export function idIn(value: string): string {
  if (!uuid.test(value)) throw movedOn();
  return value;
}

/** An instant read from a cursor, as it was written. */
export function timeIn(value: string): string {
  if (Number.isNaN(Date.parse(value))) throw movedOn();
  return value;
}

/** One stretch of rows of which one more was read than asked for, with where the next begins. */
export function stretch<Row>(
  rows: readonly Row[],
  limit: number,
  placeOf: (row: Row) => readonly (string | number)[],
): { rows: Row[]; next: string | null } {
  const shown = rows.slice(0, limit);
  return { rows: shown, next: rows.length > limit ? writeCursor(placeOf(shown.at(-1)!)) : null };
}
