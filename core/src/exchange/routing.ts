import { isEmergency } from '../dialling/emergency.ts';
import { reasonsAgainstDirect } from '../distribute/eligibility.ts';
import type { Destination } from '../model/destination.ts';
import { beginChain, nextInChain } from './chain.ts';
import { endCall } from './ending.ts';
import type { ExchangeEvent, Refusal } from './events.ts';
import { destinationName, stepsLeft } from './explain.ts';
import { dialDirectly, forward } from './forwarding.ts';
import { ringAgent } from './ringing.ts';
import { enterQueue } from './queueing.ts';
import { enterFaxBox, enterRoom } from './rooms.ts';
import type { Leg } from './call-parts.ts';
import { type Agent, Call, type State } from './state.ts';
import { setTimer } from './timers.ts';
import { seizeChannel } from './trunks.ts';

/** Steps a call may take without the caller doing anything, before the fallback is taken. */
export const stepLimit = 100;

export function arrive(state: State, event: ExchangeEvent & { kind: 'callArrived' }): Refusal | null {
  if (state.calls.has(event.callId)) return 'callExists';
  const phone = state.phones.get(event.fromPhoneId ?? '');
  const isOurs = state.numberByDigits.has(event.to) || state.extensions.has(event.to);
  if (phone !== undefined && (!isOurs || isEmergency(event.to))) return dialDirectly(state, event, phone);
  // Somebody of ours who dials an extension is seen as who they are.
  const colleague = state.agents.get(phone?.item.personId ?? '')?.person;
  const call = new Call({
    id: event.callId,
    direction: 'inbound',
    to: event.to,
    from: colleague?.extension ?? event.from,
    callerName: colleague?.name ?? event.callerName ?? event.record?.name ?? null,
    priority: event.priority ?? 0,
    at: state.now,
    standIn: event.standIn ?? false,
    record: event.record ?? null,
    campaign: null,
    contact: null,
  });
  const leg: Leg = {
    id: `${call.id}.1`,
    party: 'caller',
    personId: null,
    phoneId: null,
    trunkId: null,
    over: null,
    state: 'connected',
    since: state.now,
  };
  call.legs.push(leg);
  // The provider has put it through: a call that came in is never refused for want of a channel, only counted.
  const trunk = state.trunks.get(event.trunkId ?? '');
  if (trunk !== undefined) seizeChannel(state, trunk, leg);
  state.calls.set(call.id, call);
  const number = state.numberByDigits.get(event.to);
  const plan = number?.plan ?? null;
  call.numberId = number?.id ?? null;
  call.sourceId = number?.sourceId ?? null;
  if (state.out.detail !== 'none') {
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'arrived',
      to: call.to,
      from: call.from,
      callerName: call.callerName,
      numberId: call.numberId,
      label: number?.label ?? null,
      planVersion: plan?.version ?? null,
      record: call.record,
    });
  }
  if (plan !== null) {
    call.fallback = plan.fallback;
    const first = plan.steps[0];
    sendTo(state, call, first === undefined ? plan.fallback : first.destination);
    return null;
  }
  const extension = number === undefined ? state.extensions.get(event.to) : undefined;
  if (extension === undefined)
    ledNowhere(state, call, number === undefined ? 'unknownNumber' : 'unroutedNumber');
  else sendTo(state, call, extension);
  return null;
}

/**
 * Sends the call to a destination; the one way by which a call moves on. `inChain`: as a step of whom it is meant for,
 * whose further steps still hold.
 */
