/**
 * Whether an agent can be offered a call of a queue, with every reason against. The conditions are those of
 * docs/definitions.md, "Choosing an agent". Instants are UTC milliseconds.
 */
export type Reason =
  | { code: 'signedOut' }
  | { code: 'away'; awayReason: string; since: number }
  | { code: 'noPhone' }
  | { code: 'phoneUnregistered'; since: number }
  | { code: 'phoneRefused'; why: string }
  /** Reached on an outside number, and the trunk is not there, or has no channel free. */
  | { code: 'trunkGone' }
  | { code: 'trunkFull' }
  | { code: 'ringing'; callId: string }
  | { code: 'atLimit'; calls: number; since: number }
  /** Kept free for a contact whose phone rings. */
  | { code: 'kept'; callId: string }
  | { code: 'wrappingUp'; until: number }
  | { code: 'resting'; until: number }
  /** The queue asks for more of this skill; a skill somebody lacks is level 0. */
  | { code: 'skillTooLow'; skill: string; level: number; minimum: number }
  /** For dialled campaigns only: an outside number takes part over a line accepted before and held open. */
  | { code: 'lineNotOpen' };

export type ReasonCode = Reason['code'];

/** In the order in which they are listed; the first that applies is the one counted. */
export const reasonCodes: readonly ReasonCode[] = [
  'signedOut',
  'away',
  'noPhone',
  'phoneUnregistered',
  'phoneRefused',
  'trunkGone',
  'trunkFull',
  'ringing',
  'atLimit',
  'kept',
  'wrappingUp',
  'resting',
  'skillTooLow',
  'lineNotOpen',
];

export type Presence = 'available' | 'away' | 'signedOut';

/** Place of `skillTooLow` in reasonCodes: it is of a member in one queue, the others are of the agent. */
export const skillTooLowIndex = reasonCodes.indexOf('skillTooLow');

/** Every skill of which a queue asks for more than `levels` has. */
export function skillGaps(
  levels: Readonly<Record<string, number>>,
  wanted: readonly { skillId: string; name: string; minimum: number }[],
): (Reason & { code: 'skillTooLow' })[] {
  return wanted
    .filter(({ skillId, minimum }) => (levels[skillId] ?? 0) < minimum)
    .map(({ skillId, name, minimum }) => ({
      code: 'skillTooLow',
      skill: name,
      level: levels[skillId] ?? 0,
      minimum,
    }));
}

/** What of an agent decides whether they can be rung. */
export interface AgentFacts {
  readonly presence: Presence;
  readonly awayReason: string | null;
  readonly presenceSince: number;
  readonly phone: PhoneFacts;
  /** The call that rings this agent now. */
  readonly ringingCallId: string | null;
  readonly callCount: number;
  readonly callLimit: number;
  readonly talkingSince: number;
  /** The contact's call this agent is kept free for. */
  readonly keptForCallId: string | null;
  /** End of wrap-up, 0 when there is none. Over at exactly this instant. */
  readonly wrapUpUntil: number;
  /** End of the rest after an offer that was not taken, 0 when there is none. */
  readonly restsUntil: number;
}

export type PhoneFacts =
  | { state: 'registered' }
  | { state: 'unregistered'; since: number }
  | { state: 'refused'; why: string }
  | { state: 'none' }
  /** `open`: a line to it was accepted and is held. */
  | { state: 'outside'; line: 'open' | 'ready' | 'trunkFull' | 'trunkGone' };

/** Whether this phone can answer by itself, as calls of dialled campaigns need it. */
export function answersByItself(phone: PhoneFacts): boolean {
  return phone.state === 'registered' || (phone.state === 'outside' && phone.line === 'open');
}

/** Every reason why this agent cannot be offered a queue's call at `now`; empty when eligible. */
export function reasonsAgainst(agent: AgentFacts, now: number): Reason[] {
  const reasons: Reason[] = [];
  if (agent.presence === 'signedOut') reasons.push({ code: 'signedOut' });
  if (agent.presence === 'away') {
    reasons.push({ code: 'away', awayReason: agent.awayReason ?? '', since: agent.presenceSince });
  }
  const phone = phoneReason(agent.phone);
  if (phone !== null) reasons.push(phone);
  if (agent.ringingCallId !== null) reasons.push({ code: 'ringing', callId: agent.ringingCallId });
  if (agent.callCount >= agent.callLimit) {
    reasons.push({ code: 'atLimit', calls: agent.callCount, since: agent.talkingSince });
  }
  if (agent.keptForCallId !== null) reasons.push({ code: 'kept', callId: agent.keptForCallId });
  if (agent.wrapUpUntil > now) reasons.push({ code: 'wrappingUp', until: agent.wrapUpUntil });
  if (agent.restsUntil > now) reasons.push({ code: 'resting', until: agent.restsUntil });
  return reasons;
}

/**
 * Every reason why this person cannot be rung by a call made straight to them. Being away, wrapping up or
 * signed out of the queues does not keep a direct call from ringing (docs/decisions/direct-calls.md).
 */
export function reasonsAgainstDirect(agent: AgentFacts): Reason[] {
  const reasons: Reason[] = [];
  const phone = phoneReason(agent.phone);
  if (phone !== null) reasons.push(phone);
  if (agent.ringingCallId !== null) reasons.push({ code: 'ringing', callId: agent.ringingCallId });
  if (agent.callCount >= agent.callLimit) {
    reasons.push({ code: 'atLimit', calls: agent.callCount, since: agent.talkingSince });
  }
  if (agent.keptForCallId !== null) reasons.push({ code: 'kept', callId: agent.keptForCallId });
  return reasons;
}

/**
 * The code of the first of `reasonsAgainst`, as an index into `reasonCodes`, or -1 when eligible. The same
 * conditions without making objects: this runs on every change of an agent's state.
 */
export function firstReasonIndex(agent: AgentFacts, now: number): number {
  if (agent.presence === 'signedOut') return 0;
  if (agent.presence === 'away') return 1;
  switch (agent.phone.state) {
    case 'none':
      return 2;
    case 'unregistered':
      return 3;
    case 'refused':
      return 4;
    case 'outside':
      if (agent.phone.line === 'trunkGone') return 5;
      if (agent.phone.line === 'trunkFull') return 6;
      break;
    case 'registered':
      break;
  }
  if (agent.ringingCallId !== null) return 7;
  if (agent.callCount >= agent.callLimit) return 8;
  if (agent.keptForCallId !== null) return 9;
  if (agent.wrapUpUntil > now) return 10;
  if (agent.restsUntil > now) return 11;
  return -1;
}

function phoneReason(phone: PhoneFacts): Reason | null {
  switch (phone.state) {
    case 'none':
      return { code: 'noPhone' };
    case 'unregistered':
      return { code: 'phoneUnregistered', since: phone.since };
    case 'refused':
      return { code: 'phoneRefused', why: phone.why };
    case 'outside':
      if (phone.line === 'trunkGone') return { code: 'trunkGone' };
      return phone.line === 'trunkFull' ? { code: 'trunkFull' } : null;
    case 'registered':
      return null;
  }
}
