import { Agent } from './agents/agent.ts';
import { Call } from './calls/call.ts';
import { factsOf } from './calls/ending.ts';
import { isWellFormed } from './kernel/event-shape.ts';
import type { ExchangeEvent, ExchangeEventBody } from './kernel/events.ts';
import { effect, note, release } from './kernel/journal.ts';
import type { State } from './kernel/state.ts';
import { resumeHeld } from './media/hearing.ts';
import { type ExchangeSnapshot, restoreState, takeSnapshot } from './snapshot.ts';
import { offerOf } from './calls/resting.ts';
import { serveLater } from './kernel/later.ts';

/** Calls and people by id. */
export interface Named {
  callIds: string[];
  personIds: string[];
}

/** Something broke while an event was handled; `named` is what was being worked on, `cause` what was thrown. */
export class ExchangeFault extends Error {
  readonly event: ExchangeEvent;
  readonly named: Named;

  constructor(event: ExchangeEvent, named: Named, cause: unknown) {
    super(`event ${event.seq}, ${event.kind}, could not be handled: ${String(cause)}`, { cause });
    this.event = event;
    this.named = named;
  }
}

/** The call an event is about, whether it names the call or one of its legs (`call.n`); null for none. */
export function callOf(event: ExchangeEventBody): string | null {
  // What comes here may be anything: it is what could not be taken.
  const { callId, leg } = event as { callId?: unknown; leg?: unknown };
  if (typeof callId === 'string') return callId;
  return typeof leg === 'string' ? leg.slice(0, leg.lastIndexOf('.')) : null;
}

/** Whom a fault concerns: the call of the event, and whose timer or turn it was. */
export function namesOf(event: ExchangeEvent, atHand: State['atHand']): Named {
  const callId = callOf(event);
  const callIds = new Set(callId === null ? [] : [callId]);
  const aside = event.kind === 'setAside' && isWellFormed(event) ? event : null;
  for (const each of aside?.callIds ?? []) callIds.add(each);
  if (atHand instanceof Call) callIds.add(atHand.id);
  const personIds = new Set(aside?.personIds ?? []);
  if (atHand instanceof Agent) personIds.add(atHand.person.id);
  return { callIds: [...callIds], personIds: [...personIds] };
}

/**
 * Ends calls as lost without asking anything of them: what is left is put together anew from its own data, so that
 * nothing a broken call says can break it again. Costs a walk over the whole state; happens after a fault only.
 */
export function setAside(state: State, { callIds, personIds }: Named): void {
  const lost = carriedWith(state, new Set(callIds));
  const gone = new Set(lost.map((call) => call.id));
  const concerned = new Set(personIds);
  for (const agent of state.agents.values())
    if (agent.calls.some((call) => gone.has(call.id))) concerned.add(agent.person.id);
  for (const call of lost) {
    for (const { agent } of offerOf(call)?.parts ?? []) concerned.add(agent.person.id);
    if (call.reservedAgent !== null) concerned.add(call.reservedAgent.person.id);
    endAsLost(state, call);
  }
  const left = without(takeSnapshot(state), gone, new Set(personIds));
  const { out, atHand, unattendedUntil } = state;
  Object.assign(state, restoreState(left), { out, atHand, unattendedUntil });
  for (const id of concerned) {
    const agent = state.agents.get(id);
    if (agent === undefined) continue;
    if (agent.calls.length > 0) resumeHeld(state, agent);
    effect(state, { kind: 'agentChanged', personId: id });
    serveLater(state, agent);
  }
}

/** These calls, and those that an open line among them carries. */
function carriedWith(state: State, callIds: Set<string>): Call[] {
  const calls = [...state.calls.values()];
  const named = calls.filter((call) => callIds.has(call.id));
  const legs = new Set(named.flatMap((call) => call.legs.map((leg) => leg.id)));
  const carried = calls.filter(
    (call) => !callIds.has(call.id) && call.legs.some((leg) => leg.over !== null && legs.has(leg.over)),
  );
  return [...named, ...carried];
}

function endAsLost(state: State, call: Call): void {
  const facts = factsOf(state, call, 'exchange', 'lost');
  for (const leg of call.legs) release(state, call, leg.id, 'normal');
  const { talkedMs, messageMs } = facts;
  note(state, {
    callId: call.id,
    at: state.now,
    ...{ kind: 'ended', by: 'exchange', result: 'lost', talkedMs, messageMs },
    wrapUpSeconds: null,
  });
  effect(state, { kind: 'callEnded', facts });
}

/** The same state without these calls, and without the timers of those whose timers are to end. */
function without(snapshot: ExchangeSnapshot, gone: Set<string>, timersEnd: Set<string>): ExchangeSnapshot {
  const { calls, agents } = snapshot.slices;
  const left = agents.data.agents.flatMap((agent) => {
    const kept = agent.calls.filter((id) => !gone.has(id));
    const { persistentLine: line } = agent;
    const saved = {
      ...agent,
      calls: kept,
      persistentLine: line !== null && gone.has(line) ? null : line,
      idleSince: kept.length === agent.calls.length ? agent.idleSince : snapshot.now,
      timers: timersEnd.has(agent.person.id) ? [] : agent.timers,
    };
    // Who was deactivated stayed for a call only.
    return agent.retired && kept.length === 0 && agent.calls.length > 0 ? [] : [saved];
  });
  return {
    ...snapshot,
    slices: {
      ...snapshot.slices,
      calls: {
        ...calls,
        data: { ...calls.data, calls: calls.data.calls.filter((call) => !gone.has(call.id)) },
      },
      agents: { ...agents, data: { ...agents.data, agents: left } },
    },
  };
}
