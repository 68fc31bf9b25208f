import type { Destination } from '../../model/destination.ts';
import type { Agent } from '../agents/agent.ts';
import type { Call } from '../calls/call.ts';
import type { LegFailure } from '../../story/facts.ts';
import type { RingMiss } from '../../plan/step-kind.ts';
import type { State } from './state.ts';

/**
 * What an event leaves to be done: an agent who may be free for a caller, a call that waits and wants an agent, a call
 * that leaves its step by an exit, or one that is sent somewhere.
 */
export type Work =
  | Agent
  | Call
  /** `otherwise`: where it leads when the plan leaves that exit open. `miss`: why nobody took it, who was rung. */
  | { call: Call; exit: string; otherwise: Destination | null; miss: RingMiss | null }
  | { call: Call; to: Destination }
  /** A caller who was to be called back was not reached; `over` when nobody tries again. */
  | { call: Call; notReached: LegFailure; over: boolean };

/** Whoever may be free is looked at when the event is done with. */
export function serveLater(state: State, who: Agent | Call): void {
  state.workList.push(who);
}

/** The call is over with what it rested in, and leaves its step. */
export function leaveStep(
  state: State,
  call: Call,
  exit: string,
  otherwise: Destination | null = null,
  miss: RingMiss | null = null,
): void {
  state.workList.push({ call, exit, otherwise, miss });
}

/** Nobody could be reached by the call that was promised. */
export function notReachedLater(state: State, call: Call, notReached: LegFailure, over = false): void {
  state.workList.push({ call, notReached, over });
}

/** The call is sent to a destination, whatever its plan was. */
export function sendLater(state: State, call: Call, to: Destination): void {
  state.workList.push({ call, to });
}
