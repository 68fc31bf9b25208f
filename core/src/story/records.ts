import type { BotFault } from '../model/bots.ts';
import type { Candidates, ReachedBy } from '../distribute/candidates.ts';
import type { ChosenBecause } from '../distribute/decide.ts';
import type { CallBackFirst, NoCallBack } from '../model/call-back.ts';
import type { DistributionKind } from '../model/distribution.ts';
import type { Reason } from '../distribute/eligibility.ts';
import type { OpenState } from '../hours/opening-hours.ts';
import type { Destination } from '../model/destination.ts';
import type { KeyChoice } from '../model/plan.ts';
import type { GroupWay } from '../model/ring-group.ts';
import type { WayOut } from '../model/waiting.ts';
import type { Pace } from '../outbound/pacing.ts';
import type { CallResult, EndedBy, LegFailure, RecordFacts } from './facts.ts';

/** How much the host wants to be told. Explaining never touches the state. */
export type Detail = 'none' | 'bounded' | 'full';

/** Why a queue sent a caller on. */
export type SentOnBecause = WayOut | 'queueRetired';

/** Why an offer came to nothing. */
export type NotTaken =
  LegFailure | 'notAccepted' | 'unattended' | 'signedOut' | 'setAway' | 'personRetired' | 'callsForHelp';

/** Somebody who was not rung: why not, or that they sit out. */
export interface StandsAgainst {
  name: string;
  reasons: Reason[];
  sitsOut?: true;
}

/** What a step of a plan says of itself. */
export type StepRecord =
  /** By a code: closed until an instant (UTC milliseconds), or opened again. */
  | { kind: 'stormByCode'; name: string; until: number | null }
  /** Turned away by the blocked list, or because the number takes no more calls at once. */
  | { kind: 'blocked'; name: string; how: 'number' | 'prefix' | 'withheld'; until: number | null }
  | { kind: 'numberBusy'; label: string; most: number }
  | {
      kind: 'ringsSeveral';
      round: number;
      rounds: number;
      rung: { name: string; seconds: number }[];
      not: StandsAgainst[];
      /** Who could be rung beyond as many as ring together. */
      beyond?: number;
      /** Of round robin, who answered the last call of the group. */
      behind?: string;
    }
  /** Nobody of a ring group took it, and why: their phones rang, or were busy, or could not be reached. */
  | { kind: 'groupNotTaken'; name: string; way: GroupWay; not: StandsAgainst[] }
  /** By a code: somebody takes part in ring groups again, or sits out. */
  | { kind: 'tookPart'; groups: string[]; takesPart: boolean }
  /** A number outside that sends calls back to us is left alone. */
  | { kind: 'forwardLoop'; name: string; most: number }
  | { kind: 'boxFull'; boxId: string; name: string; why: 'boxFull' | 'storageFull'; held: number }
  | { kind: 'wrongPin'; tries: number }
  /** A voicemail box is opened from a phone, or not; its greeting was recorded there. */
  | { kind: 'boxOpened'; name: string }
  | { kind: 'boxNotOpened'; name: string; why: 'noPin' | 'locked' }
  | { kind: 'greetingRecorded'; name: string }
  | { kind: 'understood'; words: string; by: 'voice' | 'text'; answer: string; phrase: string }
  | { kind: 'notUnderstood'; words: string; by: 'voice' | 'text'; tries: number; most: number }
  | { kind: 'saidNothing'; seconds: number; tries: number; most: number }
  /** A turn of a bot: what it said and found out, what was answered, and why it came to an end too early. */
  | { kind: 'botSaid'; turn: number; words: string; found: Readonly<Record<string, string>> }
  | { kind: 'saidToBot'; words: string; by: 'voice' | 'text' }
  | { kind: 'botFailed'; name: string; why: BotFault }
  | { kind: 'botStopped'; name: string; turns: number }
  /** The plan said whether talks are recorded; `untold` when the notice it should play is gone. */
  | { kind: 'recordingSet'; on: boolean; untold: boolean }
  | { kind: 'said'; promptId: string; name: string; seconds: number }
  | { kind: 'askedAgain'; promptId: string; name: string }
  /** A set of opening hours was asked; `because` names the unusual day that has a say, `exit` where the call went. */
  | {
      kind: 'hoursAsked';
      hoursId: string;
      name: string;
      state: OpenState;
      because: string | null;
    }
  /** Rules were asked in turn: the one that held, its conditions in words, those behind it, and how many did not hold. */
  | { kind: 'rulesAsked'; rule: string | null; because: string; others: string[]; passed: number }
  /** A table of regions was asked: the row that fits and where it leads; `from` is null for a number withheld. */
  | { kind: 'regionAsked'; table: string; from: string | null; prefix: string | null; to: string | null }
  /** Whom the customer records know: by the number that calls, or by what was typed. Null for nobody. */
  | { kind: 'recordAsked'; name: string | null; by: 'number' | 'typed' }
  /** How many digits were typed; which they were is nobody's to read. */
  | { kind: 'wrongCustomerNumber'; digits: number; tries: number; most: number }
  | { kind: 'lookUpFailed'; withinSeconds: number; why: 'slow' | 'fault' }
  | { kind: 'textSent'; from: string; body: string }
  | { kind: 'textNotSent'; why: 'withheld' | 'optedOut' | 'closed' | 'empty' | 'numberGone' }
  /** Of a survey, 1 to 5. */
  | { kind: 'surveyAnswered'; question: string; answer: number }
  | { kind: 'extensionDialled'; digits: string; name: string }
  | { kind: 'wrongExtension'; digits: string; tries: number; most: number }
  /** `language` where the key chose one. */
  | { kind: 'keyChosen'; key: string; label: string; language?: string; others: KeyChoice[] }
  | { kind: 'wrongKey'; key: string; tries: number; most: number }
  | { kind: 'noKey'; seconds: number; tries: number; most: number };

