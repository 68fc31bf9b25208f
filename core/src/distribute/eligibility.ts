import type { WantedSkill } from '../model/wanted-skill.ts';
import { minimumAfter } from './stages.ts';

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
  | { code: 'reserved'; callId: string }
  | { code: 'wrappingUp'; until: number }
  | { code: 'backingOff'; until: number }
  /** The queue asks for more of this skill; a skill somebody lacks is level 0. */
  | { code: 'skillTooLow'; skill: string; level: number; minimum: number }
  /** They are among those who may be rung, or their level is enough, only once the caller has waited so long. */
  | { code: 'notYet'; afterSeconds: number }
  /** Text conversations they have open, where the queue counts them. */
  | { code: 'texting'; texts: number }
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
  'reserved',
  'wrappingUp',
  'backingOff',
  'texting',
  'skillTooLow',
  'notYet',
  'lineNotOpen',
];

export type Presence = 'available' | 'away' | 'signedOut';

/** Place of `skillTooLow` in reasonCodes: it is of a member in one queue, the others are of the agent. */
export const skillTooLowIndex = reasonCodes.indexOf('skillTooLow');

/** Every skill of which a queue asks, of a caller who has waited `seconds`, for more than `levels` has. */
export function skillGaps(
  levels: Readonly<Record<string, number>>,
  wanted: readonly WantedSkill[],
  seconds: number,
): (Reason & { code: 'skillTooLow' })[] {
  return wanted.flatMap((skill) => {
    const level = levels[skill.skillId] ?? 0;
    const minimum = minimumAfter(skill, seconds);
    return level < minimum ? [{ code: 'skillTooLow' as const, skill: skill.name, level, minimum }] : [];
  });
}

/** What a queue makes of agents who are busy with something else. */
export interface RingRules {
  /** Reasons of being away whose holders are rung all the same. */
  readonly ringsAway: readonly string[];
  readonly ringsInWrapUp: boolean;
  /** Whoever has so many text conversations open is not rung; null where texts do not count. */
  readonly mostTexts: number | null;
}

/** Who is away or wraps up is left in peace; texts do not count. */
export const usualRules: RingRules = { ringsAway: [], ringsInWrapUp: false, mostTexts: null };

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
  /** The contact's call this agent is reserved for. */
  readonly reservedForCallId: string | null;
  /** End of wrap-up, 0 when there is none. Over at exactly this instant. */
  readonly wrapUpUntil: number;
  /** End of the rest after an offer that was not taken, 0 when there is none. */
  readonly backOffUntil: number;
  /** Text conversations they have open. */
  readonly openTexts: number;
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

/** Something that may keep an agent from being rung. Both the fast and the explaining path read these, and only these. */
interface Condition {
  code: ReasonCode;
  /** It also keeps a call made straight to the person from ringing (docs/decisions/direct-calls.md). */
  direct: boolean;
  holds(agent: AgentFacts, now: number, rules: RingRules): boolean;
  reason(agent: AgentFacts): Reason;
}

/** In the order of reasonCodes, as far as they are of an agent and not of their place in one queue. */
const conditions: readonly Condition[] = [
  {
    code: 'signedOut',
    direct: false,
    holds: (agent) => agent.presence === 'signedOut',
    reason: () => ({ code: 'signedOut' }),
  },
  {
    code: 'away',
    direct: false,
    holds: (agent, _now, { ringsAway }) =>
      agent.presence === 'away' && !ringsAway.includes(agent.awayReason ?? ''),
    reason: (agent) => ({ code: 'away', awayReason: agent.awayReason ?? '', since: agent.presenceSince }),
  },
  {
    code: 'noPhone',
    direct: true,
    holds: ({ phone }) => phone.state === 'none',
    reason: () => ({ code: 'noPhone' }),
  },
  {
    code: 'phoneUnregistered',
    direct: true,
    holds: ({ phone }) => phone.state === 'unregistered',
    reason: ({ phone }) => ({
      code: 'phoneUnregistered',
      since: phone.state === 'unregistered' ? phone.since : 0,
    }),
  },
  {
    code: 'phoneRefused',
    direct: true,
    holds: ({ phone }) => phone.state === 'refused',
    reason: ({ phone }) => ({ code: 'phoneRefused', why: phone.state === 'refused' ? phone.why : '' }),
  },
  {
    code: 'trunkGone',
    direct: true,
    holds: ({ phone }) => phone.state === 'outside' && phone.line === 'trunkGone',
    reason: () => ({ code: 'trunkGone' }),
  },
  {
    code: 'trunkFull',
    direct: true,
    holds: ({ phone }) => phone.state === 'outside' && phone.line === 'trunkFull',
    reason: () => ({ code: 'trunkFull' }),
  },
  {
    code: 'ringing',
    direct: true,
    holds: (agent) => agent.ringingCallId !== null,
    reason: (agent) => ({ code: 'ringing', callId: agent.ringingCallId ?? '' }),
  },
  {
    code: 'atLimit',
    direct: true,
    holds: (agent) => agent.callCount >= agent.callLimit,
    reason: (agent) => ({ code: 'atLimit', calls: agent.callCount, since: agent.talkingSince }),
  },
  {
    code: 'reserved',
    direct: true,
    holds: (agent) => agent.reservedForCallId !== null,
    reason: (agent) => ({ code: 'reserved', callId: agent.reservedForCallId ?? '' }),
  },
  {
    code: 'wrappingUp',
    direct: false,
    holds: (agent, now, { ringsInWrapUp }) => agent.wrapUpUntil > now && !ringsInWrapUp,
    reason: (agent) => ({ code: 'wrappingUp', until: agent.wrapUpUntil }),
  },
  {
    code: 'backingOff',
    direct: false,
    holds: (agent, now) => agent.backOffUntil > now,
    reason: (agent) => ({ code: 'backingOff', until: agent.backOffUntil }),
  },
  {
    code: 'texting',
    direct: false,
    holds: (agent, _now, { mostTexts }) => mostTexts !== null && agent.openTexts >= mostTexts,
    reason: (agent) => ({ code: 'texting', texts: agent.openTexts }),
  },
];

/** Every reason why this agent cannot be offered a queue's call at `now`; empty when eligible. */
export function reasonsAgainst(agent: AgentFacts, now: number, rules = usualRules): Reason[] {
  const reasons: Reason[] = [];
  for (const each of conditions) if (each.holds(agent, now, rules)) reasons.push(each.reason(agent));
  return reasons;
}

/**
 * Every reason why this person cannot be rung by a call made straight to them. Being away, wrapping up or
 * signed out of the queues does not keep a direct call from ringing (docs/decisions/direct-calls.md).
 */
export function reasonsAgainstDirect(agent: AgentFacts): Reason[] {
  return conditions
    .filter((each) => each.direct && each.holds(agent, 0, usualRules))
    .map((each) => each.reason(agent));
}

/**
 * The code of the first of `reasonsAgainst`, as an index into `reasonCodes`, or -1 when eligible. Makes no objects: it
 * runs on every change of an agent's state.
 */
export function firstReasonIndex(agent: AgentFacts, now: number, rules = usualRules): number {
  for (let i = 0; i < conditions.length; i++) if (conditions[i]!.holds(agent, now, rules)) return i;
  return -1;
}
