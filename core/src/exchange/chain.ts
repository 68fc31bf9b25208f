import { reasonsAgainstDirect } from '../distribute/eligibility.ts';
import type { Destination } from '../model/destination.ts';
import { ownMailbox, reachablePhones, reachedBy } from './agents.ts';
import { ringAgent } from './ringing.ts';
import type { Agent, Call, State } from './state.ts';

/** From here on the call is meant for this person: what they set for when nobody lifts holds for it. */
export function beginChain(call: Call, agent: Agent): void {
  call.chain = { personId: agent.person.id, left: [...agent.person.noAnswer], rung: [], declined: false };
}

/**
 * Nobody took a call straight to somebody: it takes the next step of whom it was meant for, whoever was rung last; after
 * the last step comes their own voicemail. A colleague's own steps do not count, so that calls go in no circles.
 */
export function nextInChain(state: State, call: Call): void {
  const chain = call.chain!;
  const agent = state.agents.get(chain.personId);
  while (chain.left[0]?.kind === 'otherPhones') {
    if (agent !== undefined && !chain.declined && ringOtherPhone(state, call, agent)) return;
    chain.left.shift();
  }
  const step = chain.left.shift() as Destination | undefined;
  state.todo.push({ send: call, to: step ?? ownMailbox(agent), inChain: true });
}

/** The next of their phones in ring order that has not rung for this call; false when there is none. */
function ringOtherPhone(state: State, call: Call, agent: Agent): boolean {
  const phone = reachablePhones(state, agent).find((each) => !call.chain!.rung.includes(each.item.id));
  if (phone === undefined || agent.line !== null || reasonsAgainstDirect(agent).length > 0) return false;
  if (state.out.detail !== 'none')
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'ringsElsewhere',
      personId: agent.person.id,
      name: agent.person.name,
      phone: reachedBy(phone)!,
      ringSeconds: agent.person.ringSeconds,
    });
  ringAgent(state, agent, call, agent.person.ringSeconds, { phone, liftsByItself: false });
  return true;
}
