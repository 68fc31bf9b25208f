import { resumeHeld } from './answering.ts';
import { emptyState } from './empty-state.ts';
import { factsOf, releaseLeg } from './ending.ts';
import type { ExchangeEvent, ExchangeEventBody } from './events.ts';
import { restoreState } from './restore.ts';
import { type ExchangeSnapshot, takeSnapshot } from './snapshot.ts';
import { Agent, Call, type State, type Timer } from './state.ts';
import { wayOf } from './trunks.ts';

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
  if ('callId' in event) return event.callId;
  return 'leg' in event ? event.leg.slice(0, event.leg.lastIndexOf('.')) : null;
}

/** Whom a fault concerns: the call of the event, and whose timer or turn it was. */
export function namesOf(event: ExchangeEvent, atHand: Timer['owner'] | null): Named {
  const callId = callOf(event);
  const callIds = new Set(callId === null ? [] : [callId]);
  if (event.kind === 'setAside') for (const each of event.callIds) callIds.add(each);
  if (atHand instanceof Call) callIds.add(atHand.id);
  const personIds = new Set(event.kind === 'setAside' ? event.personIds : []);
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
    for (const agent of [call.ringingAgent, call.keptAgent])
      if (agent !== null) concerned.add(agent.person.id);
    endAsLost(state, call);
  }
  const left = without(takeSnapshot(state), gone, new Set(personIds));
  const { out, atHand } = state;
  Object.assign(state, restoreState(left, emptyState()), { out, atHand });
  for (const id of concerned) {
    const agent = state.agents.get(id);
    if (agent === undefined) continue;
    if (agent.calls.length > 0) resumeHeld(state, agent);
    state.out.effects.push({ kind: 'agentChanged', personId: id });
    state.todo.push(agent);
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
  const talks = call.stage === 'talking' || call.stage === 'forwarded';
  const talkedMs = call.talkedMs + (talks ? Math.max(0, state.now - call.stageSince) : 0);
  const end = {
    endedBy: 'exchange',
    result: 'lost',
    waitedMs: Math.max(0, (call.answeredAt ?? state.now) - call.arrivedAt),
    talkedMs,
    messageMs: null,
    trunkId: call.legs.find((leg) => leg.trunkId !== null)?.trunkId ?? null,
    ways: [...call.ways, ...call.legs.flatMap((leg) => wayOf(state, call, leg))],
  } satisfies Parameters<typeof factsOf>[2];
  for (const leg of call.legs) releaseLeg(state, call, leg.id, 'normal');
  if (state.out.detail !== 'none') {
    const { endedBy: by, result, messageMs } = end;
    state.out.records.push({
      ...{ callId: call.id, at: state.now, kind: 'ended', by, result, talkedMs, messageMs },
      wrapUpSeconds: null,
    });
  }
  state.out.effects.push({ kind: 'callEnded', facts: factsOf(state, call, end) });
}

/** The same state without these calls, and without the timers of those whose timers are to end. */
function without(snapshot: ExchangeSnapshot, gone: Set<string>, timersEnd: Set<string>): ExchangeSnapshot {
  return {
    ...snapshot,
    calls: snapshot.calls.filter((call) => !gone.has(call.id)),
    agents: snapshot.agents.flatMap((agent) => {
      const calls = agent.calls.filter((id) => !gone.has(id));
      const left = {
        ...agent,
        calls,
        line: agent.line !== null && gone.has(agent.line) ? null : agent.line,
        idleSince: calls.length === agent.calls.length ? agent.idleSince : snapshot.now,
        ...(timersEnd.has(agent.person.id) ? { wrapUpTimer: null, restTimer: null } : {}),
      };
      // Who was deactivated stayed for a call only.
      return agent.retired && calls.length === 0 && agent.calls.length > 0 ? [] : [left];
    }),
  };
}
