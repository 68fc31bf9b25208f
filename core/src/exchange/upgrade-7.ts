import type { Configuration, NumberItem, PersonItem } from '../model/configuration.ts';
import type { Destination, NoAnswerStep } from '../model/destination.ts';
import type { CompiledPlan } from '../model/plan.ts';
import { planOf, planTo, planWhenNobodyLifts } from '../plan/compile.ts';
import { planKey } from '../plan/graph.ts';
import type { RouteAttempt } from './calls/activity.ts';
import type { SavedActivity, SavedCall } from './calls/calls.slice.ts';
import type { SavedTimer } from './kernel/codecs.ts';
import type { Leg } from './media/leg.ts';
import { carryBox } from './upgrade-9.ts';
import { engineVersion, type ExchangeSnapshot } from './snapshot.ts';

/** A plan as it was before its steps had exits; a state or a log may still hold one. */
type OldPlan = Pick<CompiledPlan, 'id' | 'version' | 'fallback'> & {
  steps: { destination: Destination }[];
};

interface OldTimer {
  at: number;
  order: number;
}

type Same<T, Names extends keyof T> = Pick<T, Names>;

/** Calls of the engines up to version 7: a stage, and whatever any stage needed beside it. */
type OldCall = Same<
  SavedCall,
  | ('id' | 'direction' | 'to' | 'from' | 'callerName' | 'priority' | 'arrivedAt' | 'standIn' | 'record')
  | ('contact' | 'numberId' | 'sourceId' | 'fallback' | 'lastDestination' | 'legCount' | 'bridgeCount')
  | ('lastQueueId' | 'enteredAt' | 'overdue' | 'offers' | 'answeredAt' | 'talkedMs' | 'inAir' | 'liftedAt')
  | ('greetedAt' | 'abandoned' | 'legs' | 'tried')
> & {
  stage: string;
  stageSince: number;
  steps: number;
  handedOverBy: string | null;
  ways: SavedCall['usages'];
  chain: { personId: string; left: NoAnswerStep[]; rung: string[]; declined: boolean } | null;
  voicemailBoxId: string | null;
  messageFrom: number;
  outward: RouteAttempt | null;
  roomId: string | null;
  keys: string;
  keyTries: number;
  /** Not before version 7. */
  pickedUp?: boolean;
  bridge: { id: string; legs: string[] } | null;
  queueId: string | null;
  campaignId: string | null;
  ringingAgent: string | null;
  talkingAgent: string | null;
  announcedTo: string | null;
  keptAgent: string | null;
  maxWaitTimer: OldTimer | null;
  ringTimer: OldTimer | null;
  connectByTimer: OldTimer | null;
  messageTimer: OldTimer | null;
};

type Slices = ExchangeSnapshot['slices'];
type SavedAgent = Slices['agents']['data']['agents'][number];
type SavedCampaign = Slices['outbound']['data']['campaigns'][number];

/** The whole state as the engines 6 and 7 saved it. */
export interface Version7 {
  now: number;
  seq: number;
  timerCount: number;
  settings: Omit<Configuration['settings'], 'backOffAfterNoAnswerSeconds' | 'backOffAfterDeclineSeconds'> & {
    restAfterNoAnswerSeconds: number;
    restAfterDeclineSeconds: number;
  };
  agents: (Omit<SavedAgent, 'revision' | 'persistentLine' | 'timers'> & {
    line: string | null;
    wrapUpTimer: OldTimer | null;
    restTimer: OldTimer | null;
  })[];
  phones: Slices['agents']['data']['phones'];
  queues: Slices['queues']['data'];
  numbers: (Omit<NumberItem, 'plan'> & { plan: OldPlan | null })[];
  boxes: { id: string; name: string; greetingSeconds: number; maxMessageSeconds: number }[];
  trunks: Configuration['trunks'];
  outsideNumbers: Configuration['outsideNumbers'];
  rooms: Configuration['rooms'];
  faxBoxes: Configuration['faxBoxes'];
  rules: Configuration['rules'];
  campaigns: (Omit<SavedCampaign, 'timers'> & { askTimer: OldTimer | null })[];
  optedOut: [string, number][];
  calls: OldCall[];
}