export function sendTo(state: State, call: Call, destination: Destination, inChain = false): void {
  call.steps++;
  if (!inChain) call.chain = null;
  if (call.steps > stepLimit) {
    if (state.out.detail !== 'none') {
      state.out.records.push({ callId: call.id, at: state.now, kind: 'tooManySteps', steps: stepLimit });
    }
    const fallback = call.fallback;
    if (fallback.kind === 'voicemail' && call.steps === stepLimit + 1)
      return toVoicemail(state, call, fallback.id);
    return turnAway(state, call);
  }
  call.lastDestination = destination;
  call.queue = null;
  if (state.out.detail !== 'none') {
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'sentTo',
      destination,
      name: destinationName(state, destination),
    });
  }
  switch (destination.kind) {
    case 'queue': {
      const queue = state.queues.get(destination.id);
      return queue === undefined || queue.retired
        ? ledNowhere(state, call, 'destinationGone')
        : enterQueue(state, call, queue);
    }
    case 'person': {
      const agent = state.agents.get(destination.id);
      return agent === undefined || agent.retired
        ? ledNowhere(state, call, 'destinationGone')
        : ringPerson(state, call, agent);
    }
    case 'outside': {
      const outside = state.outsideNumbers.get(destination.id);
      return outside === undefined
        ? ledNowhere(state, call, 'destinationGone')
        : forward(state, call, outside);
    }
    case 'room': {
      const room = state.rooms.get(destination.id);
      return room === undefined ? ledNowhere(state, call, 'destinationGone') : enterRoom(state, call, room);
    }
    case 'fax': {
      const box = state.faxBoxes.get(destination.id);
      return box === undefined ? ledNowhere(state, call, 'destinationGone') : enterFaxBox(state, call, box);
    }
    case 'number': {
      const plan = state.numbers.get(destination.id)?.plan ?? null;
      if (plan === null) return ledNowhere(state, call, 'unroutedNumber');
      call.fallback = plan.fallback;
      return sendTo(state, call, plan.steps[0]?.destination ?? plan.fallback);
    }
    case 'voicemail':
      return toVoicemail(state, call, destination.id);
    case 'end':
      return turnAway(state, call);
  }
}

/** A call straight to a person, by their extension or a number that leads to them. */
function ringPerson(state: State, call: Call, agent: Agent): void {
  if (call.chain === null) beginChain(call, agent);
  const reasons = reasonsAgainstDirect(agent);
  const ringSeconds = agent.person.ringSeconds;
  if (state.out.detail !== 'none') {
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'directDecision',
      personId: agent.person.id,
      name: agent.person.name,
      rings: reasons.length === 0,
      reasons,
      ringSeconds,
      otherwise: stepsLeft(state, call),
    });
  }
  if (reasons.length > 0) return nextInChain(state, call);
  state.out.effects.push({ kind: 'play', callId: call.id, leg: call.legs[0]!.id, prompt: 'ringing' });
  ringAgent(state, agent, call, ringSeconds);
}

function toVoicemail(state: State, call: Call, boxId: string): void {
  const box = state.boxes.get(boxId);
  if (box === undefined) return ledNowhere(state, call, 'destinationGone');
  call.stage = 'voicemail';
  call.stageSince = state.now;
  call.voicemailBoxId = box.id;
  call.messageFrom = state.now + box.greetingSeconds * 1000;
  call.messageTimer = setTimer(state, 'message', call, call.messageFrom + box.maxMessageSeconds * 1000);
  state.out.effects.push({
    kind: 'record',
    callId: call.id,
    boxId: box.id,
    greetingSeconds: box.greetingSeconds,
    maxMessageSeconds: box.maxMessageSeconds,
  });
  if (state.out.detail !== 'none') {
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'voicemail',
      boxId: box.id,
      name: box.name,
    });
  }
}

function turnAway(state: State, call: Call): void {
  if (state.out.detail !== 'none') {
    state.out.records.push({ callId: call.id, at: state.now, kind: 'turnedAway' });
  }
  state.out.effects.push({ kind: 'play', callId: call.id, leg: call.legs[0]!.id, prompt: 'notTaken' });
  endCall(state, call, 'exchange', 'turnedAway');
}

function ledNowhere(
  state: State,
  call: Call,
  why: 'unknownNumber' | 'unroutedNumber' | 'destinationGone',
): void {
  if (state.out.detail !== 'none') {
    state.out.records.push({ callId: call.id, at: state.now, kind: 'ledNowhere', why });
  }
  endCall(state, call, 'exchange', 'nowhere');
}
