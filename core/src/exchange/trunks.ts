import type { Asker } from '../dialling/rules.ts';
import { refreshAgent, refreshPhoneFacts } from './agents.ts';
import type { Call, Leg, State, Trunk } from './state.ts';

/** Takes a channel up for a leg. The caller has seen that there is one. */
export function seizeChannel(state: State, trunk: Trunk, leg: Leg): void {
  leg.trunkId = trunk.item.id;
  trunk.inUse++;
  if (trunk.inUse === trunk.item.channels) refreshAgentsOf(state, trunk);
}

/** Gives the leg's channel back, when it has one. */
export function freeChannel(state: State, leg: Leg): void {
  const trunk = leg.trunkId === null ? undefined : state.trunks.get(leg.trunkId);
  leg.trunkId = null;
  if (trunk === undefined) return;
  const wasFull = trunk.isFull;
  trunk.inUse--;
  if (wasFull && !trunk.isFull) refreshAgentsOf(state, trunk);
}

/** Takes a leg out of its call. */
export function dropLeg(state: State, call: Call, leg: Leg): void {
  call.legs.splice(call.legs.indexOf(leg), 1);
  freeChannel(state, leg);
}

/** Whether there is a channel free decides whether agents with an outside number can be rung. */
export function refreshAgentsOf(state: State, trunk: Trunk): void {
  for (const agent of trunk.agents) {
    refreshPhoneFacts(state, agent);
    refreshAgent(state, agent);
    state.todo.push(agent);
  }
}

/** What goes out for these digits, by the dialling rules. With a trunk chosen by name only the digits follow them. */
export function digitsFor(state: State, dialled: string, asker: Asker): string {
  const decision = state.dialPlan.decide(dialled, asker);
  return 'digits' in decision ? decision.digits : dialled;
}
