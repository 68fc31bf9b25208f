import type { BotItem } from './bots.ts';
import type { CallBackRules } from './call-back.ts';
import type { MayPause, QueueRecording } from './recording.ts';
import type { DistributionKind } from './distribution.ts';
import type { PhoneLine, RecordPriority, WaitingSounds, WayOut } from './waiting.ts';
import type { WantedSkill } from './wanted-skill.ts';
import type { DiallingRule } from '../dialling/rules.ts';
import type { PhoneKind } from '../phones/catalogue.ts';
import { utcClock, type ZoneClock } from '../hours/zone-clock.ts';
import type { Destination, NoAnswerStep } from './destination.ts';
import type { OpeningHours } from '../hours/opening-hours.ts';
import type { RingGroupItem } from './ring-group.ts';
import type { Greetings } from '../voicemail/greeting.ts';
import type { BlockedItem } from '../blocking/blocked.ts';
import type { CompiledPlan, PlanItem } from './plan.ts';

/**
 * The compiled set-up the exchange reads. Immutable: a change of the set-up makes new items, which enter
 * the exchange as a `configurationChanged` event. Everything survives JSON. Long, since it is one list: what the host
 * hands over, each kind of item after the other, without anything that works.
 */
export interface Configuration {
  settings: ExchangeSettings;
  people: PersonItem[];
  phones: PhoneItem[];
  queues: QueueItem[];
  numbers: NumberItem[];
  voicemailBoxes: VoicemailBoxItem[];
  trunks: TrunkItem[];
  campaigns: CampaignItem[];
  outsideNumbers: OutsideNumberItem[];
  rooms: RoomItem[];
  ringGroups: RingGroupItem[];
  faxBoxes: FaxBoxItem[];
  codes: ServiceCodeItem[];
  blocked: BlockedItem[];
  hours: OpeningHours[];
  prompts: PromptItem[];
  regions: RegionTable[];
  bots: BotItem[];
  /** Published answering plans. */
  plans: PlanItem[];
  /** In list order. */
  rules: DiallingRule[];
}

/** What happens to an agent who does not take an offered call. */
export interface ExchangeSettings {
  /** Rest in seconds of an agent who let it ring. */
  backOffAfterNoAnswerSeconds: number;
  /** Rest in seconds of an agent who declined, or whose phone was busy or could not be reached. */
  backOffAfterDeclineSeconds: number;
  /** Unanswered offers in a row after which an agent is set away with the reason 'not answering'. */
  missesBeforeAway: number;
  /** Seconds in which somebody reached on an outside number must press the key that accepts. */
  acceptSeconds: number;
  /** Milliseconds between the end of a contact's greeting and an agent, at most. */
  connectWithinMs: number;
  /** The company's own clock: where days begin. */
  clock: ZoneClock;
  /** Agents who may be signed in at once: the seats that are rented. Null for no limit. */
  seats: number | null;
}

export const defaultSettings: ExchangeSettings = {
  backOffAfterNoAnswerSeconds: 30,
  backOffAfterDeclineSeconds: 10,
  missesBeforeAway: 3,
  acceptSeconds: 12,
  // 47 CFR 64.1200(a)(7): a call is abandoned unless it is connected within two seconds of the completed greeting.
  connectWithinMs: 2_000,
  clock: utcClock,
  seats: null,
};

export interface PersonItem {
  id: string;
  name: string;
  teamId: string | null;
  extension: string | null;
  /** Calls this person may carry at once, from 1. They talk on one at most; the others are held. */
  callLimit: number;
  /** Seconds a call straight to this person rings. */
  ringSeconds: number;
  /** Whether the phone's registration signs a signed-out agent in. */
  signInWithPhone: boolean;
  /** Whether a sign-in begins away, until the agent says they are ready. */
  startAway: boolean;
  /** The phone lifts by itself when a caller is offered. */
  answerBySelf: boolean;
  /** Seconds of wrap-up after a queue's call; null for as long as the queue says. */
  wrapUpSeconds: number | null;
  /** Level 1 to 5 by skill. */
  skills: Record<string, number>;
  /** What a call straight to them does, in this order, when nobody lifts; after the last it goes to their voicemail. */
  noAnswer: NoAnswerStep[];
  voicemailBoxId: string | null;
}

