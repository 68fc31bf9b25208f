import { isEmergency } from '../../dialling/emergency.ts';
import { beginCall } from '../calls/begin-call.ts';
import { dialDirectly } from '../calls/dial-out.ts';
import type { ExchangeEvent, Refusal } from '../kernel/events.ts';
import type { RecordFacts } from '../../story/facts.ts';
import type { Call } from '../calls/call.ts';
import { endCall } from '../calls/ending.ts';
import { effect, note } from '../kernel/journal.ts';
import type { Phone } from '../agents/agent.ts';
import type { ServiceCodeItem } from '../../model/configuration.ts';
import { planOfCode } from '../../plan/compile.ts';
import type { State } from '../kernel/state.ts';
import { seizeChannel } from '../media/channels.ts';
import { addLeg } from '../media/leg.ts';
import { followNumber, followPlan, sendTo, unroutable } from './run.ts';

/** A call comes in, from a trunk or a phone of ours. */
export function arrive(state: State, event: ExchangeEvent & { kind: 'callArrived' }): Refusal | null {
  if (state.calls.has(event.callId)) return 'callExists';
  const phone = state.phones.get(event.fromPhoneId ?? '');
  const code = phone === undefined ? null : codeFor(state, phone, event.to);
  const isOurs = code !== null || state.numberByDigits.has(event.to) || state.extensions.has(event.to);
  if (phone !== undefined && (!isOurs || isEmergency(event.to))) return dialDirectly(state, event, phone);
  const number = state.numberByDigits.get(event.to);
  // Somebody of ours who dials an extension is seen as who they are.
  const colleague = state.agents.get(phone?.item.personId ?? '')?.person;
  const call = beginCall(state, {
    id: event.callId,
    direction: 'inbound',
    to: event.to,
    from: colleague?.extension ?? event.from,
    callerName: colleague?.name ?? event.callerName ?? event.record?.name ?? null,
    priority: event.priority ?? number?.priority ?? 0,
    standIn: event.standIn ?? false,
    record: event.record ?? null,
  });
  const leg = addLeg(state, call, 'caller', 'connected');
  // The provider has put it through: a call that came in is never refused for want of a channel, only counted.
  const trunk = state.trunks.get(event.trunkId ?? '');
  if (trunk !== undefined) seizeChannel(state, trunk, leg);
  const plan = number?.plan ?? null;
  call.numberId = number?.id ?? null;
  call.sourceId = number?.sourceId ?? null;
  note(state, {
    callId: call.id,
    at: state.now,
    kind: 'arrived',
    to: call.to,
    from: call.from,
    callerName: call.callerName,
    numberId: call.numberId,
    label: number?.label ?? null,
    planVersion: plan?.version ?? null,
    record: identityOf(call.record),
  });
  if (phone === undefined) {
    if (turnsAway(state, call)) return null;
    if (number?.mostCalls != null && callsOn(state, number.id) > number.mostCalls)
      return isBusy(state, call, number.label, number.mostCalls);
  }
  const extension = number === undefined ? state.extensions.get(event.to) : undefined;
  if (code !== null && colleague !== undefined) followPlan(state, call, planOfCode(code, colleague.id));
  else if (plan !== null) followNumber(state, call, plan);
  else if (extension !== undefined) sendTo(state, call, extension);
  else unroutable(state, call, number === undefined ? 'unknownNumber' : 'unroutedNumber');
  return null;
}

/** The code that this phone dialled, if its person may use it. */
function codeFor(state: State, phone: Phone, digits: string): ServiceCodeItem | null {
  const teamId = state.agents.get(phone.item.personId)?.person.teamId ?? null;
  for (const code of state.codes.values())
    if (
      code.digits === digits &&
      (code.teamIds.length === 0 || (teamId !== null && code.teamIds.includes(teamId)))
    )
      return code;
  return null;
}

/** After a call for help whoever calls back is let in, on the blocked list or not: their number is not known before. */
const helpCallsBackMs = 3_600_000;

/** Ends a call of the blocked list. Numbers of ours, extensions, and those who answer a call for help are let in. */
function turnsAway(state: State, call: Call): boolean {
  const { from } = call;
  const entry = state.blocked.entryFor(from, state.now);
  if (entry === null || state.numberByDigits.has(from) || state.extensions.has(from) || isEmergency(from))
    return false;
  if (state.helpAskedAt !== null && state.now - state.helpAskedAt < helpCallsBackMs) return false;
  const { name, kind: how, until } = entry;
  note(state, { callId: call.id, at: state.now, kind: 'blocked', name, how, until });
  effect(state, { kind: 'blockedCaller', callId: call.id, blockedId: entry.id });
  endCall(state, call, 'exchange', 'turnedAway');
  return true;
}

/** Calls in progress that came in on a number, this one among them. */
function callsOn(state: State, numberId: string): number {
  let count = 0;
  for (const call of state.calls.values())
    if (call.numberId === numberId && call.direction === 'inbound') count++;
  return count;
}

function isBusy(state: State, call: Call, label: string, most: number): null {
  note(state, { callId: call.id, at: state.now, kind: 'numberBusy', label, most });
  endCall(state, call, 'exchange', 'busy');
  return null;
}

/** Who it is; what else the customer system says of them is not written into every story. */
function identityOf(record: RecordFacts | null): RecordFacts | null {
  return record === null ? null : { id: record.id, name: record.name, ownerId: record.ownerId };
}
