import type { DialDecision } from '../../dialling/rules.ts';
import type { LegFailure } from '../../story/facts.ts';
import { effect, note } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import { clearTimer, setTimer } from '../kernel/timers.ts';
import { dropLeg, seizeChannel } from '../media/channels.ts';
import { addLeg, type Leg } from '../media/leg.ts';
import type { Trunk } from '../media/trunk.ts';
import type { RouteAttempt } from './activity.ts';
import type { Call } from './call.ts';
import { begin, routeAttemptOf } from './resting.ts';

/** Failures of the line, not of who was called: the next trunk may do better. */
const linesFault: ReadonlySet<LegFailure> = new Set(['congestion', 'refused', 'noRoute', 'unreachable']);

/**
 * A public number is called by the dialling rules, over the first of their trunks that has a channel.
 *
 * @returns why nobody's phone rings now; null when one does
 */
export function dialOut(
  state: State,
  call: Call,
  decision: DialDecision,
  to: { name: string; callerId: string; ringSeconds: number; trunkId: string | null },
  activity: 'dialOut' | 'callingBack' = 'dialOut',
): LegFailure | null {
  if (!('digits' in decision)) {
    note(state, { callId: call.id, at: state.now, kind: 'noRoute', why: decision.kind });
    return 'noRoute';
  }
  const all = [...state.trunks.keys()];
  const byRule = decision.kind === 'rule' && decision.rule.trunkIds.length > 0 ? decision.rule.trunkIds : all;
  const emergency = decision.kind === 'emergency';
  const attempt: RouteAttempt = {
    digits: decision.digits,
    name: to.name,
    callerId: to.callerId,
    ringSeconds: to.ringSeconds,
    trunkIds: to.trunkId === null || emergency ? [...byRule] : [to.trunkId],
    emergency,
  };
  begin(call, state.now, { kind: activity, attempt });
  note(state, {
    callId: call.id,
    at: state.now,
    kind: 'routeChosen',
    digits: decision.digits,
    name: to.name,
    ruleName: decision.kind === 'rule' ? decision.rule.name : null,
    emergency,
  });
  return tryNext(state, call, attempt, 'congestion');
}

/** The next trunk that has a channel; a call for help takes the first even when it has none. */
function tryNext(state: State, call: Call, attempt: RouteAttempt, failure: LegFailure): LegFailure | null {
  const { trunkIds, emergency } = attempt;
  for (let id = trunkIds.shift(); id !== undefined; id = trunkIds.shift()) {
    const trunk = state.trunks.get(id);
    if (trunk === undefined) continue;
    if (!trunk.isFull || (emergency && trunkIds.length === 0)) {
      dial(state, call, attempt, trunk);
      return null;
    }
    note(state, {
      callId: call.id,
      at: state.now,
      kind: 'trunkFailed',
      trunkName: trunk.item.name,
      cause: 'congestion',
    });
  }
  return failure;
}

function dial(state: State, call: Call, attempt: RouteAttempt, trunk: Trunk): void {
  const leg = addLeg(state, call, call.activity.kind === 'callingBack' ? 'caller' : 'outside', 'ringing');
  seizeChannel(state, trunk, leg);
  setTimer(state, call, 'activity', state.now + attempt.ringSeconds * 1000);
  note(state, {
    callId: call.id,
    at: state.now,
    kind: 'outsideRings',
    trunkName: trunk.item.name,
    callerId: attempt.callerId,
  });
  effect(state, {
    kind: 'dial',
    callId: call.id,
    leg: leg.id,
    trunkId: trunk.item.id,
    digits: attempt.digits,
    callerId: trunk.item.callerId ?? attempt.callerId,
    ringSeconds: attempt.ringSeconds,
    party: 'outside',
    personId: null,
    queueId: null,
    contact: null,
  });
}

/**
 * Whoever was called did not lift, or the line failed: then the next trunk is tried.
 *
 * @returns why nobody's phone rings any more; null when one does
 */
export function routeFailed(state: State, call: Call, leg: Leg, cause: LegFailure): LegFailure | null {
  const attempt = routeAttemptOf(call)!;
  const trunkName = state.trunks.get(leg.trunkId ?? '')?.item.name ?? '';
  clearTimer(state, call, 'activity');
  dropLeg(state, call, leg);
  note(state, { callId: call.id, at: state.now, kind: 'trunkFailed', trunkName, cause });
  return linesFault.has(cause) ? tryNext(state, call, attempt, cause) : cause;
}