/** A plan of before, when it is one, in the shape of today. */
export function carryPlan(plan: CompiledPlan | OldPlan | null): CompiledPlan | null {
  if (plan === null || !Array.isArray(plan.steps)) return plan as CompiledPlan | null;
  const { id, version, fallback, steps } = plan as OldPlan;
  return { ...planOf(id, version, steps[0]?.destination ?? fallback), fallback };
}

/** The state of the engines 6 and 7 in the first shape of version 8: each call rests in an activity, in a step of a plan. */
export function carryVersion7(old: Version7): ExchangeSnapshot {
  const { restAfterNoAnswerSeconds, restAfterDeclineSeconds, ...settings } = old.settings;
  const people = new Map(old.agents.map(({ person }) => [person.id, person]));
  const routes = new Map(old.calls.map((call) => [call.id, routeOf(call, people)]));
  const plans = new Map(
    [...routes.values()].flatMap((plan) => (plan === null ? [] : [[planKey(plan), plan]])),
  );
  const slice = <Data>(data: Data) => ({ version: 1, data });
  return {
    engine: engineVersion,
    now: old.now,
    seq: old.seq,
    timerCount: old.timerCount,
    slices: {
      setUp: slice({
        settings: {
          ...settings,
          backOffAfterNoAnswerSeconds: restAfterNoAnswerSeconds,
          backOffAfterDeclineSeconds: restAfterDeclineSeconds,
        },
        numbers: old.numbers.map((number) => ({ ...number, plan: carryPlan(number.plan) })),
        voicemailBoxes: old.boxes.map(carryBox),
        trunks: old.trunks,
        outsideNumbers: old.outsideNumbers,
        rooms: old.rooms,
        faxBoxes: old.faxBoxes,
        rules: old.rules,
        // Those of the slice's second version, which it fills itself.
        hours: [],
        prompts: [],
        regions: [],
        bots: [],
        plans: [],
        blocked: [],
        codes: [],
        helpAskedAt: null,
      }),
      calls: slice({
        calls: old.calls.map((call) => carryCall(call, routes.get(call.id) ?? null)),
        plans: [...plans.values()] as CompiledPlan[],
      }),
      agents: slice({
        agents: old.agents.map(({ line, wrapUpTimer, restTimer, ...agent }) => ({
          ...agent,
          revision: 0,
          persistentLine: line,
          timers: [...timer('wrapUp', wrapUpTimer), ...timer('backOff', restTimer)],
        })),
        phones: old.phones,
      }),
      outbound: slice({
        campaigns: old.campaigns.map(({ askTimer, ...campaign }) => ({
          ...campaign,
          timers: timer('askContacts', askTimer),
        })),
        optedOut: old.optedOut,
      }),
      // Nothing was counted then; the host says what boxes hold.
      voicemail: slice({ messages: [], storageFull: false, boxLocks: [] }),
      queues: slice(old.queues),
      groups: slice([]),
    },
  };
}

function timer(name: SavedTimer['name'], old: OldTimer | null): SavedTimer[] {
  return old === null ? [] : [{ name, at: old.at, order: old.order }];
}

/**
 * The plan a caller is in: straight to where they were sent last. What was left of the steps for when nobody lifts is
 * carried over as it was.
 */
function routeOf(call: OldCall, people: Map<string, PersonItem>): CompiledPlan | null {
  if (call.direction !== 'inbound') return null;
  const destination = call.lastDestination ?? { kind: 'end' };
  const person = call.chain === null ? undefined : people.get(call.chain.personId);
  if (call.chain === null || person === undefined) return planTo(destination);
  const left = planWhenNobodyLifts({ ...person, noAnswer: call.chain.left }, 0);
  const now = {
    ...planTo(destination).steps.only!,
    exits: { notTaken: '0', notReached: '0', noneLeft: '0' },
  };
  return { ...left, id: `carriedOver:${call.id}`, start: 'now', steps: { ...left.steps, now } };
}

