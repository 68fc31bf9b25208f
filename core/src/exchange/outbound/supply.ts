import type { ExchangeEvent, LeasedContact, Refusal } from '../kernel/events.ts';
import { effect } from '../kernel/journal.ts';
import type { State } from '../kernel/state.ts';
import { clearTimer, setTimer, timerOf } from '../kernel/timers.ts';
import type { Campaign } from './campaign.ts';

/** Contacts asked for beyond those that could be called at once, so that the next call need not wait for the host. */
const spareContacts = 4;

/** The next contact who may be called now; those who may not, or under a call's name that is taken, go back to the host. */
export function nextContact(state: State, campaign: Campaign): LeasedContact | null {
  const refused: string[] = [];
  let found: LeasedContact | null = null;
  while (found === null && campaign.buffer.length > 0) {
    const contact = campaign.buffer.shift()!;
    const callable = contact.callableUntil > state.now && !state.optedOut.has(contact.e164);
    if (callable && !state.calls.has(contact.callId)) found = contact;
    else refused.push(contact.contactId);
  }
  giveBack(state, campaign, refused);
  return found;
}

function giveBack(state: State, campaign: Campaign, contactIds: string[]): void {
  if (contactIds.length > 0)
    effect(state, { kind: 'returnContacts', campaignId: campaign.item.id, contactIds });
}

export function askForContacts(state: State, campaign: Campaign, wanted: number): void {
  if (campaign.asked || campaign.exhausted || timerOf(campaign, 'askContacts') !== null) return;
  if (campaign.buffer.length >= Math.max(1, wanted)) return;
  campaign.asked = true;
  effect(state, { kind: 'wantContacts', campaignId: campaign.item.id, count: wanted + spareContacts });
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
  for (const contact of event.contacts) {
    if (known.has(contact.contactId) || campaign.calling.has(contact.contactId)) continue;
    known.add(contact.contactId);
    campaign.buffer.push(contact);
  }
  if (event.contacts.length > 0) return null;
  if (event.askAgainAt === null) campaign.exhausted = true;
  else setTimer(state, campaign, 'askContacts', Math.max(event.askAgainAt, state.now + 1_000));
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
  clearTimer(state, campaign, 'askContacts');
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
