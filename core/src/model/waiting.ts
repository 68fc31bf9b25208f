/** By which limit, or by whose doing, a caller leaves a queue without being answered. */
export const waysOut = [
  'queueFull',
  'waitedTooLong',
  'nobodySignedIn',
  'allAway',
  'closed',
  'pressed',
] as const;
export type WayOut = (typeof waysOut)[number];

/** What callers hear while they wait. */
export interface WaitingSounds {
  /** A prompt that is played over and over; null for the house's own music. */
  musicId: string | null;
  /** Seconds from one announcement to the next, from when they entered; null for none. */
  everySeconds: number | null;
  /** What is said each time: a prompt, the caller's place, how long they may have to wait. */
  promptId: string | null;
  tellsPlace: boolean;
  tellsWait: boolean;
}

/** Seconds between two announcements. */
export const announcementSeconds = { least: 15, most: 600 } as const;

/** What a ringing phone may show of a caller. */
export const phoneLines = ['queue', 'caller', 'number', 'source'] as const;
export type PhoneLine = (typeof phoneLines)[number];
/** Who calls, and for what. */
export const usualPhoneLines: readonly PhoneLine[] = ['queue', 'caller'];

/** Points that a minute of waiting may add to a priority. */
export const mostAgePoints = 9;

/** The name of the reason for which somebody is away who did not lift. Nobody rings them for it. */
export const notAnswering = 'not answering';

/** After so many overflows without the caller doing anything, limits hold them no longer. */
export const mostOverflows = 10;

/** Callers in whose record a field of the customer system has this value come at this priority. */
export interface RecordPriority {
  field: string;
  value: string;
  priority: number;
}
