import type { Destination } from '../model/destination.ts';

/** Why a leg was released, in the trade's causes. */
export type ReleaseCause =
  'normal' | 'noAnswer' | 'callerGone' | 'agentGone' | 'turnedAway' | 'unallocatedNumber';

/** Why a phone stops ringing. */
export type StopRinging = 'noAnswer' | 'callerHungUp' | 'signedOut' | 'setAway' | 'personRetired';

/** What the host is to do, in order. Named `seq.n` by the host; devices ignore repeats. */
export type Effect =
  | {
      kind: 'ring';
      callId: string;
      leg: string;
      phoneId: string;
      personId: string;
      from: string;
      callerName: string | null;
      to: string;
      queueId: string | null;
      ringSeconds: number;
    }
  | { kind: 'stopRinging'; callId: string; leg: string; phoneId: string; why: StopRinging }
  | {
      kind: 'connect';
      callId: string;
      bridge: string;
      legs: [caller: string, agent: string];
      phoneId: string;
    }
  | { kind: 'hold'; callId: string; leg: string }
  | { kind: 'resume'; callId: string; leg: string }
  | { kind: 'play'; callId: string; prompt: 'waiting' | 'ringing' | 'notTaken' }
  | { kind: 'record'; callId: string; boxId: string; greetingSeconds: number; maxMessageSeconds: number }
  /** `phoneId` is null for the caller's own leg. */
  | { kind: 'release'; callId: string; leg: string; phoneId: string | null; cause: ReleaseCause }
  | { kind: 'callEnded'; facts: CallFacts }
  | { kind: 'agentChanged'; personId: string };

/** How a call ended. Exactly one of these for every call. */
export type CallResult = 'answered' | 'abandoned' | 'voicemail' | 'turnedAway' | 'nowhere';

export const callResults: readonly CallResult[] = [
  'answered',
  'abandoned',
  'voicemail',
  'turnedAway',
  'nowhere',
];

/** What is kept of a call when it is over. Instants in UTC milliseconds, durations in milliseconds. */
export interface CallFacts {
  callId: string;
  to: string;
  from: string;
  callerName: string | null;
  numberId: string | null;
  /** The last queue the caller waited in. */
  queueId: string | null;
  /** Who handled the call: the person who talked with the caller. */
  personId: string | null;
  result: CallResult;
  endedBy: 'caller' | 'agent' | 'exchange';
  arrivedAt: number;
  answeredAt: number | null;
  endedAt: number;
  /** From arrival to the answer, the voicemail greeting, or the end. */
  waitedMs: number;
  talkedMs: number;
  /** Length of the message left, when there is one. */
  messageMs: number | null;
  /** Where the message lies. */
  voicemailBoxId: string | null;
  /** Offers made to agents. */
  offers: number;
  /** The last place the call was sent. */
  lastDestination: Destination | null;
  /** Whether a stand-in played the caller. */
  standIn: boolean;
}
