import type { CompiledPlan } from '../../model/plan.ts';
import { planKey } from '../../plan/graph.ts';
import {
  agentId,
  asIs,
  campaignId,
  type Codec,
  type CodecsOf,
  copied,
  derived,
  listOf,
  loadFields,
  nullable,
  queueId,
  type SavedBy,
  saveFields,
  timers,
} from '../kernel/codecs.ts';
import type { Slice } from '../kernel/slice.ts';
import { timerOf } from '../kernel/timers.ts';
import type { Offer } from '../offers/offer.ts';
import type { Agent } from '../agents/agent.ts';
import { type Activity, activityAt, type ActivityBody } from './activity.ts';
import { consultedIn, offerOf } from './resting.ts';
import { Call, type Frame } from './call.ts';
import { whyNobodyCould } from '../queues/ways-out.ts';
import { isOffLine, pausesBeforeRinging } from '../queues/place.ts';

interface SavedOffer extends Omit<Offer, 'parts'> {
  parts: { agent: string; legId: string; until: number }[];
}

/** An activity as data: people are named by their id. */
export type SavedActivity = { since: number } & (
  | Exclude<ActivityBody, { offer: unknown }>
  | { kind: 'offered' | 'lineOffered'; offer: SavedOffer }
  | { kind: 'consulting'; consulted: string; offer: SavedOffer | null }
);

const offer: Codec<Offer, SavedOffer> = {
  save: ({ parts, ...rest }) => ({
    ...rest,
    parts: parts.map((part) => ({ ...part, agent: agentId.save(part.agent) })),
  }),
  load: ({ parts, ...rest }, links, owner) => ({
    ...rest,
    parts: parts.map((part) => ({ ...part, agent: agentId.load(part.agent, links, owner) })),
  }),
};

const data = copied<unknown>();

const activity: Codec<Activity, SavedActivity> = {
  save: ({ kind, since, ...value }) => {
    const body = Object.entries(value).flatMap(([name, each]) => {
      if (each === null) return [];
      if (name === 'offer') return [[name, offer.save(each as Offer)]];
      return [[name, name === 'consulted' ? agentId.save(each as Agent) : data.save(each)]];
    });
    return { kind, since, ...Object.fromEntries(body) } as SavedActivity;
  },
  load: ({ since, ...saved }, links, owner) =>
    activityAt(since, {
      ...(data.load(saved, links, owner) as ActivityBody),
      ...('offer' in saved && saved.offer !== null ? { offer: offer.load(saved.offer, links, owner) } : {}),
      ...('consulted' in saved ? { consulted: agentId.load(saved.consulted, links, owner) } : {}),
    } as ActivityBody),
};

const frame: Codec<Frame, { plan: string; stepId: string; memory: unknown }> = {
  save: ({ plan, stepId, memory }) => ({ plan: planKey(plan), stepId, memory: data.save(memory) }),
  load: ({ plan, stepId, memory }, { plans }) => ({ plan: plans.get(plan)!, stepId, memory }),
};

const codecs = {
  heapIndex: derived,
  id: asIs<string>(),
  direction: asIs<Call['direction']>(),
  to: asIs<string>(),
  from: asIs<string>(),
  callerName: asIs<string | null>(),
  priority: asIs<number>(),
  arrivedAt: asIs<number>(),
  standIn: asIs<boolean>(),
  record: asIs<Call['record']>(),
  campaign: nullable(campaignId),
  contact: asIs<Call['contact']>(),
  language: asIs<string | null>(),
  keys: copied<string[]>(),
  afterTalk: nullable(frame),
  talkIsOver: asIs<boolean>(),
  recordingWish: copied<Call['recordingWish']>(),
  toldOfRecording: asIs<boolean>(),
  recording: copied<Call['recording']>(),
  recordings: asIs<number>(),
  whenLeft: copied<Call['whenLeft']>(),
  found: copied<Call['found']>(),
  asks: asIs<number>(),
  numberId: asIs<string | null>(),
  sourceId: asIs<string | null>(),
  activity,
  route: listOf(frame),
  passed: asIs<number>(),
  fallback: asIs<Call['fallback']>(),
  lastDestination: asIs<Call['lastDestination']>(),
  noAnswerPath: copied<Call['noAnswerPath']>(),
  legs: copied<Call['legs']>(),
  legCount: asIs<number>(),
  bridge: copied<Call['bridge']>(),
  bridgeCount: asIs<number>(),
  queue: nullable(queueId),
  lastQueueId: asIs<string | null>(),
  lastGroupId: asIs<string | null>(),
  enteredAt: asIs<number>(),
  joinedAt: asIs<number>(),
  queuedMs: asIs<number | null>(),
  stage: derived,
  waitsSince: asIs<number | null>(),
  overflows: asIs<number>(),
  callBack: copied<Call['callBack']>(),
  callBackAskedUntil: asIs<number | null>(),
  overdue: asIs<boolean>(),
  tried: copied<string[]>(),
  offers: asIs<number>(),
  talkingAgent: nullable(agentId),
  inAir: asIs<boolean>(),
  reservedAgent: nullable(agentId),
  answeredAt: asIs<number | null>(),
  talkedMs: asIs<number>(),
  transferredBy: asIs<string | null>(),
  usages: copied<Call['usages']>(),
  liftedAt: asIs<number | null>(),
  greetedAt: asIs<number | null>(),
  abandoned: asIs<boolean>(),
  timers,
} satisfies CodecsOf<Call>;

export type SavedCall = SavedBy<typeof codecs>;

export interface Data {
  calls: SavedCall[];
  /** Those that calls in progress have pinned. */
  plans: CompiledPlan[];
}

