import type { Agent } from '../agents/agent.ts';
import type { Call } from '../calls/call.ts';
import { effect, hold, note, resume } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import type { Leg } from './leg.ts';
import { holdRecording } from './recording.ts';

/** These two hear each other, and nobody else of the call. */
export function connect(state: State, call: Call, one: Leg, other: Leg): void {
  const id = `${call.id}.b${++call.bridgeCount}`;
  call.bridge = {
    id,
    members: [
      { leg: one.id, mode: 'talk' },
      { leg: other.id, mode: 'talk' },
    ],
  };
  effect(state, { kind: 'connect', callId: call.id, bridge: id, legs: [one.id, other.id] });
}

/** The agent talks on another call: this one hears music. */
export function holdCall(state: State, agent: Agent, call: Call, by: string): void {
  const leg = call.legs.find((each) => each.personId === agent.person.id && each.state === 'connected');
  if (leg === undefined) return;
  leg.state = 'held';
  hold(state, call, leg.id);
  holdRecording(state, call, true);
  note(state, {
    callId: call.id,
    at: state.now,
    kind: 'held',
    personId: agent.person.id,
    name: agent.person.name,
    by,
  });
}

/** When the call an agent talked on is over, the one held last goes on. */
export function resumeHeld(state: State, agent: Agent): void {
  const call = agent.calls.at(-1);
  const leg = call?.legs.find((each) => each.personId === agent.person.id && each.state === 'held');
  if (call === undefined || leg === undefined) return;
  leg.state = 'connected';
  resume(state, call, leg.id);
  holdRecording(state, call, false);
  note(state, {
    callId: call.id,
    at: state.now,
    kind: 'resumed',
    personId: agent.person.id,
    name: agent.person.name,
  });
}

/** The caller hears music while a colleague is told of them. */
export function holdCaller(state: State, call: Call): void {
  const caller = call.legs[0]!;
  caller.state = 'held';
  hold(state, call, caller.id);
  holdRecording(state, call, true);
}

/** The caller hears music no longer. */
export function resumeCaller(state: State, call: Call): void {
  const caller = call.legs[0]!;
  caller.state = 'connected';
  resume(state, call, caller.id);
  holdRecording(state, call, false);
}