/** What was decided or happened, and why. */
export type RecordBody =
  | {
      kind: 'arrived';
      to: string;
      from: string;
      callerName: string | null;
      numberId: string | null;
      label: string | null;
      planVersion: number | null;
      record: RecordFacts | null;
    }
  /** A campaign dials a contact: how many agents were free, how many calls in the air, and what that allows. */
  | {
      kind: 'launched';
      campaignId: string;
      campaignName: string;
      contactName: string;
      to: string;
      callerId: string;
      trunkName: string;
      attempt: number;
      pace: Pace;
      free: number;
      inAir: number;
      reservedName: string | null;
      record: RecordFacts | null;
    }
  /** A contact lifted; then who it was, when the greeting is over. */
  | { kind: 'contactLifted'; rangMs: number }
  | { kind: 'greeted'; by: 'person' | 'machine'; greetingMs: number; withinMs: number }
  | { kind: 'noAgentInTime'; afterMs: number }
  | { kind: 'optedOut'; how: 'key' | 'list' }
  /** A line to an agent's outside number. */
  | { kind: 'lineDialled'; personId: string; name: string; to: string; trunkName: string }
  | { kind: 'lineHeld'; personId: string; name: string }
  | { kind: 'unroutable'; why: 'unknownNumber' | 'unroutedNumber' | 'destinationGone' }
  /** Somebody of ours dialled; then how it goes out, over which trunk, and what came of it. */
  | { kind: 'dialledBy'; personId: string; name: string; to: string }
  | { kind: 'noRoute'; why: 'noMatch' | 'notDialable' }
  | { kind: 'routeChosen'; digits: string; name: string; ruleName: string | null; emergency: boolean }
  | { kind: 'outsideRings'; trunkName: string; callerId: string }
  | { kind: 'trunkFailed'; trunkName: string; cause: LegFailure }
  | { kind: 'forwarded'; name: string; rangMs: number }
  /** A conference room, its door, and a fax box. */
  | StepRecord
  /** Our side hung up first, and the caller goes on. */
  | { kind: 'talkOver'; name: string; talkedMs: number }
  | { kind: 'joinedRoom'; name: string; others: number }
  | { kind: 'faxTone'; name: string }
  | { kind: 'faxReceived'; pages: number }
  | { kind: 'sentTo'; destination: Destination; name: string }
  | {
      kind: 'enteredQueue';
      queueId: string;
      name: string;
      ahead: number;
      signedIn: number;
      /** The limits of the queue that did not apply on entering, and where each would have led. */
      otherwise: { because: SentOnBecause; limit: number | null; name: string }[];
      /** What plays while they wait; none for the house's own. */
      music?: { id: string; name: string };
      /** The wait they brought along from another queue. */
      waitedMs?: number;
    }
  /** Said to a caller who waits: a prompt, their place, and what they may have to wait, where it can be known. */
  | {
      kind: 'announced';
      place: number | null;
      waitMs: number | null;
      prompt: { id: string; name: string } | null;
      words: string;
      language: string | null;
      seconds: number;
    }
  /** A lower level of a skill is enough from now on, or more people may be rung; how many of all who may are free. */
  | {
      kind: 'easierToServe';
      queueId: string;
      name: string;
      afterSeconds: number;
      enough: { skill: string; minimum: number }[];
      joined: string[];
      joinedCount: number;
      fitting: number;
    }
  /** Being called back: offered, asked to confirm the number, refused, promised; then kept in a second part, or not. */
  | { kind: 'callBackOffered'; key: string }
  | { kind: 'callBackAsked'; to: string; key: string }
  | { kind: 'callBackRefused'; why: NoCallBack }
  | { kind: 'callBackPromised'; to: string; ahead: number; first: CallBackFirst }
  | { kind: 'callBackTooLate'; againAt: number }
  | { kind: 'callBackTurn'; name: string }
  | { kind: 'callBackTaken'; personId: string; name: string; rangMs: number }
  | { kind: 'calledBack'; to: string; rangMs: number; name: string | null; personId: string | null }
  | {
      kind: 'callBackFailed';
      cause: LegFailure;
      tries: number;
      most: number;
      againAt: number | null;
      name: string | null;
    }
  /** A talk broke off on our side: the caller is back where they had waited. */
  | { kind: 'cutOff'; personId: string; name: string; talkedMs: number }
  /** `chosen` is null when nobody is eligible and the caller waits. */
  | {
      kind: 'decision';
      queueId: string;
      queueName: string;
      chosen: string | null;
      chosenName: string | null;
      why: ChosenBecause;
      /** How the queue chooses; stories of before have none of the next four. */
      distribution?: DistributionKind;
      /** All who are rung, where that is more than the one chosen. */
      together?: { personId: string; name: string }[];
      /** What the levels of candidates are of, where they decide. */
      skills?: string[];
      inTurns?: boolean;
      /** Who looks after the caller's record, when the queue prefers that person and it was not they. */
      owner: { personId: string; name: string } | null;
      candidates: Candidates;
      /** Names of the listed candidates, so that a story can be read after they are renamed. */
      names: Record<string, string>;
      ringSeconds: number;
    }
  | {
      /** All were rung together, and nobody lifted. */
      kind: 'noneLifted';
      count: number;
      rangMs: number;
    }
  | {
      kind: 'directDecision';
      personId: string;
      name: string;
      rings: boolean;
      reasons: Reason[];
      ringSeconds: number;
      /** What follows when nobody lifts, step by step. */
      otherwise: string[];
    }
  /** Another phone of the person the call is meant for. */
  | {
      kind: 'ringsElsewhere';
      personId: string;
      name: string;
      phone: ReachedBy;
      ringSeconds: number;
    }
  | {
      kind: 'notTaken';
      personId: string;
      name: string;
      reason: NotTaken;
      rangMs: number;
      backOffUntil: number | null;
      setAway: boolean;
    }
  /** Somebody lifted at an outside number and is asked for the key that accepts. */
  | { kind: 'askedToAccept'; personId: string; name: string; to: string; rangMs: number; about?: string }
  | {
      kind: 'answered';
      personId: string;
      name: string;
      rangMs: number;
      waitedMs: number;
      phone: ReachedBy | null;
    }
  | { kind: 'pickedUp'; personId: string; name: string; fromId: string; fromName: string; rangMs: number }
  | {
      kind: 'transferred';
      personId: string;
      name: string;
      to: string;
      toId: string | null;
      talkedMs: number;
      attended: boolean;
    }
  /** A colleague is rung to be told of the caller, lifts and hears, or the caller comes back to who told. */
  | { kind: 'consultationBegun'; personId: string; name: string; toId: string; toName: string }
  | { kind: 'consulted'; personId: string; name: string; byName: string; rangMs: number }
  | { kind: 'transferCancelled'; personId: string; name: string; why: 'retrieved' | 'notTaken' | 'hungUp' }
  | { kind: 'held'; personId: string; name: string; by: string }
  | { kind: 'resumed'; personId: string; name: string }
  | {
      kind: 'sentOn';
      queueId: string;
      name: string;
      because: SentOnBecause;
      limit: number | null;
      /** Whether the wait counts on in the next queue; stories of before have neither. */
      keepsTime?: boolean;
      key?: string;
    }
  | { kind: 'tooManySteps'; steps: number }
  | {
      kind: 'voicemail';
      boxId: string;
      name: string;
      /** The greeting's name; null for the default. */
      greeting?: string | null;
      when?: 'open' | 'closed';
      inside?: boolean;
      hoursName?: string | null;
    }
  | { kind: 'recordingBegan'; name: string; by: 'plan' | 'queue' }
  | { kind: 'recordingPaused' | 'recordingResumed'; name: string }
  | { kind: 'recordingEnded'; recordedMs: number; pausedMs: number }
  | { kind: 'notRecorded'; why: 'queueNever' | 'notTold' | 'storageFull' }
  /** After the caller left: a note to their record. */
  | { kind: 'noteLeft'; name: string; words: string }
  | { kind: 'noteNotLeft'; why: 'notKnown' | 'empty' }
  | { kind: 'turnedAway' }
  | {
      kind: 'ended';
      by: EndedBy;
      result: CallResult;
      talkedMs: number;
      messageMs: number | null;
      wrapUpSeconds: number | null;
    };

/** What happened at one instant (UTC milliseconds) of one call. A call's story is these in order. */
export type StoryRecord = { callId: string; at: number } & RecordBody;

export type StoryRecordKind = StoryRecord['kind'];
