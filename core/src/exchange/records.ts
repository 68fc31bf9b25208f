import type { Candidates } from '../distribute/candidates.ts';
import type { Reason } from '../distribute/eligibility.ts';
import type { Destination } from '../model/destination.ts';
import type { CallResult } from './effects.ts';

/** How much the host wants to be told. Explaining never touches the state. */
export type Detail = 'none' | 'bounded' | 'full';

/** Why a queue sent a caller on. */
export type SentOnBecause = 'queueFull' | 'waitedTooLong' | 'nobodySignedIn' | 'queueRetired';

/** Why an offer came to nothing. */
export type NotTaken =
  'noAnswer' | 'declined' | 'busy' | 'unreachable' | 'signedOut' | 'setAway' | 'personRetired';

/** What was decided or happened at one instant of one call, and why. A call's story is these in order. */
export type StoryRecord = { callId: string; at: number } & (
  | {
      kind: 'arrived';
      to: string;
      from: string;
      callerName: string | null;
      numberId: string | null;
      label: string | null;
      planVersion: number | null;
    }
  | { kind: 'ledNowhere'; why: 'unknownNumber' | 'unroutedNumber' | 'destinationGone' }
  | { kind: 'sentTo'; destination: Destination; name: string }
  | {
      kind: 'enteredQueue';
      queueId: string;
      name: string;
      ahead: number;
      signedIn: number;
      /** The ways out of this queue that were not taken on entering. */
      otherwise: { because: SentOnBecause; limit: number | null; name: string }[];
    }
  /** `chosen` is null when nobody is eligible and the caller waits. */
  | {
      kind: 'decision';
      queueId: string;
      queueName: string;
      chosen: string | null;
      chosenName: string | null;
      /** 'onlyOne' eligible, 'longestIdle' of several, 'triedAllOthers', or nobody. */
      why: 'onlyOne' | 'longestIdle' | 'triedAllOthers' | 'nobodyEligible';
      candidates: Candidates;
      /** Names of the listed candidates, so that a story can be read after they are renamed. */
      names: Record<string, string>;
      ringSeconds: number;
    }
  | {
      kind: 'directDecision';
      personId: string;
      name: string;
      rings: boolean;
      reasons: Reason[];
      ringSeconds: number;
    }
  | {
      kind: 'notTaken';
      personId: string;
      name: string;
      reason: NotTaken;
      rangMs: number;
      restsUntil: number | null;
      setAway: boolean;
    }
  | { kind: 'answered'; personId: string; name: string; rangMs: number; waitedMs: number }
  | { kind: 'held'; personId: string; name: string; by: string }
  | { kind: 'resumed'; personId: string; name: string }
  | { kind: 'sentOn'; queueId: string; name: string; because: SentOnBecause; limit: number | null }
  | { kind: 'tooManySteps'; steps: number }
  | { kind: 'voicemail'; boxId: string; name: string }
  | { kind: 'turnedAway' }
  | {
      kind: 'ended';
      by: 'caller' | 'agent' | 'exchange';
      result: CallResult;
      talkedMs: number;
      messageMs: number | null;
      wrapUpSeconds: number | null;
    }
);

export type StoryRecordKind = StoryRecord['kind'];
