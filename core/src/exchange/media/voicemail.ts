import { greetingFor } from '../../voicemail/greeting.ts';
import { defaultSounds } from '../../sound/defaults.ts';
import { begin } from '../calls/resting.ts';
import type { Call } from '../calls/call.ts';
import type { Refusal } from '../kernel/events.ts';
import { effect, note } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import { setTimer } from '../kernel/timers.ts';
import { promptFor } from './prompt-for.ts';

/** Why a box takes no message now: what it holds is the most it may, or there is no room for any. Null when it does. */
export function whyNoMessage(state: Readonly<State>, boxId: string): 'boxFull' | 'storageFull' | null {
  if (state.storageFull) return 'storageFull';
  const box = state.boxes.get(boxId);
  return box !== undefined && held(state, boxId) >= box.mostMessages ? 'boxFull' : null;
}

export function held(state: Readonly<State>, boxId: string): number {
  return state.messages.get(boxId) ?? 0;
}

/** Greets the caller, and records what they say after the tone. */
export function takeMessage(state: State, call: Call, boxId: string): void {
  const box = state.boxes.get(boxId)!;
  const hours = state.hours.get(box.hoursId ?? '');
  const inside = state.extensions.has(call.from);
  const greeting = greetingFor(box.greetings, hours, inside, state.now);
  const prompt = promptFor(state, call, greeting.promptId ?? '');
  const greetingSeconds = prompt?.seconds ?? defaultSounds.voicemailGreeting.seconds;
  const from = state.now + greetingSeconds * 1000;
  begin(call, state.now, { kind: 'recording', boxId, from });
  setTimer(state, call, 'activity', from + box.maxMessageSeconds * 1000);
  effect(state, {
    kind: 'record',
    callId: call.id,
    leg: call.legs[0]!.id,
    boxId,
    promptId: prompt?.id ?? null,
    greetingSeconds,
    maxMessageSeconds: box.maxMessageSeconds,
  });
  note(state, {
    ...{ callId: call.id, at: state.now, kind: 'voicemail', boxId, name: box.name },
    ...{ greeting: prompt?.name ?? null, when: greeting.when, inside, hoursName: hours?.name ?? null },
  });
}

/** A message more. */
export function keepMessage(state: State, boxId: string): void {
  state.messages.set(boxId, held(state, boxId) + 1);
}

/** Messages of a box were deleted, forwarded to it, or brought back. */
export function changeMessages(state: State, boxId: string, by: number): Refusal | null {
  if (!state.boxes.has(boxId)) return 'unknownBox';
  state.messages.set(boxId, Math.max(0, held(state, boxId) + by));
  return null;
}
