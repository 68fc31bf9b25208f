import type { Destination } from '../model/destination.ts';
import type { LegFailure } from './events.ts';

/** Why a leg was released, in the trade's causes. */
export type ReleaseCause =
  'normal' | 'noAnswer' | 'callerGone' | 'agentGone' | 'turnedAway' | 'unallocatedNumber' | 'optedOut';

/** Why a phone stops ringing. */
export type StopRinging =
  | 'noAnswer'
  | 'notAccepted'
  | 'callerHungUp'
  | 'takenElsewhere'
  | 'signedOut'
  | 'setAway'
  | 'personRetired'
  | 'callsForHelp'
  | 'abandoned'
  | 'optedOut';

/** What is played into a leg. `acceptCall` asks somebody reached outside for the key that takes the call. */
export type Prompt =
  'waiting' | 'ringing' | 'notTaken' | 'acceptCall' | 'lineHeld' | 'lineBusy' | 'abandoned' | 'enterPin';

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
      /** The phone lifts at once, without the agent's doing. */
      answerBySelf: boolean;
    }
  /** Dial a public number over a trunk: a contact, an agent reached outside, or whom a call is sent on to. */
  | {
      kind: 'dial';
      callId: string;
      leg: string;
      trunkId: string;
      /** As the dialling rules made them. */
      digits: string;
      callerId: string;
      ringSeconds: number;
      party: 'contact' | 'agent' | 'outside';
      /** Set for an agent's outside number. */
      personId: string | null;
      queueId: string | null;
      /** Set for a campaign's contact, with the number of this attempt. */
      contact: { id: string; campaignId: string; attempt: number } | null;
    }
  /** Somebody of ours calls for help; the front desk hears of it, with the address given. */
  | {
      kind: 'emergency';
      callId: string;
      personId: string;
      phoneId: string;
      digits: string;
      address: string | null;
    }
  /** The call is carried by a line that is open already. */
  | { kind: 'takeLine'; callId: string; leg: string; line: string; queueId: string | null }
  | { kind: 'stopRinging'; callId: string; leg: string; why: StopRinging }
  | { kind: 'connect'; callId: string; bridge: string; legs: [one: string, other: string] }
  | { kind: 'hold'; callId: string; leg: string }
  | { kind: 'resume'; callId: string; leg: string }
  | { kind: 'play'; callId: string; leg: string; prompt: Prompt }
  | { kind: 'record'; callId: string; boxId: string; greetingSeconds: number; maxMessageSeconds: number }
  | { kind: 'joinRoom'; callId: string; leg: string; roomId: string; tone: boolean }
  | { kind: 'receiveFax'; callId: string; leg: string; boxId: string }
  | { kind: 'release'; callId: string; leg: string; cause: ReleaseCause }
  | { kind: 'callEnded'; facts: CallFacts }
  | { kind: 'agentChanged'; personId: string }
  | { kind: 'campaignChanged'; campaignId: string }
  /** Hand out at most `count` contacts that are due, by a `contactsLeased` event. */
  | { kind: 'wantContacts'; campaignId: string; count: number }
  /** Contacts that will not be called now; their attempt did not happen. */
  | { kind: 'returnContacts'; campaignId: string; contactIds: string[] }
  /** Somebody pressed the key that ends all calls to them. */
  | { kind: 'optOut'; e164: string; callId: string };

/**
 * How a call ended. Exactly one of these for every call. `abandoned`: of an inbound call, the caller gave up; of an
 * outbound one, a person answered and no agent could take the call in time. `lost`: the exchange could not go on with
 * it, for a fault of its own.
 */
export type CallResult =
  | 'answered'
  | 'abandoned'
  | 'voicemail'
  | 'turnedAway'
  | 'nowhere'
  | 'forwarded'
  | 'conference'
  | 'fax'
  | 'machine'
  | 'hungUp'
  | 'optedOut'
  | 'lineClosed'
  | 'lost'
  | Exclude<LegFailure, 'declined'>;

export const callResults: readonly CallResult[] = [
  'answered',
  'abandoned',
  'voicemail',
  'turnedAway',
  'nowhere',
  'forwarded',
  'conference',
  'fax',
  'noAnswer',
  'busy',
  'machine',
  'hungUp',
  'optedOut',
  'refused',
  'noRoute',
  'congestion',
  'unreachable',
  'lineClosed',
  'lost',
];

/** `dialled`: made by somebody of ours. `line`: a line to an agent's outside number, held open between calls. */
export type Direction = 'inbound' | 'outbound' | 'dialled' | 'line';

export type EndedBy = 'caller' | 'contact' | 'agent' | 'exchange';

/** What was talked over a line of ours, and for how many seconds begun: what a provider asks money for. */
export interface Way {
  trunkId: string;
  digits: string;
  seconds: number;
}

/** What is kept of a call when it is over. Instants in UTC milliseconds, durations in milliseconds. */
export interface CallFacts {
  callId: string;
  direction: Direction;
  to: string;
  from: string;
  callerName: string | null;
  numberId: string | null;
  /** The last queue the caller waited in. */
  queueId: string | null;
  /** Who handled the call: the person who talked with the caller. */
  personId: string | null;
  result: CallResult;
  endedBy: EndedBy;
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
  /** The trunk that carried the caller's or contact's leg. */
  trunkId: string | null;
  campaignId: string | null;
  contactId: string | null;
  /** Number of the attempt, 0 outside campaigns. */
  attempt: number;
  recordId: string | null;
  ways: Way[];
  /** The advert that made the phone ring. */
  sourceId: string | null;
}
