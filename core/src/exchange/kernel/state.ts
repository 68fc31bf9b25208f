import type { BotItem } from '../../model/bots.ts';
import type { BoxLock } from '../media/box-lock.ts';
import { IndexedHeap } from '../../collections/indexed-heap.ts';
import { BlockedList } from '../../blocking/blocked.ts';
import { DialPlan } from '../../dialling/rules.ts';
import {
  defaultSettings,
  type ExchangeSettings,
  type FaxBoxItem,
  type NumberItem,
  type OutsideNumberItem,
  type PromptItem,
  type RegionTable,
  type RoomItem,
  type ServiceCodeItem,
  type VoicemailBoxItem,
} from '../../model/configuration.ts';
import type { OpeningHours } from '../../hours/opening-hours.ts';
import type { Destination } from '../../model/destination.ts';
import type { PlanItem } from '../../model/plan.ts';
import type { Agent, Phone } from '../agents/agent.ts';
import type { Call } from '../calls/call.ts';
import type { RingGroup } from '../groups/ring-group.ts';
import type { Trunk } from '../media/trunk.ts';
import type { Campaign } from '../outbound/campaign.ts';
import type { QueueState } from '../queues/queue.ts';
import type { Output } from './journal.ts';
import { type Timer, timerBefore } from './timers.ts';
import type { Work } from './later.ts';
import { WorkList } from './work-list.ts';

/** Everything the exchange knows. Mutable inside, for speed; hosts get snapshots. */
export interface State {
  /** Engine time: the largest `at` seen (UTC milliseconds). */
  now: number;
  /** `seq` of the last event handled. */
  seq: number;
  settings: ExchangeSettings;
  agents: Map<string, Agent>;
  phones: Map<string, Phone>;
  /** Phones ever set up; the `order` of the next. */
  phoneCount: number;
  queues: Map<string, QueueState>;
  numbers: Map<string, NumberItem>;
  /** By E.164, derived from `numbers`. */
  numberByDigits: Map<string, NumberItem>;
  /** Extension to its destination, derived. */
  extensions: Map<string, Destination>;
  boxes: Map<string, VoicemailBoxItem>;
  /** How many messages each box holds. */
  messages: Map<string, number>;
  boxLocks: Map<string, BoxLock>;
  /** No room is left for recordings, in any box. */
  storageFull: boolean;
  calls: Map<string, Call>;
  trunks: Map<string, Trunk>;
  outsideNumbers: Map<string, OutsideNumberItem>;
  rooms: Map<string, RoomItem>;
  ringGroups: Map<string, RingGroup>;
  /** The people in use of each team, derived. */
  teams: Map<string, Agent[]>;
  faxBoxes: Map<string, FaxBoxItem>;
  codes: Map<string, ServiceCodeItem>;
  hours: Map<string, OpeningHours>;
  prompts: Map<string, PromptItem>;
  regions: Map<string, RegionTable>;
  bots: Map<string, BotItem>;
  plans: Map<string, PlanItem>;
  dialPlan: DialPlan;
  blocked: BlockedList;
  /** When somebody of ours last called for help, so that whoever calls back is let in. */
  helpAskedAt: number | null;
  campaigns: Map<string, Campaign>;
  /** Numbers opted out lately and when, so that a contact leased just before is still refused. */
  optedOut: Map<string, number>;
  timers: IndexedHeap<Timer>;
  /** Timers ever set; the `order` of the next. */
  timerCount: number;
  /** Agents not signed out. */
  signedIn: number;
  /** What is still to be done within the event at hand, first in first out; empty between events. */
  workList: WorkList<Work>;
  /** Whose timer or turn it is within the event at hand, so that a fault can name it; null between events. */
  atHand: Agent | Call | Campaign | null;
  /** Timers fire for a time in which nobody hosted the exchange, which ends then; null between events. */
  unattendedUntil: number | null;
  out: Output;
}

/** Before anything has happened. */
export function emptyState(): State {
  return {
    now: 0,
    seq: 0,
    settings: defaultSettings,
    agents: new Map(),
    phones: new Map(),
    phoneCount: 0,
    queues: new Map(),
    numbers: new Map(),
    numberByDigits: new Map(),
    extensions: new Map(),
    boxes: new Map(),
    messages: new Map(),
    boxLocks: new Map(),
    storageFull: false,
    calls: new Map(),
    trunks: new Map(),
    outsideNumbers: new Map(),
    rooms: new Map(),
    ringGroups: new Map(),
    teams: new Map(),
    faxBoxes: new Map(),
    codes: new Map(),
    hours: new Map(),
    prompts: new Map(),
    regions: new Map(),
    bots: new Map(),
    plans: new Map(),
    dialPlan: new DialPlan([]),
    blocked: new BlockedList([]),
    helpAskedAt: null,
    campaigns: new Map(),
    optedOut: new Map(),
    timers: new IndexedHeap<Timer>(timerBefore),
    timerCount: 0,
    signedIn: 0,
    workList: new WorkList(),
    atHand: null,
    unattendedUntil: null,
    out: { detail: 'none', effects: [], records: [], passed: [] },
  };
}
