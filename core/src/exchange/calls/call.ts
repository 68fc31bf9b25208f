import type { HeapNode } from '../../collections/indexed-heap.ts';
import type { LeftWish } from '../../model/left-wish.ts';
import type { Destination } from '../../model/destination.ts';
import type { CompiledPlan } from '../../model/plan.ts';
import type { Direction, RecordFacts, TrunkUsage } from '../../story/facts.ts';
import type { Agent } from '../agents/agent.ts';
import type { LeasedContact } from '../kernel/events.ts';
import type { Timer, TimerOwner } from '../kernel/timers.ts';
import type { Bridge } from '../media/bridge.ts';
import type { Leg } from '../media/leg.ts';
import type { RecordingWish, TalkRecording } from '../../model/recording.ts';
import type { Campaign } from '../outbound/campaign.ts';
import type { QueueState } from '../queues/queue.ts';
import type { Activity } from './activity.ts';

/** Where a call is in a plan, which it pinned on entry, and what the step it rests in remembers. */
export interface Frame {
  plan: CompiledPlan;
  stepId: string;
  memory: unknown;
}

/** Whom a call straight to a person is meant for, and which of their phones have rung. Data as it is. */
export interface NoAnswerPath {
  personId: string;
  rung: string[];
  /** They said no to it: their other phones are left in peace. */
  declined: boolean;
}

/** A caller who does not wait on the line: they are called when their turn comes. Data as it is. */
export interface CallBack {
  to: string;
  /** Times they were called and not reached. */
  tries: number;
}

/** What begins a call. */
export interface CallStart {
  id: string;
  direction: Direction;
  to: string;
  from: string;
  callerName: string | null;
  priority?: number;
  standIn?: boolean;
  record?: RecordFacts | null;
  campaign?: Campaign | null;
  contact?: LeasedContact | null;
}

/** A call in progress. A node of its queue's waiting list, or of its answered contacts, while it waits. */
export class Call implements HeapNode, TimerOwner {
  heapIndex = -1;
  readonly id: string;
  readonly direction: Direction;
  readonly to: string;
  readonly from: string;
  readonly callerName: string | null;
  priority: number;
  readonly arrivedAt: number;
  readonly standIn: boolean;
  /** Whom the customer records know; a caller may be known only once they have typed their number. */
  record: RecordFacts | null;
  readonly campaign: Campaign | null;
  readonly contact: LeasedContact | null;
  /** What the caller chose to hear prompts in (BCP 47). */
  language: string | null = null;
  /** Keys that led on in menus, in order. */
  keys: string[] = [];
  /** Where it goes on when our side ends the talk first. */
  afterTalk: Frame | null = null;
  /** It does: whatever comes now, the call was answered. */
  talkIsOver = false;
  /** What plan or queue want of its talks, and whether the caller heard that they are recorded. */
  recordingWish: RecordingWish | null = null;
  toldOfRecording = false;
  /** The talk that is recorded now, and how many were. */
  recording: TalkRecording | null = null;
  recordings = 0;
  /** What is done once the caller has left. */
  whenLeft: LeftWish[] = [];
  /** What a bot found out, by name. */
  found: Record<string, string> = {};
  /** Questions put to the host: an answer names its own. */
  asks = 0;
  numberId: string | null = null;
  sourceId: string | null = null;
  activity: Activity;
  /** The plans it is in, the innermost last. Empty for calls that no plan leads. */
  route: Frame[] = [];
  /** Steps passed without the caller doing anything. */
  passed = 0;
  fallback: Destination = { kind: 'end' };
  lastDestination: Destination | null = null;
  noAnswerPath: NoAnswerPath | null = null;
  legs: Leg[] = [];
  legCount = 0;
  bridge: Bridge | null = null;
  bridgeCount = 0;
  /** The queue it waits in or is offered from, null outside queues. Kept while an agent of it talks. */
  queue: QueueState | null = null;
  lastQueueId: string | null = null;
  /** The last ring group whose phones rang for it. */
  lastGroupId: string | null = null;
  /** From when its wait counts: its place in the order of callers, and how far its stages are. */
  enteredAt = 0;
  /** When it entered the queue it is in, or was last. */
  joinedAt = 0;
  /** How long it waited there, until it was answered or left; null until then. */
  queuedMs: number | null = null;
  /** The stage of its wait: how much easier it has become to serve it. */
  stage = 0;
  /** The wait that it takes along to the next queue; null when it begins anew there. */
  waitsSince: number | null = null;
  /** Promised, and not kept yet or kept; null for all who wait on the line. */
  callBack: CallBack | null = null;
  /** Until when the key confirms that they want to be called back; null when they were not asked. */
  callBackAskedUntil: number | null = null;
  /** How often queues sent it on without the caller doing anything. */
  overflows = 0;
  /** The wait ran out while a phone was ringing: it goes on when that offer fails. */
  overdue = false;
  /** Agents who were offered this call in this queue and did not take it. */
  tried: string[] = [];
  /** Offers made in all. */
  offers = 0;
  /** Who talks with the caller or contact, also while they consult a colleague; who dialled; whose line it is. */
  talkingAgent: Agent | null = null;
  /** Launched, and not yet known to be a person, a machine or nobody. */
  inAir = false;
  /** An agent reserved until it is known whether the contact answers. */
  reservedAgent: Agent | null = null;
  /** First answered by an agent, a room or outside. */
  answeredAt: number | null = null;
  /** Talked in all with agents who transferred it, and the last of them. */
  talkedMs = 0;
  transferredBy: string | null = null;
  /** What was talked over lines of ours on legs that have left. */
  usages: TrunkUsage[] = [];
  /** When the contact lifted, and when their greeting was over. */
  liftedAt: number | null = null;
  greetedAt: number | null = null;
  /** Somebody answered and no agent came in time. */
  abandoned = false;
  timers: Timer | null = null;

  constructor(start: CallStart, at: number, activity: Activity) {
    this.id = start.id;
    this.direction = start.direction;
    this.to = start.to;
    this.from = start.from;
    this.callerName = start.callerName;
    this.priority = start.priority ?? 0;
    this.arrivedAt = at;
    this.activity = activity;
    this.standIn = start.standIn ?? false;
    this.record = start.record ?? null;
    this.campaign = start.campaign ?? null;
    this.contact = start.contact ?? null;
  }
}
