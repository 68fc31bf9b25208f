import type { NoAnswerStep } from '../model/destination.ts';

/** `confirming`: lifted at an outside number, and not accepted yet. */
export type LegState = 'ringing' | 'confirming' | 'connected' | 'held';

export interface Leg {
  /** `call.n`, n from 1; the caller's or contact's leg is 1. */
  id: string;
  /** `outside`: who a call was sent on to, or dialled by one of ours. */
  party: 'caller' | 'contact' | 'agent' | 'outside';
  personId: string | null;
  phoneId: string | null;
  /** The trunk whose channel it takes up. */
  trunkId: string | null;
  /** The leg of the open line that carries it. */
  over: string | null;
  state: LegState;
  since: number;
}

/** The legs that hear each other. */
export interface Bridge {
  id: string;
  legs: string[];
}

/**
 * `dialling`, `greeting` and `announcement` are of outbound calls: the contact's phone rings; they lifted; they hear
 * that nobody is free. `held` is of lines that wait for calls. `forwarding` and `forwarded`: an outside number rings, or
 * was lifted. `roomDoor`: the PIN of a conference room is asked for.
 */
export type CallStage =
  | 'routing'
  | 'waiting'
  | 'ringing'
  | 'talking'
  | 'voicemail'
  | 'dialling'
  | 'greeting'
  | 'announcement'
  | 'held'
  | 'forwarding'
  | 'forwarded'
  | 'roomDoor'
  | 'inRoom'
  | 'fax'
  | 'ended';

/** A call on its way out over trunks: what is sent, and which trunks have not been tried. Data as it is. */
export interface Outward {
  digits: string;
  name: string;
  callerId: string;
  ringSeconds: number;
  trunkIds: string[];
  emergency: boolean;
}

/** What is left of the steps for when nobody lifts, and the phones of that person that have rung. Data as it is. */
export interface Chain {
  personId: string;
  left: NoAnswerStep[];
  rung: string[];
  /** They said no to it: their other phones are left in peace. */
  declined: boolean;
}
