import type { Destination } from '../model/destination.ts';

/**
 * Why a rung phone did not take the call, as its device or the provider of a trunk reports it. The codes and words of
 * the trade stand in story/causes.ts.
 */
export type LegFailure =
  'declined' | 'busy' | 'unreachable' | 'noAnswer' | 'refused' | 'noRoute' | 'congestion';

/** What the customer records know of a caller or contact, as it was when the call began. */
export interface RecordFacts {
  id: string;
  name: string;
  /** The person who looks after this record, when they work here. */
  ownerId: string | null;
  /** Fields of the customer system that plans may ask for. */
  fields?: Readonly<Record<string, string>>;
}

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
  | 'unroutable'
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
  'unroutable',
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
export const directions = ['inbound', 'outbound', 'dialled', 'line'] as const;
export type Direction = (typeof directions)[number];

export type EndedBy = 'caller' | 'contact' | 'agent' | 'exchange';

/** What was talked over a line of ours, and for how many seconds begun: what a provider asks money for. */
export interface TrunkUsage {
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
  /** The last ring group whose phones rang for the caller. */
  ringGroupId: string | null;
  /** Who handled the call: the person who talked with the caller. */
  personId: string | null;
  result: CallResult;
  endedBy: EndedBy;
  arrivedAt: number;
  answeredAt: number | null;
  endedAt: number;
  /** From arrival to the answer, the voicemail greeting, or the end. */
  waitedMs: number;
  /** Of that in the last queue, from entering it until answered or gone; null for calls of no queue. */
  queuedMs: number | null;
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
  usages: TrunkUsage[];
  /** The advert that made the phone ring. */
  sourceId: string | null;
}

/** What a call is shown under, of those it was of: its campaign, else the last queue it waited in, else the last ring group. */
export function mainOf<Of>(campaign: Of | null, queue: Of | null, ringGroup: Of | null): Of | null {
  return campaign ?? queue ?? ringGroup;
}
