import { localDay } from '../../hours/zone-clock.ts';
import { callsToLaunch, type Pace, paceOf } from '../../outbound/pacing.ts';
import { begin } from '../calls/resting.ts';
import { beginCall } from '../calls/begin-call.ts';
import type { LeasedContact } from '../kernel/events.ts';
import { effect, note } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import { setTimer } from '../kernel/timers.ts';
import { digitsFor, seizeChannel } from '../media/channels.ts';
import { addLeg } from '../media/leg.ts';
import type { Trunk } from '../media/trunk.ts';
import { chooseToReserve } from '../queues/choose.ts';
import type { QueueState } from '../queues/queue.ts';
import type { Campaign } from './campaign.ts';
import { beginDialling } from './in-air.ts';
import { askForContacts, nextContact } from './supply.ts';

/** Launches every call that is due now. Runs after every event, so it ends early where nothing can be launched. */
export function launchDue(state: State): void {
  for (const campaign of state.campaigns.values()) {
    const { queue, trunk } = campaign;
    if (queue === null || trunk === null || queue.idleAutoAnswering === 0) continue;
    if (campaign.item.running) launch(state, campaign, queue, trunk);
  }
}

function launch(state: State, campaign: Campaign, queue: QueueState, trunk: Trunk): void {
  const { ratio, abandonLimit, mostInAir } = campaign.item;
  const pace = paceOf(ratio, abandonLimit, campaign.tallies, localDay(state.settings.clock, state.now));
  const room = Math.min(
    trunk.item.channels - trunk.inUse,
    mostInAir === null ? Number.POSITIVE_INFINITY : mostInAir - campaign.inAir,
  );
  let due = callsToLaunch(pace, queue.idleAutoAnswering, queue.inAir, queue.reservations, room);
  const wanted = due;
  while (due > 0) {
    const contact = nextContact(state, campaign);
    if (contact === null) break;
    launchCall(state, campaign, queue, trunk, pace, contact);
    due--;
  }
  askForContacts(state, campaign, wanted);
}

function launchCall(
  state: State,
  campaign: Campaign,
  queue: QueueState,
  trunk: Trunk,
  pace: Pace,
  contact: LeasedContact,
): void {
  const { item } = campaign;
  const free = queue.idleAutoAnswering;
  const reserved = pace.reserve ? chooseToReserve(state, queue) : null;
  const call = beginCall(state, {
    id: contact.callId,
    direction: 'outbound',
    to: contact.e164,
    from: item.callerId,
    callerName: contact.name,
    record: contact.record,
    campaign,
    contact,
  });
  campaign.calling.add(contact.contactId);
  call.numberId = item.numberId;
  call.queue = queue;
  call.lastQueueId = queue.item.id;
  begin(call, state.now, { kind: 'contactRings' });
  const leg = addLeg(state, call, 'contact', 'ringing');
  setTimer(state, call, 'activity', state.now + item.ringSeconds * 1000);
  seizeChannel(state, trunk, leg);
  note(state, {
    callId: call.id,
    at: state.now,
    kind: 'launched',
    campaignId: item.id,
    campaignName: item.name,
    contactName: contact.name,
    to: call.to,
    callerId: item.callerId,
    trunkName: trunk.item.name,
    attempt: contact.attempt,
    pace,
    free,
    inAir: queue.inAir + queue.reservations,
    reservedName: reserved === null ? null : reserved.person.name,
    record: contact.record,
  });
  beginDialling(state, call, queue, reserved);
  effect(state, {
    kind: 'dial',
    callId: call.id,
    leg: leg.id,
    trunkId: trunk.item.id,
    digits: digitsFor(state, call.to, { kind: 'campaign' }),
    callerId: trunk.item.callerId ?? item.callerId,
    ringSeconds: item.ringSeconds,
    party: 'contact',
    personId: null,
    queueId: queue.item.id,
    contact: { id: contact.contactId, campaignId: item.id, attempt: contact.attempt },
  });
}