export interface PhoneItem {
  id: string;
  personId: string;
  kind: PhoneKind;
  /** SIP account, the user part of its address of record; empty for kinds that do not register by SIP. */
  account: string;
  /** It registers from outside the house: somebody works at home. */
  home: boolean;
  /** What is dialled to reach an outside number, and over which trunk. */
  e164: string | null;
  trunkId: string | null;
  /** Shown when its person dials directly; null shows nothing. */
  callerId: string | null;
  /** The trunk by which that goes out, chosen by name; null for those of the dialling rules. */
  dialTrunkId: string | null;
  /** Where help is sent, as it is read out: its own, or its team's. */
  emergencyAddress: string | null;
}

/** A conference room: callers in it hear each other. */
export interface RoomItem {
  id: string;
  name: string;
  extension: string | null;
  /** Of the PIN asked for at its door; null for none. See pinHash. */
  pinHash: string | null;
  pinLength: number;
  /** A tone is heard when somebody comes in. */
  joinTone: boolean;
}

/** Takes faxes, each as a file. */
export interface FaxBoxItem {
  id: string;
  name: string;
  extension: string | null;
}

/** Something callers hear, as it is published. */
/** Where callers go by how their numbers begin; prefixes are digits without the plus, one space between. Plain data. */
export interface RegionTable {
  id: string;
  name: string;
  ways: readonly { destination: Destination; prefixes: string }[];
}

export interface PromptItem {
  id: string;
  name: string;
  /** How long it takes to hear. */
  seconds: number;
  /** The words, for who cannot listen: stand-ins, stories. */
  words: string;
  /** The same in other languages: prompts of their own, by language (BCP 47). */
  translations?: Readonly<Record<string, string>>;
}

/** Somewhere outside that calls can be sent to. */
export interface OutsideNumberItem {
  id: string;
  name: string;
  extension: string | null;
  e164: string;
  /** The trunk to dial over; null for those of the dialling rules. */
  trunkId: string | null;
  ringSeconds: number;
}

/** A connection to a provider, with the calls it carries at once. */
export interface TrunkItem {
  id: string;
  name: string;
  /** Where the provider is, and our account there. */
  host: string;
  account: string;
  channels: number;
  /** The number always shown, whatever the call has; null for what it has. */
  callerId: string | null;
}

/** An outbound campaign as the exchange sees it. Contacts come by events, a few at a time. */
export interface CampaignItem {
  id: string;
  name: string;
  running: boolean;
  /** Whose agents take the answered calls, chosen by its distribution. */
  queueId: string;
  trunkId: string;
  /** Shown to contacts, E.164. */
  callerId: string;
  /** The number held that is shown, when there is one. */
  numberId: string | null;
  /** Calls kept in the air for each free agent. */
  ratio: number;
  /** Calls in the air at most; null for as many as the ratio says. */
  mostInAir: number | null;
  /** Seconds a contact's phone rings before it counts as no answer, from 15. */
  ringSeconds: number;
  /** Share of people answering that may be abandoned, 0.03 for 3 %. */
  abandonLimit: number;
  /** Length of the message that a person hears whom no agent can take. */
  messageSeconds: number;
  /** The key that puts a contact on the opt-out list, null for none. */
  optOutKey: string | null;
}

export interface QueueItem {
  id: string;
  name: string;
  extension: string | null;
  /** Larger is served first by an agent who could take callers of several queues. */
  priority: number;
  ringSeconds: number;
  wrapUpSeconds: number;
  /** People who may be rung, teams resolved, without repeats, in member order. */
  members: string[];
  /** What a member must be able to do to be rung; a skill somebody lacks is level 0. */
  skills: WantedSkill[];
  /** In which order the eligible are rung; longest idle when none is named. */
  distribution?: DistributionKind;
  /** The turn of each member, in their order; absent when all have one. */
  turns?: number[];
  /** Of each member, the seconds of waiting after which they may be rung; absent when all may from the beginning. */
  joinsAfter?: number[];
  /** How many are rung together, where all are. */
  ringsAtMost?: number;
  /** Whether the agent who looks after the caller's record is rung first when free. */
  preferOwner: boolean;
  /** Callers that may wait; null for no limit. */
  maxWaiting: number | null;
  whenFull: Destination;
  /** Seconds a caller may wait; null for no limit. */
  maxWaitSeconds: number | null;
  whenTooLong: Destination;
  /** Where callers go when no member is signed in; null lets them wait. */
  whenNobody: Destination | null;
  /** Where callers go when all who are signed in are away; null lets them wait. */
  whenAllAway?: Destination | null;
  /** The key by which a caller leaves, and where to. */
  leaveKey?: string | null;
  whenLeaves?: Destination;
  /** By which ways out a caller takes the time they waited along, to the next queue. */
  keepsTime?: WayOut[];
  /** What a minute of waiting adds to a caller's priority, and whether it counts between queues too. */
  agePoints?: number;
  agesAcross?: boolean;
  /** Priority of callers whose record says so, where the plan says none: the largest that fits. */
  recordPriorities?: RecordPriority[];
  /** Reasons of being away whose holders are rung all the same; whether wrap-up is; how many open texts are too many. */
  ringsAway?: string[];
  ringsInWrapUp?: boolean;
  mostTexts?: number | null;
  /** What callers hear while they wait. */
  hears?: WaitingSounds;
  /** How callers are called back who do not want to wait; null for not at all. */
  callBack?: CallBackRules | null;
  /** What a ringing phone shows of its callers, in this order. */
  phoneShows?: PhoneLine[];
  /** The opening hours it follows; while they are closed nobody enters. Null for always. */
  hoursId?: string | null;
  /** Where callers go while it is closed; null says that nobody can take the call. */
  whenClosed?: Destination | null;
  /** At closing, callers who wait are served all the same, or sent where callers go while it is closed. */
  atClosing?: 'serve' | 'sendOn';
  /** Whether its talks are recorded, what callers hear before, and who may pause it. */
  recording?: QueueRecording;
  recordingNoticeId?: string | null;
  mayPause?: MayPause;
}

