import { DialPlan } from '../dialling/rules.ts';
import { firstReasonIndex } from '../distribute/eligibility.ts';
import { refreshPhoneFacts } from './agents.ts';
import { deriveRoutes, deriveTrunkAgents, join } from './configuration.ts';
import {
  type ExchangeSnapshot,
  type SavedAgent,
  copyChain,
  savedAs,
  type SavedCall,
  type SavedCampaign,
  type SavedTimer,
} from './snapshot.ts';
import { Agent, Call, Campaign, Membership, QueueState, type State, type Timer, Trunk } from './state.ts';

/** Fills the empty `state` from a snapshot. */
export function restoreState(snapshot: ExchangeSnapshot, state: State): State {
  state.now = snapshot.now;
  state.seq = snapshot.seq;
  state.timerCount = snapshot.timerCount;
  state.settings = snapshot.settings;
  for (const box of snapshot.boxes) state.boxes.set(box.id, box);
  for (const number of snapshot.numbers) state.numbers.set(number.id, number);
  for (const trunk of snapshot.trunks) state.trunks.set(trunk.id, new Trunk(trunk));
  for (const outside of snapshot.outsideNumbers) state.outsideNumbers.set(outside.id, outside);
  for (const room of snapshot.rooms) state.rooms.set(room.id, room);
  for (const box of snapshot.faxBoxes) state.faxBoxes.set(box.id, box);
  state.dialPlan = new DialPlan(snapshot.rules);
  for (const [e164, at] of snapshot.optedOut) state.optedOut.set(e164, at);
  for (const saved of snapshot.agents) state.agents.set(saved.person.id, restoreAgent(state, saved));
  for (const saved of snapshot.phones) {
    const phone = { ...saved };
    state.phones.set(phone.item.id, phone);
    state.agents.get(phone.item.personId)?.phones.push(phone);
  }
  const queues = new Map<string, QueueState>();
  for (const { item, retired } of snapshot.queues) {
    const queue = new QueueState(item);
    queue.retired = retired;
    queues.set(item.id, queue);
    if (!retired) state.queues.set(item.id, queue);
  }
  const campaigns = new Map<string, Campaign>();
  for (const saved of snapshot.campaigns) {
    const campaign = restoreCampaign(state, saved);
    campaigns.set(saved.item.id, campaign);
    if (!saved.gone) state.campaigns.set(saved.item.id, campaign);
  }
  for (const saved of snapshot.calls) restoreCall(state, saved, queues, campaigns);
  deriveTrunkAgents(state);
  for (const saved of snapshot.agents) {
    const agent = state.agents.get(saved.person.id)!;
    agent.calls = saved.calls.map((id) => state.calls.get(id)!);
    agent.line = saved.line === null ? null : state.calls.get(saved.line)!;
    refreshPhoneFacts(state, agent);
    agent.firstReason = firstReasonIndex(agent, state.now);
    if (agent.presence !== 'signedOut') state.signedIn++;
  }
  for (const queue of state.queues.values()) restoreMembers(state, queue);
  deriveRoutes(state);
  return state;
}

function restoreTimer(state: State, owner: Timer['owner'], saved: SavedTimer | null): Timer | null {
  if (saved === null) return null;
  const timer: Timer = { ...saved, owner, heapIndex: -1 };
  state.timers.push(timer);
  return timer;
}

function restoreAgent(state: State, saved: SavedAgent): Agent {
  const agent = Object.assign(new Agent(saved.person), savedAs.agent(saved));
  agent.wrapUpTimer = restoreTimer(state, agent, saved.wrapUpTimer);
  agent.wrapUpUntil = saved.wrapUpTimer?.at ?? 0;
  agent.restTimer = restoreTimer(state, agent, saved.restTimer);
  agent.restsUntil = saved.restTimer?.at ?? 0;
  return agent;
}

function restoreCampaign(state: State, saved: SavedCampaign): Campaign {
  const campaign = Object.assign(new Campaign(saved.item), savedAs.campaign(saved));
  campaign.buffer = [...saved.buffer];
  campaign.tallies = saved.tallies.map((tally) => ({ ...tally }));
  campaign.askTimer = restoreTimer(state, campaign, saved.askTimer);
  return campaign;
}

function restoreCall(
  state: State,
  saved: SavedCall,
  queues: Map<string, QueueState>,
  campaigns: Map<string, Campaign>,
): void {
  const campaign = saved.campaignId === null ? null : campaigns.get(saved.campaignId)!;
  const start = { ...saved, at: saved.arrivedAt, campaign };
  const call = Object.assign(new Call(start), savedAs.call(saved));
  const agent = (id: string | null) => (id === null ? null : (state.agents.get(id) ?? null));
  state.calls.set(call.id, call);
  call.outward = saved.outward === null ? null : { ...saved.outward, trunkIds: [...saved.outward.trunkIds] };
  call.chain = copyChain(saved.chain);
  call.ways = saved.ways.map((way) => ({ ...way }));
  call.legs = saved.legs.map((leg) => ({ ...leg }));
  call.bridge = saved.bridge === null ? null : { id: saved.bridge.id, legs: [...saved.bridge.legs] };
  call.tried = [...saved.tried];
  call.queue = saved.queueId === null ? null : (queues.get(saved.queueId) ?? null);
  call.maxWaitTimer = restoreTimer(state, call, saved.maxWaitTimer);
  call.ringTimer = restoreTimer(state, call, saved.ringTimer);
  call.connectByTimer = restoreTimer(state, call, saved.connectByTimer);
  call.messageTimer = restoreTimer(state, call, saved.messageTimer);
  call.talkingAgent = agent(saved.talkingAgent);
  call.announcedTo = agent(saved.announcedTo);
  call.ringingAgent = agent(saved.ringingAgent);
  call.keptAgent = agent(saved.keptAgent);
  if (call.ringingAgent !== null) call.ringingAgent.ringing = call;
  if (call.keptAgent !== null) call.keptAgent.keptFor = call;
  for (const leg of call.legs) {
    const trunk = state.trunks.get(leg.trunkId ?? '');
    if (trunk !== undefined) trunk.inUse++;
  }
  countIn(call);
}

/** What the queue and the campaign count of a call in progress. */
function countIn(call: Call): void {
  const queue = call.queue;
  if (queue === null) return;
  if (call.inAir) {
    call.campaign!.inAir++;
    if (call.keptAgent === null) queue.inAir++;
    else queue.keeping++;
  }
  if (call.stage === 'waiting') (call.direction === 'outbound' ? queue.answered : queue.waiting).push(call);
  if (call.stage === 'ringing' && call.direction === 'inbound') queue.offering++;
}

function restoreMembers(state: State, queue: QueueState): void {
  queue.item.members.forEach((personId, order) => {
    const agent = state.agents.get(personId);
    if (agent === undefined || agent.retired) return;
    const membership = new Membership(agent, queue, order);
    queue.members.push(membership);
    agent.memberships.push(membership);
    join(membership);
  });
}
