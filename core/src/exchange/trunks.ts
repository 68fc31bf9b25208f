import type { Asker } from '../dialling/rules.ts';
import { refreshAgent, refreshPhoneFacts } from './agents.ts';
import type { Way } from './effects.ts';
import type { Leg } from './call-parts.ts';
import type { Call, State, Trunk } from './state.ts';

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

/** What a leg that was dialled out and answered costs a provider's time for; a line held open is asked for as a whole. */
export function wayOf(state: State, call: Call, leg: Leg): Way[] {
  if (leg.trunkId === null || leg.party === 'caller' || leg.over !== null) return [];
  if (leg.state !== 'connected' && leg.state !== 'held') return [];
  const digits =
    leg.party === 'contact'
      ? call.to
      : leg.party === 'outside'
        ? (call.outward?.digits ?? call.to)
        : (state.phones.get(leg.phoneId ?? '')?.item.e164 ?? '');
  const since = leg.party === 'contact' ? (call.liftedAt ?? leg.since) : leg.since;
  return [{ trunkId: leg.trunkId, digits, seconds: Math.ceil((state.now - since) / 1000) }];
}

/** Takes a leg out of its call, which goes on. */
export function dropLeg(state: State, call: Call, leg: Leg): void {
  call.ways.push(...wayOf(state, call, leg));
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
