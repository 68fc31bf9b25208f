import type { Detail, StoryRecord } from '../../story/records.ts';
import type { Call } from '../calls/call.ts';
import type { Effect, Prompt, ReleaseCause, StopRinging } from './effects.ts';
import type { State } from './state.ts';

/** A call enters a step of a plan; told at full detail, to whoever draws its way. */
export interface PassedStep {
  callId: string;
  planId: string;
  stepId: string;
  /** By which exit it came here; null where it came from no step of this plan. */
  by: { stepId: string; exit: string } | null;
}

/** What comes of the event at hand: effects for the host, and records at the detail it asked for. */
export interface Output {
  detail: Detail;
  effects: Effect[];
  records: StoryRecord[];
  passed: PassedStep[];
}

/** Whether anybody will read a record; one that costs a walk is not made else. */
export function isTold(state: State): boolean {
  return state.out.detail !== 'none';
}

/** A record of what was decided or happened. */
export function note(state: State, record: StoryRecord): void {
  const { out } = state;
  if (out.detail !== 'none') out.records.push(record);
}

export function passed(state: State, step: PassedStep): void {
  if (state.out.detail === 'full') state.out.passed.push(step);
}

export function effect(state: State, what: Effect): void {
  state.out.effects.push(what);
}

export function play(state: State, call: Call, leg: string, prompt: Prompt, about?: string): void {
  const said = about === undefined ? {} : { about };
  state.out.effects.push({ kind: 'play', callId: call.id, leg, prompt, ...said });
}

export function hold(state: State, call: Call, leg: string): void {
  state.out.effects.push({ kind: 'hold', callId: call.id, leg });
}

export function resume(state: State, call: Call, leg: string): void {
  state.out.effects.push({ kind: 'resume', callId: call.id, leg });
}

export function release(state: State, call: Call, leg: string, cause: ReleaseCause): void {
  state.out.effects.push({ kind: 'release', callId: call.id, leg, cause });
}

export function stopRinging(state: State, call: Call, leg: string, why: StopRinging): void {
  state.out.effects.push({ kind: 'stopRinging', callId: call.id, leg, why });
}
