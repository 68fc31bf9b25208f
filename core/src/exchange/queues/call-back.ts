import {
  callBackRingSeconds,
  type CallBackRules,
  confirmKey,
  confirmSeconds,
  type NoCallBack,
} from '../../model/call-back.ts';
import { callBackAsked, callBackOffered, noCallBack } from '../../plan/call-back-words.ts';
import { spokenSeconds } from '../../plan/spoken.ts';
import { expectedWaitMs } from '../../staffing/expected-wait.ts';
import type { Call } from '../calls/call.ts';
import { begin } from '../calls/resting.ts';
import { dialOut } from '../calls/route-attempt.ts';
import { notReachedLater } from '../kernel/later.ts';
import type { Refusal } from '../kernel/events.ts';
import { effect, note, release } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import { setTimer } from '../kernel/timers.ts';
import { dropLeg } from '../media/channels.ts';
import { aheadOf, clearLimits } from './place.ts';
import type { QueueState } from './queue.ts';

/** When a caller who begins to wait is offered to be called back: at once where the wait is expected to be that long. */
export function expectOffer(state: State, call: Call, queue: QueueState): void {
  const { callBack } = queue.item;
  if (callBack?.offerAfterSeconds == null || callBack.key === null) return;
  const after = callBack.offerAfterSeconds * 1_000;
  const expected = expectedWaitMs(aheadOf(call, queue), queue.present, queue.measured);
  if (expected !== null && expected > after) offerCallBack(state, call);
  else setTimer(state, call, 'offerCallBack', state.now + after);
}

/** The wait is so long that they are told of another way. */
export function offerCallBack(state: State, call: Call): void {
  const key = call.queue?.item.callBack?.key;
  if (key == null || whyNot(state, call) !== null) return;
  say(state, call, callBackOffered(key, call.language), [key], true);
  note(state, { callId: call.id, at: state.now, kind: 'callBackOffered', key });
}

/**
 * A key of a caller who waits: the one that asks to be called back, or the one that confirms it.
 *
 * @returns undefined when the key means neither
 */
export function callBackKeyPressed(state: State, call: Call, key: string): Refusal | null | undefined {
  if (call.callBackAskedUntil !== null && state.now < call.callBackAskedUntil && key === confirmKey)
    return promise(state, call);
  const rules = call.queue?.item.callBack;
  if (rules == null || key !== rules.key) return undefined;
  askToConfirm(state, call);
  return null;
}

/** They are told the number on which they are called, and confirm it. Their place is kept all the while. */
export function askToConfirm(state: State, call: Call): void {
  const why = whyNot(state, call);
  if (why !== null) {
    say(state, call, noCallBack(why, call.language), []);
    note(state, { callId: call.id, at: state.now, kind: 'callBackRefused', why });
    return;
  }
  const words = callBackAsked(call.from, confirmKey, call.language);
  say(state, call, words, [confirmKey]);
  call.callBackAskedUntil = state.now + (spokenSeconds(words) + confirmSeconds) * 1_000;
  note(state, { callId: call.id, at: state.now, kind: 'callBackAsked', to: call.from, key: confirmKey });
}

/** Why this caller cannot be called back; null when they can. */
function whyNot(state: State, call: Call): NoCallBack | null {
  if (call.queue?.item.callBack == null) return 'none';
  if (!call.from.startsWith('+')) return 'withheld';
  if (state.optedOut.has(call.from)) return 'optedOut';
  for (const other of state.calls.values())
    if (other.callBack?.to === call.from && other !== call) return 'already';
  return null;
}

/** Confirmed: they hang up, and go on waiting without being on the line. */
function promise(state: State, call: Call): Refusal | null {
  const queue = call.queue!;
  const why = whyNot(state, call);
  if (why !== null) return 'notExpected';
  call.callBackAskedUntil = null;
  const caller = call.legs[0]!;
  release(state, call, caller.id, 'normal');
  dropLeg(state, call, caller);
  clearLimits(state, call);
  call.callBack = { to: call.from, tries: 0 };
  const { first } = queue.item.callBack!;
  const ahead = aheadOf(call, queue);
  note(state, { callId: call.id, at: state.now, kind: 'callBackPromised', to: call.from, ahead, first });
  return null;
}

function say(state: State, call: Call, words: string, keys: readonly string[], optional = false): void {
  effect(state, {
    ...{ kind: 'say', callId: call.id, leg: call.legs[0]!.id, promptId: null, words },
    ...{ seconds: spokenSeconds(words), keys },
    ...(optional ? { optional } : {}),
  });
}

/** The caller's number is called, for the agent who took the call or, where the caller comes first, for nobody yet. */
export function callCaller(state: State, call: Call): void {
  const { to } = call.callBack!;
  begin(call, state.now, { kind: 'step' });
  const failure = dialOut(
    state,
    call,
    state.dialPlan.decide(to, { kind: 'person', teamId: null }),
    {
      name: call.callerName ?? '',
      // Only a number held may be shown: the one they called.
      callerId: state.numberByDigits.has(call.to) ? call.to : '',
      ...{ ringSeconds: callBackRingSeconds, trunkId: null },
    },
    'callingBack',
  );
  if (failure !== null) notReachedLater(state, call, failure);
}

/** The rules of its queue as they are now; null once it calls nobody back any more. */
export const rulesOf = ({ queue }: Call): CallBackRules | null => queue?.item.callBack ?? null;
