import { date, instant, list, nullable, object, type Out, text, whole } from './parts.ts';

/** Where a set of opening hours looks for its unusual days. */
export const calendarAddress = object({ address: text(500) });

const range = list(whole(0, 1_440), 2);
export const calendarChange = object({
  date,
  name: text(80),
  /** Null for a day the set has not. */
  before: nullable(list(range, 12)),
  after: list(range, 12),
});

/** How a subscribed calendar stands: what it says and the set does not, before that holds. */
export const calendarView = object({
  address: text(500),
  readAt: nullable(instant),
  /** Why it could not be read the last time; null when it could. */
  fault: nullable(text(300)),
  /** What of it cannot be taken, each in a sentence. */
  leftOut: list(text(300), 50),
  /** Days that are new or other there; those it no longer has stay. */
  changes: list(calendarChange, 1_000),
});
export type CalendarView = Out<typeof calendarView>;

/** What is taken: the days as they were shown. Those that are other meanwhile are not. */
export const calendarTaking = object({ changes: list(calendarChange, 1_000) });
