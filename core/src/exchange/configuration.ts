import { BlockedList } from '../blocking/blocked.ts';
import { DialPlan } from '../dialling/rules.ts';
import type {
  CampaignItem,
  ConfigurationChanges,
  PersonItem,
  PhoneItem,
  QueueItem,
  TrunkItem,
} from '../model/configuration.ts';
import { Agent, type Phone } from './agents/agent.ts';
import { deriveTrunkAgents } from './agents/agents.slice.ts';
import { closePersistentLine } from './agents/persistent-line.ts';
import { lookAtPhonesAgain, refreshPhoneFacts } from './agents/phones.ts';
import { forgetAgent, takeOffDuty } from './agents/presence.ts';
import { joinQueue, leaveQueueOf, reindexAgent } from './agents/reindex.ts';
import { changeRingGroup } from './groups/members.ts';
import type { State } from './kernel/state.ts';
import { serveLater } from './kernel/later.ts';
import { Trunk } from './media/trunk.ts';
import { leaveRinging } from './offers/outcome.ts';
import { Campaign } from './outbound/campaign.ts';
import { cancelReservation } from './outbound/in-air.ts';
import { linkCampaigns } from './outbound/outbound.slice.ts';
import { askAfresh, stopCampaign } from './outbound/supply.ts';
import { Membership, QueueState } from './queues/queue.ts';
import { takePlacesAnew } from './queues/place.ts';
import { emptyQueue, lookAtHoursAgain, lookWhoIsLeft } from './queues/ways-out.ts';

/** Takes changed items in. Calls in progress go on; who may be rung changes at once. */
export function changeConfiguration(state: State, changes: ConfigurationChanges): void {
  if (changes.settings !== undefined) state.settings = changes.settings;
  for (const box of changes.voicemailBoxes ?? []) state.boxes.set(box.id, box);
  for (const trunk of changes.trunks ?? []) changeTrunk(state, trunk);
  const fresh = new Set<Agent>();
  for (const person of changes.people ?? []) changePerson(state, person, fresh);
  if (fresh.size > 0)
    for (const phone of state.phones.values()) if (isOneOf(state, phone, fresh)) givePhone(state, phone);
  for (const phone of changes.phones ?? []) changePhone(state, phone);
  for (const queue of changes.queues ?? []) changeQueue(state, queue);
  for (const number of changes.numbers ?? []) state.numbers.set(number.id, number);
  for (const campaign of changes.campaigns ?? []) changeCampaign(state, campaign);
  for (const outside of changes.outsideNumbers ?? []) state.outsideNumbers.set(outside.id, outside);
  for (const room of changes.rooms ?? []) state.rooms.set(room.id, room);
  for (const group of changes.ringGroups ?? []) changeRingGroup(state, group);
  for (const box of changes.faxBoxes ?? []) state.faxBoxes.set(box.id, box);
  for (const code of changes.codes ?? []) state.codes.set(code.id, code);
  for (const set of changes.hours ?? []) state.hours.set(set.id, set);
  if (changes.hours !== undefined || changes.queues !== undefined) lookAtHoursAgain(state);
  for (const prompt of changes.prompts ?? []) state.prompts.set(prompt.id, prompt);
  for (const table of changes.regions ?? []) state.regions.set(table.id, table);
  for (const bot of changes.bots ?? []) state.bots.set(bot.id, bot);
  for (const plan of changes.plans ?? []) state.plans.set(plan.id, plan);
  if (changes.blocked !== undefined) state.blocked = new BlockedList(changes.blocked);
  if (changes.rules !== undefined) state.dialPlan = new DialPlan(changes.rules);
  for (const id of changes.gone ?? []) remove(state, id);
  if (touches(changes, withDigits)) deriveDigits(state);
  if (touches(changes, withExtension)) deriveExtensions(state);
  linkCampaigns(state);
  if (touches(changes, withLines)) refreshOutside(state);
}

/** Kinds of items by whose change numbers, extensions and teams, and people outside are reached otherwise. */
const withDigits = ['numbers', 'gone'] as const;
const withExtension = [
  ...(['people', 'queues', 'ringGroups', 'outsideNumbers', 'rooms', 'faxBoxes', 'voicemailBoxes'] as const),
  'gone',
] as const;
const withLines = ['phones', 'trunks', 'gone'] as const;
const touches = (changes: ConfigurationChanges, kinds: readonly (keyof ConfigurationChanges)[]) =>
  kinds.some((kind) => changes[kind] !== undefined);

