import type { State } from '@night-bell/core/exchange/kernel/state';
import type { Configuration } from '@night-bell/core/model/configuration';

/** The set-up an exchange works with now, to be compared with a fresh compilation. */
export function configurationOf(state: Readonly<State>): Configuration {
  return {
    settings: state.settings,
    people: [...state.agents.values()].filter((agent) => !agent.retired).map((agent) => agent.person),
    phones: [...state.phones.values()].map((phone) => phone.item),
    queues: [...state.queues.values()].map((queue) => queue.item),
    numbers: [...state.numbers.values()],
    voicemailBoxes: [...state.boxes.values()],
    trunks: [...state.trunks.values()].map((trunk) => trunk.item),
    outsideNumbers: [...state.outsideNumbers.values()],
    rooms: [...state.rooms.values()],
    ringGroups: [...state.ringGroups.values()].map(({ item }) => item),
    faxBoxes: [...state.faxBoxes.values()],
    codes: [...state.codes.values()],
    blocked: [...state.blocked.items],
    hours: [...state.hours.values()],
    regions: [...state.regions.values()],
    bots: [...state.bots.values()],
    prompts: [...state.prompts.values()],
    plans: [...state.plans.values()],
    rules: [...state.dialPlan.rules],
    campaigns: [...state.campaigns.values()].map((campaign) => campaign.item),
  };
}
