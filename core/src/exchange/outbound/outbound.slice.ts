import type { CampaignItem } from '../../model/configuration.ts';
import {
  asIs,
  type CodecsOf,
  copied,
  derived,
  loadFields,
  type SavedBy,
  saveFields,
  timers,
} from '../kernel/codecs.ts';
import type { Slice } from '../kernel/slice.ts';
import type { State } from '../kernel/state.ts';
import { Campaign } from './campaign.ts';

const codecs = {
  item: asIs<CampaignItem>(),
  buffer: copied<Campaign['buffer']>(),
  asked: asIs<boolean>(),
  exhausted: asIs<boolean>(),
  queue: derived,
  trunk: derived,
  calling: derived,
  inAir: derived,
  tallies: copied<Campaign['tallies']>(),
  timers,
} satisfies CodecsOf<Campaign>;

export interface Data {
  /** `gone`: no longer in the set-up; a call of it is still on. */
  campaigns: (SavedBy<typeof codecs> & { gone: boolean })[];
  optedOut: [e164: string, at: number][];
}

export const outboundSlice: Slice<Data> = {
  name: 'outbound',
  version: 1,
  migrate: {},
  save: (state) => {
    const campaigns = new Set(state.campaigns.values());
    for (const { campaign } of state.calls.values()) if (campaign !== null) campaigns.add(campaign);
    return {
      campaigns: [...campaigns].map((campaign) => ({
        ...saveFields(codecs, campaign),
        gone: state.campaigns.get(campaign.item.id) !== campaign,
      })),
      optedOut: [...state.optedOut],
    };
  },
  make: ({ campaigns, optedOut }, state, links) => {
    for (const { item, gone } of campaigns) {
      const campaign = new Campaign(item);
      links.campaigns.set(item.id, campaign);
      if (!gone) state.campaigns.set(item.id, campaign);
    }
    for (const [e164, at] of optedOut) state.optedOut.set(e164, at);
  },
  fill: ({ campaigns }, _state, links) => {
    for (const saved of campaigns) loadFields(codecs, links.campaigns.get(saved.item.id)!, saved, links);
  },
  derive: (state) => {
    linkCampaigns(state);
    for (const { campaign, contact } of state.calls.values())
      if (campaign !== null && contact !== null) campaign.calling.add(contact.contactId);
  },
  invariants: (state) => [...state.campaigns.values()].flatMap((campaign) => brokenCampaign(state, campaign)),
};

/** Finds the queue and the trunk of every campaign, after any change of the set-up. */
export function linkCampaigns(state: State): void {
  for (const campaign of state.campaigns.values()) {
    campaign.queue = state.queues.get(campaign.item.queueId) ?? null;
    campaign.trunk = state.trunks.get(campaign.item.trunkId) ?? null;
  }
}

function brokenCampaign(state: Readonly<State>, campaign: Campaign): string[] {
  const { name, running } = campaign.item;
  const calls = [...state.calls.values()].filter((call) => call.campaign === campaign);
  const broken: string[] = [];
  if (calls.filter((call) => call.inAir).length !== campaign.inAir)
    broken.push(`${name} counts its calls in the air wrongly`);
  if (!running && campaign.buffer.length > 0) broken.push(`${name} is paused and keeps contacts`);
  if (
    calls.some((call) => !campaign.calling.has(call.contact!.contactId)) ||
    calls.length !== campaign.calling.size
  )
    broken.push(`${name} does not know whom it calls`);
  const contacts = [...calls.map((call) => call.contact!), ...campaign.buffer].map((each) => each.contactId);
  if (new Set(contacts).size !== contacts.length) broken.push(`${name} has a contact twice`);
  return broken;
}
