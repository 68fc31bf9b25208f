import type { LegFailure } from '../../story/facts.ts';
import { begin } from '../calls/resting.ts';
import type { Call } from '../calls/call.ts';
import { endCall } from '../calls/ending.ts';
import type { ExchangeEvent, Refusal } from '../kernel/events.ts';
import { effect, note, play, stopRinging } from '../kernel/journal.ts';
import { askedByKey, rememberOptOut } from './opt-out.ts';
import type { State } from '../kernel/state.ts';
import { clearTimer, setTimer } from '../kernel/timers.ts';
import { abandonOffer } from '../offers/outcome.ts';
import { offerToReserved } from '../queues/dispatch.ts';
import { leaveQueue } from '../queues/place.ts';
import { enterAnswered } from '../queues/waiting.ts';
import { endDialling, tallyToday } from './in-air.ts';

/** The contact's phone was lifted. Who lifted it is known when the greeting is over. */
export function contactLifted(state: State, call: Call): Refusal | null {
  if (call.activity.kind !== 'contactRings') return 'legNotRinging';
  clearTimer(state, call, 'activity');
  begin(call, state.now, { kind: 'greeting' });
  call.liftedAt = state.now;
  const leg = call.legs[0]!;
  note(state, { callId: call.id, at: state.now, kind: 'contactLifted', rangMs: state.now - leg.since });
  leg.state = 'connected';
  leg.since = state.now;
  return null;
}

/** A machine is hung up on; a person is put through to an agent, who must come within two seconds. */
export function greetingEnded(state: State, call: Call, by: 'person' | 'machine'): Refusal | null {
  if (call.activity.kind !== 'greeting') return 'notExpected';
  const campaign = call.campaign!;
  const queue = call.queue!;
  const reserved = call.reservedAgent;
  endDialling(state, call);
  call.greetedAt = state.now;
  note(state, {
    callId: call.id,
    at: state.now,
    kind: 'greeted',
    by,
    greetingMs: state.now - call.liftedAt!,
    withinMs: state.settings.connectWithinMs,
  });
  if (by === 'machine') {
    endCall(state, call, 'exchange', 'machine');
    return null;
  }
  tallyToday(state, campaign).answered++;
  setTimer(state, call, 'connectBy', state.now + state.settings.connectWithinMs);
  if (reserved !== null && offerToReserved(state, queue, call, reserved)) return null;
  enterAnswered(state, call, queue);
  return null;
}

/** No agent in time: the contact hears why the phone rang, and the call counts as abandoned. */
export function noAgentInTime(state: State, call: Call): void {
  abandonOffer(state, call, 'abandoned');
  leaveQueue(state, call);
  const campaign = call.campaign!;
  tallyToday(state, campaign).abandoned++;
  call.abandoned = true;
  begin(call, state.now, { kind: 'announcement' });
  setTimer(state, call, 'activity', state.now + campaign.item.messageSeconds * 1000);
  play(state, call, call.legs[0]!.id, 'abandoned');
  effect(state, { kind: 'campaignChanged', campaignId: campaign.item.id });
  note(state, {
    callId: call.id,
    at: state.now,
    kind: 'noAgentInTime',
    afterMs: state.now - call.greetedAt!,
  });
}

export function contactFailed(state: State, call: Call, cause: LegFailure): Refusal | null {
  if (call.activity.kind !== 'contactRings') return 'legNotRinging';
  endCall(state, call, 'contact', cause === 'declined' ? 'refused' : cause);
  return null;
}

export function contactRangOut(state: State, call: Call): void {
  stopRinging(state, call, call.legs[0]!.id, 'noAnswer');
  endCall(state, call, 'contact', 'noAnswer');
}

export function contactHangsUp(state: State, call: Call): Refusal | null {
  if (call.activity.kind === 'contactRings') return contactFailed(state, call, 'unreachable');
  if (call.activity.kind === 'bridged') endCall(state, call, 'contact', 'answered');
  else endCall(state, call, 'contact', call.abandoned ? 'abandoned' : 'hungUp');
  return null;
}

/** The key that ends all calls to this contact. In a talk it is only noted; else the call is over. */
export function contactPressed(state: State, call: Call, key: string): Refusal | null {
  if (call.campaign?.item.optOutKey !== key || call.activity.kind === 'contactRings') return 'notExpected';
  askedByKey(state, call, call.to);
  if (call.activity.kind !== 'bridged')
    endCall(state, call, 'exchange', call.abandoned ? 'abandoned' : 'optedOut');
  return null;
}

/** Never again, by any campaign: also not the calls that ring at this moment. */
export function optOut(state: State, event: ExchangeEvent & { kind: 'optedOut' }): void {
  rememberOptOut(state, event.e164);
  for (const campaign of state.campaigns.values()) {
    const left = campaign.buffer.filter((contact) => contact.e164 !== event.e164);
    if (left.length === campaign.buffer.length) continue;
    const gone = campaign.buffer.filter((contact) => contact.e164 === event.e164);
    campaign.buffer = left;
    effect(state, {
      kind: 'returnContacts',
      campaignId: campaign.item.id,
      contactIds: gone.map((contact) => contact.contactId),
    });
  }
  for (const call of [...state.calls.values()]) {
    if (call.direction !== 'outbound' || call.to !== event.e164 || call.activity.kind === 'bridged') continue;
    note(state, { callId: call.id, at: state.now, kind: 'optedOut', how: 'list' });
    if (call.activity.kind === 'contactRings') stopRinging(state, call, call.legs[0]!.id, 'optedOut');
    endCall(state, call, 'exchange', call.abandoned ? 'abandoned' : 'optedOut');
  }
}
