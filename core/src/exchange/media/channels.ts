import type { Asker } from '../../dialling/rules.ts';
import type { TrunkUsage } from '../../story/facts.ts';
import { lookAtPhonesAgain } from '../agents/phones.ts';
import type { Call } from '../calls/call.ts';
import { routeAttemptOf } from '../calls/resting.ts';
import type { State } from '../kernel/state.ts';
import type { Leg } from './leg.ts';
import type { Trunk } from './trunk.ts';

/** Takes a channel up for a leg. The caller has seen that there is one. */
export function seizeChannel(state: State, trunk: Trunk, leg: Leg): void {
  leg.trunkId = trunk.item.id;
  trunk.inUse++;
  if (trunk.inUse === trunk.item.channels) lookAgainAtAgentsOf(state, trunk);
}

/** Gives the leg's channel back, when it has one. */
export function freeChannel(state: State, leg: Leg): void {
  const trunk = leg.trunkId === null ? undefined : state.trunks.get(leg.trunkId);
  leg.trunkId = null;
  if (trunk === undefined) return;
  const wasFull = trunk.isFull;
  trunk.inUse--;
  if (wasFull && !trunk.isFull) lookAgainAtAgentsOf(state, trunk);
}

/** What a leg that was dialled out and answered costs a provider's time for; a line held open is asked for as a whole. */
function addUsage(usages: TrunkUsage[], state: State, call: Call, leg: Leg): void {
  // Who came in costs nothing; who was called back was dialled like anybody else.
  const cameIn = leg.party === 'caller' && call.callBack === null;
  if (leg.trunkId === null || cameIn || leg.over !== null) return;
  if (leg.state !== 'connected' && leg.state !== 'held') return;
  const digits =
    leg.party === 'contact'
      ? call.to
      : leg.party === 'outside'
        ? (routeAttemptOf(call)?.digits ?? call.to)
        : leg.party === 'caller'
          ? call.callBack!.to
          : (state.phones.get(leg.phoneId ?? '')?.item.e164 ?? '');
  const since = leg.party === 'contact' ? (call.liftedAt ?? leg.since) : leg.since;
  usages.push({ trunkId: leg.trunkId, digits, seconds: Math.ceil((state.now - since) / 1000) });
}

/** All that was talked over lines of ours, also on legs that have left. */
export function usagesOf(state: State, call: Call): TrunkUsage[] {
  const usages = [...call.usages];
  for (const leg of call.legs) addUsage(usages, state, call, leg);
  return usages;
}

/** Takes a leg out of its call, which goes on. */
export function dropLeg(state: State, call: Call, leg: Leg): void {
  addUsage(call.usages, state, call, leg);
  call.legs.splice(call.legs.indexOf(leg), 1);
  freeChannel(state, leg);
}

/** Whether there is a channel free decides whether agents with an outside number can be rung. */
function lookAgainAtAgentsOf(state: State, trunk: Trunk): void {
  for (const agent of trunk.agents) lookAtPhonesAgain(state, agent);
}

/** What goes out for these digits, by the dialling rules. With a trunk chosen by name only the digits follow them. */
export function digitsFor(state: State, dialled: string, asker: Asker): string {
  const decision = state.dialPlan.decide(dialled, asker);
  return 'digits' in decision ? decision.digits : dialled;
}