export const callsSlice: Slice<Data> = {
  name: 'calls',
  version: 6,
  migrate: {
    1: ({ calls, ...data }: Data) => ({
      ...data,
      calls: calls.map((call) => ({ ...call, language: null })),
    }),
    2: ({ calls, ...data }: Data) => ({
      ...data,
      calls: calls.map((call) => ({ ...call, keys: [], asks: 0, afterTalk: null, talkIsOver: false })),
    }),
    3: ({ calls, ...data }: Data) => ({
      ...data,
      calls: calls.map((call) => ({
        ...call,
        ...{ recordingWish: null, toldOfRecording: false, recording: null, recordings: 0 },
        ...{ whenLeft: [], found: {} },
      })),
    }),
    4: ({ calls, ...data }: Data) => ({
      ...data,
      calls: calls.map((call) => ({
        ...call,
        joinedAt: call.enteredAt,
        queuedMs: null,
        waitsSince: null,
        overflows: 0,
        ...{ callBack: null, callBackAskedUntil: null },
      })),
    }),
    5: ({ calls, ...data }: Data) => ({
      ...data,
      calls: calls.map((call) => ({ ...call, lastGroupId: null })),
    }),
  },
  save: (state) => {
    const calls = [...state.calls.values()];
    const plans = new Map<string, CompiledPlan>();
    for (const { route, afterTalk } of calls)
      for (const { plan } of afterTalk === null ? route : [...route, afterTalk])
        plans.set(planKey(plan), plan);
    return { calls: calls.map((call) => saveFields(codecs, call)), plans: [...plans.values()] };
  },
  make: ({ calls, plans }, state, links) => {
    for (const plan of plans) links.plans.set(planKey(plan), plan);
    for (const { id, direction, to, from, callerName, arrivedAt } of calls)
      state.calls.set(
        id,
        new Call({ id, direction, to, from, callerName }, arrivedAt, activityAt(arrivedAt, { kind: 'step' })),
      );
  },
  fill: ({ calls }, state, links) => {
    for (const saved of calls) loadFields(codecs, state.calls.get(saved.id)!, saved, links);
  },
  derive: (state) => {
    for (const call of state.calls.values()) {
      const offered = offerOf(call);
      for (const { agent } of offered?.parts ?? []) {
        agent.ringing = call;
        agent.ringingSince = offered!.since;
      }
      if (call.reservedAgent !== null) call.reservedAgent.reservedFor = call;
      for (const leg of call.legs) {
        const trunk = state.trunks.get(leg.trunkId ?? '');
        if (trunk !== undefined) trunk.inUse++;
      }
    }
  },
  invariants: (state) => [...state.calls.values()].flatMap(brokenCall),
};

function brokenCall(call: Call): string[] {
  const broken: string[] = [];
  const { activity: at, bridge } = call;
  const offered = offerOf(call);
  const ringing = call.legs
    .filter(({ party, state }) => party === 'agent' && (state === 'ringing' || state === 'confirming'))
    .map((leg) => leg.id);
  if (at.kind === 'ended') broken.push(`call ${call.id} has ended and is still here`);
  if (at.kind === 'step' && timerOf(call, 'activity') === null)
    broken.push(`call ${call.id} rests in a step that nothing will end`);
  if (ringing.join() !== (offered?.parts ?? []).map(({ legId }) => legId).join())
    broken.push(`call ${call.id} rings ${ringing.join()} while ${at.kind}`);
  if (offered !== null && offered.parts.length === 0) broken.push(`call ${call.id} is offered to nobody`);
  if (offered !== null && timerOf(call, 'activity') === null)
    broken.push(`call ${call.id} rings without an end`);
  const consulted = consultedIn(call);
  // Who dialled out themselves is held by their own other calls.
  if (
    call.direction === 'inbound' &&
    at.kind !== 'callingBack' &&
    (consulted !== null) !== (call.legs[0]?.state === 'held')
  )
    broken.push(`call ${call.id} holds its caller, consulting or not`);
  if (consulted !== null && offered === null && !consulted.calls.includes(call))
    broken.push(`call ${call.id} consults somebody who does not know`);
  const onLine = call.legs.some(({ party }) => party === 'caller');
  if (call.direction === 'inbound' && !onLine && (call.callBack === null || at.kind === 'bridged'))
    broken.push(`call ${call.id} has no caller`);
  const bridged = ['bridged', 'bridgedOutside'].includes(at.kind) || (consulted !== null && offered === null);
  if (bridged !== (bridge !== null)) broken.push(`call ${call.id} is ${at.kind}, bridge or not`);
  if (bridge?.members.some(({ leg }) => !call.legs.some((each) => each.id === leg)) === true)
    broken.push(`call ${call.id} bridges a leg it does not have`);
  const inOrder = at.kind === 'waiting' && !pausesBeforeRinging(call);
  if (inOrder !== call.heapIndex >= 0) broken.push(`call ${call.id} waits outside its queue`);
  if (
    call.direction === 'inbound' &&
    at.kind === 'waiting' &&
    call.queue !== null &&
    !isOffLine(call) &&
    whyNobodyCould(call.queue) !== null
  )
    broken.push(`call ${call.id} waits where nobody could come`);
  if (call.direction === 'inbound' && call.route.length === 0) broken.push(`call ${call.id} is in no plan`);
  if (call.recording !== null && call.recording.personId !== call.talkingAgent?.person.id)
    broken.push(`call ${call.id} records somebody who does not talk`);
  const answered = call.direction === 'outbound' && (at.kind === 'waiting' || at.kind === 'offered');
  if (answered !== (timerOf(call, 'connectBy') !== null))
    broken.push(`call ${call.id} has a contact on the line and no time by which an agent must come`);
  return broken;
}