function changeTrunk(state: State, item: TrunkItem): void {
  const trunk = state.trunks.get(item.id);
  if (trunk !== undefined) {
    trunk.item = item;
    return;
  }
  const fresh = new Trunk(item);
  // Calls it carried when it was taken out may still be on.
  for (const call of state.calls.values())
    fresh.inUse += call.legs.filter((leg) => leg.trunkId === item.id).length;
  state.trunks.set(item.id, fresh);
}

/** A campaign that is paused gives its contacts back; one whose settings changed asks for contacts afresh. */
function changeCampaign(state: State, item: CampaignItem): void {
  const campaign = state.campaigns.get(item.id);
  if (campaign === undefined) {
    state.campaigns.set(item.id, new Campaign(item));
    return;
  }
  campaign.item = item;
  if (item.running) askAfresh(state, campaign);
  else stopCampaign(state, campaign);
}

/** Who is reached over which trunk, and whether they can be, after any change. */
function refreshOutside(state: State): void {
  deriveTrunkAgents(state);
  for (const phone of state.phones.values()) {
    const agent = state.agents.get(phone.item.personId);
    if (phone.item.kind !== 'outside' || agent === undefined) continue;
    lookAtPhonesAgain(state, agent);
  }
}

/** Somebody who comes back may find phones of theirs that stayed. */
function isOneOf(state: State, phone: Phone, fresh: ReadonlySet<Agent>): boolean {
  const agent = state.agents.get(phone.item.personId);
  return agent !== undefined && fresh.has(agent);
}

function changePerson(state: State, person: PersonItem, made: Set<Agent>): void {
  const agent = state.agents.get(person.id);
  if (agent === undefined) {
    const fresh = new Agent(person);
    fresh.presenceSince = state.now;
    state.agents.set(person.id, fresh);
    made.add(fresh);
    return;
  }
  agent.person = person;
  agent.revision++;
  agent.retired = false;
  for (const membership of agent.memberships) membership.compareSkills();
  reindexAgent(state, agent);
  serveLater(state, agent);
}

function changePhone(state: State, item: PhoneItem): void {
  const known = state.phones.get(item.id);
  if (known !== undefined) {
    const before = known.item.personId;
    known.item = item;
    if (before !== item.personId) {
      const owner = state.agents.get(before);
      if (owner !== undefined) takePhone(state, owner, known);
      givePhone(state, known);
    }
    return;
  }
  const phone: Phone = {
    item,
    order: state.phoneCount++,
    registration: 'unregistered',
    since: state.now,
    why: 'never registered',
    address: null,
  };
  state.phones.set(item.id, phone);
  givePhone(state, phone);
}

/** Phones of a person stand in the order of all phones, as they do after a restart. */
function givePhone(state: State, phone: Phone): void {
  const agent = state.agents.get(phone.item.personId);
  if (agent === undefined) return;
  agent.phones.push(phone);
  agent.phones.sort((one, other) => one.order - other.order);
  lookAtPhonesAgain(state, agent);
}

function takePhone(state: State, owner: Agent, phone: Phone): void {
  owner.phones = owner.phones.filter((each) => each !== phone);
  if (owner.chosenPhoneId === phone.item.id) owner.chosenPhoneId = null;
  refreshPhoneFacts(state, owner);
  reindexAgent(state, owner);
}

function changeQueue(state: State, item: QueueItem): void {
  let queue = state.queues.get(item.id);
  if (queue === undefined) {
    queue = new QueueState(item);
    state.queues.set(item.id, queue);
  }
  const membersChanged = queue.members.length === 0 || queue.item.members.join() !== item.members.join();
  const orderChanged = [item, queue.item].map(orderOf);
  queue.item = item;
  queue.retired = false;
  if (membersChanged || orderChanged[0] !== orderChanged[1]) changeMembers(state, queue);
  // Also when only the way out for nobody signed in is new: who waits takes it now.
  lookWhoIsLeft(state, queue);
}

/** What, besides who they are, decides in which order members and callers stand, and who is rung at all. */
function orderOf(item: QueueItem): string {
  const { skills, distribution, turns, hoursId, joinsAfter, agePoints } = item;
  const { ringsAway, ringsInWrapUp, mostTexts } = item;
  return JSON.stringify([
    ...[skills, distribution, turns, hoursId, joinsAfter, agePoints],
    ...[ringsAway, ringsInWrapUp, mostTexts],
  ]);
}

