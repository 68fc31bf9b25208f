import {
  type AgentFacts,
  answersByItself,
  type PhoneFacts,
  type Presence,
} from '../../distribute/eligibility.ts';
import type { PersonItem, PhoneItem } from '../../model/configuration.ts';
import type { Call } from '../calls/call.ts';
import type { Timer, TimerOwner } from '../kernel/timers.ts';
import type { Membership } from '../queues/queue.ts';
import { type AnsweredCalls, answeredSince } from './answered-calls.ts';

/** A phone of a person. Only kinds that register have a registration that ever changes. */
export interface Phone {
  item: PhoneItem;
  /** Its place among all phones: those of a person stand in it. */
  order: number;
  registration: 'registered' | 'unregistered' | 'refused';
  since: number;
  /** Why it is refused or unregistered, as the registrar said. */
  why: string;
  address: string | null;
}

/** A person as the exchange sees them. Invariant: `calls.length <= person.callLimit` unless it was lowered. */
export class Agent implements AgentFacts, TimerOwner {
  person: PersonItem;
  /** How often their settings changed: the version of what follows when they do not lift. */
  revision = 0;
  /** No longer in the set-up; kept until the last call is over. */
  retired = false;
  presence: Presence = 'signedOut';
  awayReason: string | null = null;
  presenceSince = 0;
  /** Latest of sign-in, return from away, end of the last call, end of wrap-up. 0 when never signed in. */
  idleSince = 0;
  phone: PhoneFacts = { state: 'none' };
  /** In ring order. */
  phones: Phone[] = [];
  /** The one of them that alone may ring; null for the first that can be reached. */
  chosenPhoneId: string | null = null;
  /** A line to their outside number, accepted and held open. */
  persistentLine: Call | null = null;
  /** The contact's call for which this agent is reserved. */
  reservedFor: Call | null = null;
  /** The call that rings this agent, null when none does. */
  ringing: Call | null = null;
  ringingSince = 0;
  /** Calls this agent is connected to, in the order they were answered; at most one is not held. */
  calls: Call[] = [];
  talkingSince = 0;
  /** End of wrap-up and of back-off, as their timers have it; 0 when there is none. */
  wrapUpUntil = 0;
  wrapUpSince = 0;
  backOffUntil = 0;
  /** Of queues, over the last day. */
  answered: AnsweredCalls = [];
  /** Text conversations they have open, as the host says. */
  openTexts = 0;
  /** Unanswered offers in a row. */
  misses = 0;
  memberships: Membership[] = [];
  /** Index into reasonCodes of the first reason against in every queue, -1 when there is none. */
  firstReason = 0;
  timers: Timer | null = null;

  constructor(person: PersonItem) {
    this.person = person;
  }

  get ringingCallId(): string | null {
    return this.ringing === null ? null : this.ringing.id;
  }
  get reservedForCallId(): string | null {
    return this.reservedFor === null ? null : this.reservedFor.id;
  }
  /** Whether a call can be put through without the agent lifting anything. */
  get autoAnswers(): boolean {
    return answersByItself(this.phone);
  }
  /** Who hears a caller's phone ring whom they call back takes no other call meanwhile, whatever their limit. */
  get callCount(): number {
    const { length } = this.calls;
    const rings = length > 0 && this.calls[length - 1]!.activity.kind === 'callingBack';
    return rings ? Math.max(length, this.person.callLimit) : length;
  }
  /** Calls of queues answered since `from`, an instant at which a quarter of an hour begins. */
  answeredSince(from: number): number {
    return answeredSince(this.answered, from);
  }
  get callLimit(): number {
    return this.person.callLimit;
  }
}