function carryCall(old: OldCall, plan: CompiledPlan | null): SavedCall {
  const {
    stage,
    stageSince: _since,
    steps,
    handedOverBy,
    ways,
    chain,
    voicemailBoxId: _box,
    messageFrom: _from,
    outward: _outward,
    roomId: _room,
    keys,
    keyTries,
    pickedUp: _picked,
    bridge,
    queueId,
    campaignId,
    ringingAgent: _ringing,
    announcedTo: _announced,
    keptAgent,
    maxWaitTimer,
    ringTimer,
    connectByTimer,
    messageTimer,
    ...same
  } = old;
  return {
    ...same,
    language: null,
    keys: [],
    asks: 0,
    lastGroupId: null,
    ...{ recordingWish: null, toldOfRecording: false, recording: null, recordings: 0 },
    ...{
      whenLeft: [],
      found: {},
      waitsSince: null,
      overflows: 0,
      joinedAt: old.enteredAt,
      queuedMs: null,
      callBack: null,
      callBackAskedUntil: null,
    },
    afterTalk: null,
    talkIsOver: false,
    campaign: campaignId,
    activity: activityOf(old),
    route:
      plan === null
        ? []
        : [
            {
              plan: planKey(plan),
              stepId: plan.start,
              memory: stage === 'roomDoor' ? { keys, tries: keyTries } : null,
            },
          ],
    passed: steps,
    noAnswerPath:
      chain === null ? null : { personId: chain.personId, rung: chain.rung, declined: chain.declined },
    bridge:
      bridge === null
        ? null
        : { id: bridge.id, members: bridge.legs.map((leg) => ({ leg, mode: 'talk' as const })) },
    queue: queueId,
    reservedAgent: keptAgent,
    transferredBy: handedOverBy,
    usages: ways,
    timers: [
      ...timer('activity', ringTimer ?? messageTimer),
      ...timer('maxWait', maxWaitTimer),
      ...timer('connectBy', connectByTimer),
    ],
  };
}

function activityOf(call: OldCall): SavedActivity {
  const since = call.stageSince;
  switch (call.stage) {
    case 'waiting':
    case 'greeting':
    case 'announcement':
      return { kind: call.stage, since };
    case 'ringing':
      return { kind: call.direction === 'line' ? 'lineOffered' : 'offered', since, offer: offerOf(call) };
    case 'talking':
      if (call.announcedTo === null) return { kind: 'bridged', since };
      return {
        kind: 'consulting',
        since,
        consulted: call.announcedTo,
        offer: call.ringingAgent === null ? null : offerOf(call),
      };
    case 'voicemail':
      return { kind: 'recording', since, boxId: call.voicemailBoxId ?? '', from: call.messageFrom };
    case 'dialling':
      return { kind: 'contactRings', since };
    case 'held':
      return { kind: 'lineHeld', since };
    case 'forwarding':
      return { kind: 'dialOut', since, attempt: call.outward! };
    case 'forwarded':
      return { kind: 'bridgedOutside', since, attempt: call.outward! };
    case 'roomDoor':
      return { kind: 'step', since };
    case 'inRoom':
      return { kind: 'conference', since, roomId: call.roomId ?? '' };
    case 'fax': {
      const to = call.lastDestination;
      return { kind: 'receivingFax', since, boxId: to === null || to.kind === 'end' ? '' : to.id };
    }
    default:
      throw new Error(`call ${call.id} was saved in the middle of an event (${call.stage})`);
  }
}

function offerOf(call: OldCall): Extract<SavedActivity, { kind: 'offered' | 'lineOffered' }>['offer'] {
  const leg = call.legs.find(
    ({ party, state }: Leg) => party === 'agent' && (state === 'ringing' || state === 'confirming'),
  )!;
  return {
    mode: 'one',
    since: leg.since,
    pickedUp: call.pickedUp ?? false,
    parts: [{ agent: call.ringingAgent!, legId: leg.id, until: call.ringTimer?.at ?? leg.since }],
  };
}