function changeMembers(state: State, queue: QueueState): void {
  for (const membership of queue.members) leaveQueueOf(membership);
  queue.lastAnswered = standsNow(queue);
  queue.members = [];
  queue.orderAnew();
  takePlacesAnew(state, queue);
  queue.signedIn = 0;
  queue.idleAutoAnswering = 0;
  queue.reasonCounts.fill(0);
  queue.item.members.forEach((personId, order) => {
    const agent = state.agents.get(personId);
    if (agent === undefined || agent.retired) return;
    joinQueue(new Membership(agent, queue, order), state.now);
    serveLater(state, agent);
  });
}

/** The new place of who answered last, or of the nearest before them who is still a member. */
function standsNow({ members, lastAnswered, item }: QueueState): number {
  const before = members.filter(({ order }) => order <= lastAnswered).reverse();
  return before.map(({ personId }) => item.members.indexOf(personId)).find((order) => order >= 0) ?? -1;
}

function remove(state: State, id: string): void {
  const agent = state.agents.get(id);
  if (agent !== undefined) retirePerson(state, agent);
  const phone = state.phones.get(id);
  if (phone !== undefined) {
    state.phones.delete(id);
    const owner = state.agents.get(phone.item.personId);
    if (owner !== undefined) takePhone(state, owner, phone);
  }
  const queue = state.queues.get(id);
  if (queue !== undefined) retireQueue(state, queue);
  const campaign = state.campaigns.get(id);
  if (campaign !== undefined) {
    stopCampaign(state, campaign);
    state.campaigns.delete(id);
  }
  state.numbers.delete(id);
  state.boxes.delete(id);
  state.messages.delete(id);
  state.outsideNumbers.delete(id);
  state.rooms.delete(id);
  state.ringGroups.delete(id);
  state.faxBoxes.delete(id);
  state.codes.delete(id);
  state.hours.delete(id);
  state.prompts.delete(id);
  state.regions.delete(id);
  state.bots.delete(id);
  state.plans.delete(id);
  state.trunks.delete(id);
}

function retirePerson(state: State, agent: Agent): void {
  agent.retired = true;
  takeOffDuty(state, agent);
  closePersistentLine(state, agent, 'exchange');
  leaveRinging(state, agent, 'personRetired');
  if (agent.reservedFor !== null) cancelReservation(state, agent.reservedFor);
  for (const membership of [...agent.memberships]) {
    const queue = membership.queue;
    if (membership.firstReason >= 0) queue.reasonCounts[membership.firstReason]!--;
    queue.members.splice(queue.members.indexOf(membership), 1);
    leaveQueueOf(membership);
    lookWhoIsLeft(state, queue);
  }
  if (agent.calls.length === 0) forgetAgent(state, agent);
}

function retireQueue(state: State, queue: QueueState): void {
  queue.retired = true;
  for (const membership of queue.members) leaveQueueOf(membership);
  queue.members = [];
  emptyQueue(state, queue, 'queueRetired');
  state.queues.delete(queue.item.id);
}

/** Digits to numbers, extensions to destinations and teams to their people. */
export function deriveRoutes(state: State): void {
  deriveDigits(state);
  deriveExtensions(state);
}

function deriveDigits(state: State): void {
  state.numberByDigits = new Map([...state.numbers.values()].map((number) => [number.e164, number]));
}

function deriveExtensions(state: State): void {
  state.extensions = new Map();
  state.teams = new Map();
  for (const queue of state.queues.values()) {
    if (queue.item.extension !== null)
      state.extensions.set(queue.item.extension, { kind: 'queue', id: queue.item.id });
  }
  for (const agent of state.agents.values()) {
    if (agent.retired) continue;
    const { extension, teamId, id } = agent.person;
    if (extension !== null) state.extensions.set(extension, { kind: 'person', id });
    if (teamId !== null) {
      const team = state.teams.get(teamId);
      if (team === undefined) state.teams.set(teamId, [agent]);
      else team.push(agent);
    }
  }
  for (const { item } of state.ringGroups.values())
    if (item.extension !== null) state.extensions.set(item.extension, { kind: 'ringGroup', id: item.id });
  const places = [
    ['outside', state.outsideNumbers],
    ['room', state.rooms],
    ['fax', state.faxBoxes],
    ['voicemail', state.boxes],
  ] as const;
  for (const [kind, items] of places)
    for (const { id, extension } of items.values())
      if (extension !== null) state.extensions.set(extension, { kind, id });
}
