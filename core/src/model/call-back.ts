/** How a queue calls callers back who do not want to wait. */
export interface CallBackRules {
  /** The key by which a caller asks for it; null where only steps of plans do. */
  key: string | null;
  /** Seconds of waiting, or of expected waiting, after which it is offered by itself; null for never. */
  offerAfterSeconds: number | null;
  /** Whose phone rings first when the turn comes. */
  first: CallBackFirst;
  /** Tries in all, and the minutes between two. */
  tries: number;
  retryMinutes: number;
  /** Nobody is called before or after: hours of the local day, half-open. */
  fromHour: number;
  toHour: number;
}

export const callBackFirst = ['agent', 'caller'] as const;
export type CallBackFirst = (typeof callBackFirst)[number];

/** Seconds a caller's phone rings who is called back. */
export const callBackRingSeconds = 30;

/** Seconds in which a caller confirms their number. */
export const confirmSeconds = 20;

/** The key that confirms it. */
export const confirmKey = '1';

/** Why a caller cannot be called back. */
export type NoCallBack = 'withheld' | 'optedOut' | 'already' | 'none';
