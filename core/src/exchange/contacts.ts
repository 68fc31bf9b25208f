import { offerToKept } from './dispatch.ts';
import { endCall } from './ending.ts';
import type { ExchangeEvent, LegFailure, Refusal } from './events.ts';
import { land, tallyToday } from './in-air.ts';
import { abandonOffer } from './offers.ts';
import { enterAnswered, leaveQueue } from './queueing.ts';
import type { Call, State } from './state.ts';
import { clearTimer, setTimer } from './timers.ts';

/** How long an opt-out is remembered here: contacts leased before it are in the host's hands no longer than that. */
const rememberMs = 10 * 60_000;

/** The contact's phone was lifted. Who lifted it is known when the greeting is over. */
export function contactLifted(state: State, call: Call): Refusal | null {
  if (call.stage !== 'dialling') return 'legNotRinging';
  call.ringTimer = clearTimer(state, call.ringTimer);
  call.stage = 'greeting';
  call.stageSince = state.now;
  call.liftedAt = state.now;
  const leg = call.legs[0]!;
  if (state.out.detail !== 'none') {
    const rangMs = state.now - leg.since;
    state.out.records.push({ callId: call.id, at: state.now, kind: 'contactLifted', rangMs });
  }
  leg.state = 'connected';
  leg.since = state.now;
  return null;
}

/** A machine is hung up on; a person is put through to an agent, who must come within two seconds. */
export function greetingEnded(state: State, call: Call, by: 'person' | 'machine'): Refusal | null {
  if (call.stage !== 'greeting') return 'notExpected';
  const campaign = call.campaign!;
  const queue = call.queue!;
  const kept = call.keptAgent;
  land(state, call);
  call.greetedAt = state.now;
  if (state.out.detail !== 'none') {
    state.out.records.push({
      callId: call.id,
      at: state.now,
      kind: 'greeted',
      by,
      greetingMs: state.now - call.liftedAt!,
      withinMs: state.settings.connectWithinMs,
    });
  }
  if (by === 'machine') {
    endCall(state, call, 'exchange', 'machine');
    return null;
  }
  tallyToday(state, campaign).answered++;
  call.connectByTimer = setTimer(state, 'connectBy', call, state.now + state.settings.connectWithinMs);
  if (kept !== null && offerToKept(state, queue, call, kept)) return null;
  enterAnswered(state, call, queue);
  return null;
}

/** No agent in time: the contact hears why the phone rang, and the call counts as abandoned. */
export function noAgentInTime(state: State, call: Call): void {
  call.connectByTimer = null;
  abandonOffer(state, call, 'abandoned');
  leaveQueue(state, call);
  const campaign = call.campaign!;
  tallyToday(state, campaign).abandoned++;
  call.abandoned = true;
  call.stage = 'announcement';
  call.stageSince = state.now;
  call.messageTimer = setTimer(state, 'message', call, state.now + campaign.item.messageSeconds * 1000);
  state.out.effects.push({ kind: 'play', callId: call.id, leg: call.legs[0]!.id, prompt: 'abandoned' });
  state.out.effects.push({ kind: 'campaignChanged', campaignId: campaign.item.id });
  if (state.out.detail !== 'none') {
    const afterMs = state.now - call.greetedAt!;
    state.out.records.push({ callId: call.id, at: state.now, kind: 'noAgentInTime', afterMs });
  }
}

export function contactFailed(state: State, call: Call, cause: LegFailure): Refusal | null {
  if (call.stage !== 'dialling') return 'legNotRinging';
  endCall(state, call, 'contact', cause === 'declined' ? 'refused' : cause);
  return null;
}

export function contactRangOut(state: State, call: Call): void {
  state.out.effects.push({
    kind: 'stopRinging',
    callId: call.id,
    leg: call.legs[0]!.id,
    why: 'noAnswer',
  });
  endCall(state, call, 'contact', 'noAnswer');
}

export function contactHangsUp(state: State, call: Call): Refusal | null {
  if (call.stage === 'dialling') return contactFailed(state, call, 'unreachable');
  if (call.stage === 'talking') endCall(state, call, 'contact', 'answered');
  else endCall(state, call, 'contact', call.abandoned ? 'abandoned' : 'hungUp');
  return null;
}

/** The key that ends all calls to this contact. In a talk it is only noted; else the call is over. */
export function contactPressed(state: State, call: Call, key: string): Refusal | null {
  if (call.campaign?.item.optOutKey !== key || call.stage === 'dialling') return 'notExpected';
  state.out.effects.push({ kind: 'optOut', e164: call.to, callId: call.id });
  if (state.out.detail !== 'none') {
    state.out.records.push({ callId: call.id, at: state.now, kind: 'optedOut', how: 'key' });
  }
  remember(state, call.to);
  if (call.stage !== 'talking') endCall(state, call, 'exchange', call.abandoned ? 'abandoned' : 'optedOut');
  return null;
}

/** Never again, by any campaign: also not the calls that ring at this moment. */
export function optOut(state: State, event: ExchangeEvent & { kind: 'optedOut' }): void {
  remember(state, event.e164);
  for (const campaign of state.campaigns.values()) {
    const kept = campaign.buffer.filter((contact) => contact.e164 !== event.e164);
    if (kept.length === campaign.buffer.length) continue;
    const gone = campaign.buffer.filter((contact) => contact.e164 === event.e164);
    campaign.buffer = kept;
    state.out.effects.push({
      kind: 'returnContacts',
      campaignId: campaign.item.id,
      contactIds: gone.map((contact) => contact.contactId),
    });
  }
  for (const call of [...state.calls.values()]) {
    if (call.direction !== 'outbound' || call.to !== event.e164 || call.stage === 'talking') continue;
    if (state.out.detail !== 'none') {
      state.out.records.push({ callId: call.id, at: state.now, kind: 'optedOut', how: 'list' });
    }
    if (call.stage === 'dialling')
      state.out.effects.push({
        kind: 'stopRinging',
        callId: call.id,
        leg: call.legs[0]!.id,
        why: 'optedOut',
      });
    endCall(state, call, 'exchange', call.abandoned ? 'abandoned' : 'optedOut');
  }
}

/** Kept in the order of time, so that forgetting looks at the oldest only. */
function remember(state: State, e164: string): void {
  for (const [number, at] of state.optedOut) {
    if (at >= state.now - rememberMs) break;
    state.optedOut.delete(number);
  }
  state.optedOut.delete(e164);
  state.optedOut.set(e164, state.now);
}
