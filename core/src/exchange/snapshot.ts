import type { DiallingRule } from '../dialling/rules.ts';
import type {
  ExchangeSettings,
  FaxBoxItem,
  NumberItem,
  OutsideNumberItem,
  RoomItem,
  TrunkItem,
  VoicemailBoxItem,
} from '../model/configuration.ts';
import type { Bridge, Chain, Leg } from './call-parts.ts';
import type { Agent, Call, Campaign, Phone, QueueState, State, Timer } from './state.ts';
import type { TimerKind } from './timers.ts';

/** A timer as data; its owner is the entity it stands with. */
export interface SavedTimer {
  at: number;
  order: number;
  kind: TimerKind;
}

/** Fields that are data as they are, and are copied one by one. */
const agentFields = [
  'person',
  'retired',
  'presence',
  'awayReason',
  'presenceSince',
  'idleSince',
  'talkingSince',
  'wrapUpSince',
  'misses',
  'chosenPhoneId',
] as const;

const callFields = [
  'id',
  'direction',
  'to',
  'from',
  'callerName',
  'priority',
  'arrivedAt',
  'standIn',
  'record',
  'contact',
  'numberId',
  'sourceId',
  'stage',
  'stageSince',
  'steps',
  'fallback',
  'lastDestination',
  'legCount',
  'bridgeCount',
  'lastQueueId',
  'enteredAt',
  'overdue',
  'offers',
  'answeredAt',
  'talkedMs',
  'handedOverBy',
  'ways',
  'chain',
  'inAir',
  'liftedAt',
  'greetedAt',
  'abandoned',
  'voicemailBoxId',
  'messageFrom',
  'outward',
  'roomId',
  'keys',
  'keyTries',
  'pickedUp',
] as const;

const campaignFields = ['item', 'asked', 'exhausted'] as const;

export type SavedAgent = Pick<Agent, (typeof agentFields)[number]> & {
  calls: string[];
  line: string | null;
  wrapUpTimer: SavedTimer | null;
  restTimer: SavedTimer | null;
};

export type SavedCall = Pick<Call, (typeof callFields)[number]> & {
  legs: Leg[];
  bridge: Bridge | null;
  tried: string[];
  queueId: string | null;
  campaignId: string | null;
  ringingAgent: string | null;
  talkingAgent: string | null;
  announcedTo: string | null;
  keptAgent: string | null;
  maxWaitTimer: SavedTimer | null;
  ringTimer: SavedTimer | null;
  connectByTimer: SavedTimer | null;
  messageTimer: SavedTimer | null;
};

export type SavedCampaign = Pick<Campaign, (typeof campaignFields)[number] | 'buffer' | 'tallies'> & {
  /** No longer in the set-up; a call of it is still on. */
  gone: boolean;
  askTimer: SavedTimer | null;
};

/** The whole state as data. Heaps, indexes and counts are left out: they follow from the rest. */
export interface ExchangeSnapshot {
  now: number;
  seq: number;
  timerCount: number;
  settings: ExchangeSettings;
  agents: SavedAgent[];
  phones: Phone[];
  queues: Pick<QueueState, 'item' | 'retired'>[];
  numbers: NumberItem[];
  boxes: VoicemailBoxItem[];
  trunks: TrunkItem[];
  outsideNumbers: OutsideNumberItem[];
  rooms: RoomItem[];
  faxBoxes: FaxBoxItem[];
  rules: readonly DiallingRule[];
  campaigns: SavedCampaign[];
  optedOut: [e164: string, at: number][];
  calls: SavedCall[];
}

export function takeSnapshot(state: State): ExchangeSnapshot {
  const calls = [...state.calls.values()];
  const queues = new Set(state.queues.values());
  const campaigns = new Set(state.campaigns.values());
  for (const { queue, campaign } of calls) {
    if (queue !== null) queues.add(queue);
    if (campaign !== null) campaigns.add(campaign);
  }
  return {
    now: state.now,
    seq: state.seq,
    timerCount: state.timerCount,
    settings: state.settings,
    agents: [...state.agents.values()].map(saveAgent),
    phones: [...state.phones.values()].map((phone) => ({ ...phone })),
    queues: [...queues].map(({ item, retired }) => ({ item, retired })),
    numbers: [...state.numbers.values()],
    boxes: [...state.boxes.values()],
    trunks: [...state.trunks.values()].map((trunk) => trunk.item),
    outsideNumbers: [...state.outsideNumbers.values()],
    rooms: [...state.rooms.values()],
    faxBoxes: [...state.faxBoxes.values()],
    rules: state.dialPlan.rules,
    campaigns: [...campaigns].map((campaign) => saveCampaign(campaign, state)),
    optedOut: [...state.optedOut],
    calls: calls.map(saveCall),
  };
}

function saveAgent(agent: Agent): SavedAgent {
  return {
    ...pick(agent, agentFields),
    calls: agent.calls.map((call) => call.id),
    line: agent.line === null ? null : agent.line.id,
    wrapUpTimer: saveTimer(agent.wrapUpTimer),
    restTimer: saveTimer(agent.restTimer),
  };
}

function saveCall(call: Call): SavedCall {
  const person = (agent: Agent | null) => (agent === null ? null : agent.person.id);
  return {
    ...pick(call, callFields),
    outward: call.outward === null ? null : { ...call.outward, trunkIds: [...call.outward.trunkIds] },
    chain: copyChain(call.chain),
    ways: call.ways.map((way) => ({ ...way })),
    legs: call.legs.map((leg) => ({ ...leg })),
    bridge: call.bridge === null ? null : { id: call.bridge.id, legs: [...call.bridge.legs] },
    tried: [...call.tried],
    queueId: call.queue === null ? null : call.queue.item.id,
    campaignId: call.campaign === null ? null : call.campaign.item.id,
    ringingAgent: person(call.ringingAgent),
    talkingAgent: person(call.talkingAgent),
    announcedTo: person(call.announcedTo),
    keptAgent: person(call.keptAgent),
    maxWaitTimer: saveTimer(call.maxWaitTimer),
    ringTimer: saveTimer(call.ringTimer),
    connectByTimer: saveTimer(call.connectByTimer),
    messageTimer: saveTimer(call.messageTimer),
  };
}

export function copyChain(chain: Chain | null): Chain | null {
  return chain === null ? null : { ...chain, left: [...chain.left], rung: [...chain.rung] };
}

function saveCampaign(campaign: Campaign, state: State): SavedCampaign {
  return {
    ...pick(campaign, campaignFields),
    buffer: [...campaign.buffer],
    tallies: campaign.tallies.map((tally) => ({ ...tally })),
    gone: state.campaigns.get(campaign.item.id) !== campaign,
    askTimer: saveTimer(campaign.askTimer),
  };
}

function saveTimer(timer: Timer | null): SavedTimer | null {
  return timer === null ? null : { at: timer.at, order: timer.order, kind: timer.kind };
}

function pick<T, Key extends keyof T>(from: T, keys: readonly Key[]): Pick<T, Key> {
  return Object.fromEntries(keys.map((key) => [key, from[key]])) as Pick<T, Key>;
}

/** The fields of a saved agent, call or campaign that are put back as they are. */
export const savedAs = {
  agent: (saved: SavedAgent) => pick(saved, agentFields),
  call: (saved: SavedCall) => pick(saved, callFields),
  campaign: (saved: SavedCampaign) => pick(saved, campaignFields),
};