export interface NumberItem {
  id: string;
  e164: string;
  label: string;
  /** Null when the number leads nowhere. */
  plan: CompiledPlan | null;
  /** Calls it takes at once; one more hears that it is busy. Null for no limit. */
  mostCalls?: number | null;
  /** The advert that makes this number ring. */
  sourceId: string | null;
  sourceName?: string | null;
  /** Priority of its callers, until a step of its plan or a queue says otherwise; 0 when it says nothing. */
  priority?: number;
}

/** What is dialled on a phone of ours to have something done. */
export interface ServiceCodeItem {
  id: string;
  name: string;
  /** As dialled: '*86'. */
  digits: string;
  /** Closes opening hours; opens the voicemail box of who dials; lets them sit out of ring groups, or take part again. */
  does: 'storm' | 'voicemail' | 'takePart';
  /** The sets it closes, and for how long. */
  hoursIds: string[];
  forHours: number;
  /** The ring groups it is about; none named means all they are in. */
  groupIds?: string[];
  /** Null while there is none: a code that asks for one does nothing then. */
  pinHash: string | null;
  pinLength: number;
  /** Teams whose people may use it; none named means everybody. */
  teamIds: string[];
}

export interface VoicemailBoxItem {
  id: string;
  /** Of the PIN by which it is opened from a phone; null for none. See pinHash. */
  pinHash?: string | null;
  /** Whose it is; null for a queue's, or a shared one. */
  personId?: string | null;
  name: string;
  extension: string | null;
  /** The opening hours its greetings follow; null for a box that is always open. */
  hoursId: string | null;
  greetings: Greetings;
  maxMessageSeconds: number;
  /** Messages it holds before it is full; those deleted do not count. */
  mostMessages: number;
  /** Where callers go whom it cannot take; null turns them away. */
  whenFull: Destination | null;
}

/** Items that changed, whole, and ids of those that are gone. */
export interface ConfigurationChanges {
  settings?: ExchangeSettings;
  people?: PersonItem[];
  phones?: PhoneItem[];
  queues?: QueueItem[];
  numbers?: NumberItem[];
  voicemailBoxes?: VoicemailBoxItem[];
  trunks?: TrunkItem[];
  campaigns?: CampaignItem[];
  outsideNumbers?: OutsideNumberItem[];
  rooms?: RoomItem[];
  ringGroups?: RingGroupItem[];
  faxBoxes?: FaxBoxItem[];
  codes?: ServiceCodeItem[];
  /** All of them. */
  blocked?: BlockedItem[];
  hours?: OpeningHours[];
  prompts?: PromptItem[];
  regions?: RegionTable[];
  bots?: BotItem[];
  plans?: PlanItem[];
  /** All of them, in list order. */
  rules?: DiallingRule[];
  gone?: string[];
}

export const emptyConfiguration: Configuration = {
  settings: defaultSettings,
  people: [],
  phones: [],
  queues: [],
  numbers: [],
  voicemailBoxes: [],
  trunks: [],
  campaigns: [],
  outsideNumbers: [],
  rooms: [],
  ringGroups: [],
  faxBoxes: [],
  codes: [],
  blocked: [],
  hours: [],
  prompts: [],
  regions: [],
  bots: [],
  plans: [],
  rules: [],
};
