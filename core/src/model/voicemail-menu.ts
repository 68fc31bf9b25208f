/** A message as whoever opens a box from a phone hears of it. Data as it is. */
export interface MenuMessage {
  id: string;
  /** E.164, an extension, or empty when it is withheld. */
  from: string;
  seconds: number;
  fresh: boolean;
}

/** What somebody did with a message of a box, from a phone. */
export type DoneWithMessage = 'heard' | 'deleted' | 'restored';

/** Messages that are read out at most: the new ones first, then the latest. */
export const mostReadOut = 50;
/** Wrong PINs in a row, over all calls, after which a box is locked, and for how long. */
export const pinLock = { wrong: 5, minutes: 15 } as const;
/** A greeting that is recorded from a phone is at most so long. */
export const longestGreetingSeconds = 60;
