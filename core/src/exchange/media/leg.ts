import type { Agent } from '../agents/agent.ts';
import type { Call } from '../calls/call.ts';
import type { State } from '../kernel/state.ts';

/** `confirming`: lifted at an outside number, and not accepted yet. `held`: hears music instead of its bridge. */
export type LegState = 'ringing' | 'confirming' | 'connected' | 'held';

export interface Leg {
  /** `call.n`, n from 1; the caller's or contact's leg is 1. */
  id: string;
  /** `outside`: who a call was sent on to, or dialled by one of ours. */
  party: 'caller' | 'contact' | 'agent' | 'outside';
  personId: string | null;
  phoneId: string | null;
  /** The trunk whose channel it takes up. */
  trunkId: string | null;
  /** The leg of the persistent line that carries it. */
  over: string | null;
  state: LegState;
  since: number;
}

/** A new leg of the call, with the next of its numbers. */
export function addLeg(
  state: State,
  call: Call,
  party: Leg['party'],
  legState: LegState,
  whose: { personId?: string; phoneId?: string } = {},
): Leg {
  const leg: Leg = {
    id: `${call.id}.${++call.legCount}`,
    party,
    personId: whose.personId ?? null,
    phoneId: whose.phoneId ?? null,
    trunkId: null,
    over: null,
    state: legState,
    since: state.now,
  };
  if (call.legs.length === 0) call.legs = [leg];
  else call.legs.push(leg);
  return leg;
}

/** The leg of somebody who is in this call, or is rung for it. */
export function legOf(call: Call, agent: Agent): Leg {
  const leg = call.legs.find((each) => each.party === 'agent' && each.personId === agent.person.id);
  if (leg === undefined) throw new Error(`call ${call.id} has no leg of ${agent.person.id}`);
  return leg;
}

export function legById(call: Call, id: string): Leg {
  return call.legs.find((leg) => leg.id === id)!;
}

/** A leg by its id, which names its call. */
export function findLeg(state: Readonly<State>, legId: string): { call: Call; leg: Leg } | null {
  const call = state.calls.get(legId.slice(0, legId.lastIndexOf('.')));
  const leg = call?.legs.find((each) => each.id === legId);
  return call === undefined || leg === undefined ? null : { call, leg };
}
