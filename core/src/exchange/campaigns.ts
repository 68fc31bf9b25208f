import { localDay } from '../hours/zone-clock.ts';
import { callsToLaunch, type Pace, paceOf } from '../outbound/pacing.ts';
import type { ExchangeEvent, LeasedContact, Refusal } from './events.ts';
import { takeOff } from './in-air.ts';
import type { Leg } from './call-parts.ts';
import { type Agent, Call, type Campaign, type QueueState, type State, type Trunk } from './state.ts';
import { clearTimer, setTimer } from './timers.ts';
import { digitsFor, seizeChannel } from './trunks.ts';

/** Contacts asked for beyond those that could be called at once, so that the next call need not wait for the host. */
const spareContacts = 4;

/** Launches every call that is due now. Runs after every event, so it ends early where nothing can be launched. */
export function launchDue(state: State): void {
  for (const campaign of state.campaigns.values()) {
    if (!campaign.item.running) continue;
    const queue = state.queues.get(campaign.item.queueId);
    if (queue === undefined || queue.idleAutomatic === 0) continue;
    const trunk = state.trunks.get(campaign.item.trunkId);
    if (trunk !== undefined) launch(state, campaign, queue, trunk);
  }
}

function launch(state: State, campaign: Campaign, queue: QueueState, trunk: Trunk): void {
  const { ratio, abandonLimit, mostInAir } = campaign.item;
  const pace = paceOf(ratio, abandonLimit, campaign.tallies, localDay(state.settings.clock, state.now));
  const room = Math.min(
    trunk.item.channels - trunk.inUse,
    mostInAir === null ? Number.POSITIVE_INFINITY : mostInAir - campaign.inAir,
  );
  let due = callsToLaunch(pace, queue.idleAutomatic, queue.inAir, queue.keeping, room);
  const wanted = due;
  while (due > 0) {
    const contact = nextContact(state, campaign);
    if (contact === null) break;
    launchCall(state, campaign, queue, trunk, pace, contact);
    due--;
  }
  askForContacts(state, campaign, wanted);
}

/** The next contact who may be called now; those who may not go back to the host. */
function nextContact(state: State, campaign: Campaign): LeasedContact | null {
  const refused: string[] = [];
  let found: LeasedContact | null = null;
  while (found === null && campaign.buffer.length > 0) {
    const contact = campaign.buffer.shift()!;
    if (contact.callableUntil > state.now && !state.optedOut.has(contact.e164)) found = contact;
    else refused.push(contact.contactId);
  }
  giveBack(state, campaign, refused);
  return found;
}

function giveBack(state: State, campaign: Campaign, contactIds: string[]): void {
  if (contactIds.length > 0)
    state.out.effects.push({ kind: 'returnContacts', campaignId: campaign.item.id, contactIds });
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
  const free = queue.idleAutomatic;
  const kept = pace.keep ? idlestAutomatic(queue) : null;
  const call = new Call({
    id: contact.callId,
    direction: 'outbound',
    to: contact.e164,
    from: item.callerId,
    callerName: contact.name,
    priority: 0,
    at: state.now,
    standIn: false,
    record: contact.record,
    campaign,
    contact,
  });
  call.numberId = item.numberId;
  call.queue = queue;
  call.lastQueueId = queue.item.id;
  call.stage = 'dialling';
  const leg: Leg = {
    id: `${call.id}.1`,
    party: 'contact',
    personId: null,
    phoneId: null,
    trunkId: null,
    over: null,
    state: 'ringing',
    since: state.now,
  };
  call.legs.push(leg);
  call.ringTimer = setTimer(state, 'ring', call, state.now + item.ringSeconds * 1000);
  state.calls.set(call.id, call);
  seizeChannel(state, trunk, leg);
  if (state.out.detail !== 'none') {
    state.out.records.push({
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
      inAir: queue.inAir + queue.keeping,
      keptName: kept === null ? null : kept.person.name,
      record: contact.record,
    });
  }
  takeOff(state, call, queue, kept);
  state.out.effects.push({
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

function idlestAutomatic(queue: QueueState): Agent | null {
  for (const member of queue.idle.inOrder()) if (member.agent.automatic) return member.agent;
  return null;
}

function askForContacts(state: State, campaign: Campaign, wanted: number): void {
  if (campaign.asked || campaign.exhausted || campaign.askTimer !== null) return;
  if (campaign.buffer.length >= Math.max(1, wanted)) return;
  campaign.asked = true;
  const count = wanted + spareContacts;
  state.out.effects.push({ kind: 'wantContacts', campaignId: campaign.item.id, count });
}

/** The host handed out contacts, or said that there are none for now. */
export function takeContacts(
  state: State,
  event: ExchangeEvent & { kind: 'contactsLeased' },
): Refusal | null {
  const campaign = state.campaigns.get(event.campaignId);
  if (campaign === undefined) return 'unknownCampaign';
  campaign.asked = false;
  if (!campaign.item.running) {
    giveBack(
      state,
      campaign,
      event.contacts.map((contact) => contact.contactId),
    );
    return null;
  }
  // Handed out twice, they are called once: neither who waits here nor who is being called comes in again.
  const known = new Set(campaign.buffer.map((contact) => contact.contactId));
  for (const call of state.calls.values()) if (call.contact !== null) known.add(call.contact.contactId);
  campaign.buffer.push(...event.contacts.filter((contact) => !known.has(contact.contactId)));
  if (event.contacts.length > 0) return null;
  if (event.askAgainAt === null) campaign.exhausted = true;
  else
    campaign.askTimer = setTimer(
      state,
      'askContacts',
      campaign,
      Math.max(event.askAgainAt, state.now + 1_000),
    );
  return null;
}

export function contactsChanged(state: State, campaignId: string): Refusal | null {
  const campaign = state.campaigns.get(campaignId);
  if (campaign === undefined) return 'unknownCampaign';
  askAfresh(state, campaign);
  return null;
}

export function askAfresh(state: State, campaign: Campaign): void {
  campaign.exhausted = false;
  campaign.askTimer = clearTimer(state, campaign.askTimer);
}

/** Contacts not called yet go back; calls in the air go on. */
export function stopCampaign(state: State, campaign: Campaign): void {
  giveBack(
    state,
    campaign,
    campaign.buffer.map((contact) => contact.contactId),
  );
  campaign.buffer = [];
  askAfresh(state, campaign);
}

export function knowTallies(state: State, event: ExchangeEvent & { kind: 'talliesKnown' }): Refusal | null {
  const campaign = state.campaigns.get(event.campaignId);
  if (campaign === undefined) return 'unknownCampaign';
  if (campaign.tallies.length > 0) return 'notExpected';
  campaign.tallies = [...event.tallies];
  return null;
}
