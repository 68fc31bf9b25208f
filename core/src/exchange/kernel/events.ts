import type { MenuMessage } from '../../model/voicemail-menu.ts';
import type { BotAnswer, BotFault } from '../../model/bots.ts';
import type { LegFailure, RecordFacts } from '../../story/facts.ts';
import type { ConfigurationChanges } from '../../model/configuration.ts';
import type { Destination } from '../../model/destination.ts';
import type { DayTally } from '../../outbound/pacing.ts';

/** A contact handed to the exchange to be called once. The host does not hand it out again until it comes back. */
export interface LeasedContact {
  contactId: string;
  /** What the call will be called when it is made. */
  callId: string;
  e164: string;
  name: string;
  /** Number of this attempt, from 1. */
  attempt: number;
  /** The calling hours end: from this instant on (UTC milliseconds) the contact is not called. */
  callableUntil: number;
  record: RecordFacts | null;
}

/** What can happen to the exchange. Nothing else changes its state. */
export type ExchangeEventBody =
  | { kind: 'configurationChanged'; changes: ConfigurationChanges }
  /**
   * Time passed: due timers fire, nothing else. `unattended`: nobody hosted the exchange since the event before; what ran
   * out meanwhile rang nowhere.
   */
  | { kind: 'clock'; unattended?: true }
  /** `to` is a number held (E.164) or an extension. Larger `priority` is served first. */
  | {
      kind: 'callArrived';
      callId: string;
      to: string;
      from: string;
      callerName?: string;
      priority?: number;
      standIn?: boolean;
      /** The phone of ours that it was dialled on. */
      fromPhoneId?: string;
      /** The trunk it came in by; it takes up a channel. */
      trunkId?: string;
      record?: RecordFacts;
    }
  | { kind: 'callerHungUp'; callId: string }
  | { kind: 'legAnswered'; leg: string }
  | { kind: 'legFailed'; leg: string; cause: LegFailure }
  /** The agent's side hung up, or its device was lost. */
  | { kind: 'legEnded'; leg: string }
  | { kind: 'phoneRegistered'; phoneId: string; address: string }
  | { kind: 'phoneUnregistered'; phoneId: string; why: string }
  | { kind: 'phoneRefused'; phoneId: string; why: string }
  /** `asUsual`: begins as the person's settings say, away or available; else available. */
  | { kind: 'agentSignedIn'; personId: string; asUsual?: boolean }
  | { kind: 'agentAway'; personId: string; reason: string }
  | { kind: 'agentSignedOut'; personId: string }
  /** The agent ends the wrap-up before its time. */
  | { kind: 'wrapUpEnded'; personId: string }
  /** The agent's choice among their phones; null lets the first in ring order that can be reached ring. */
  | { kind: 'phoneChosen'; personId: string; phoneId: string | null }
  /** Dials the agent's outside number to hold a line open; `callId` names that call. */
  | { kind: 'persistentLineAsked'; callId: string; personId: string }
  | { kind: 'persistentLineClosed'; personId: string }
  /** A call that rings somebody else is taken on this phone. */
  | { kind: 'callPickedUp'; callId: string; phoneId: string }
  /** Who talks on this leg sends the caller on, unannounced. */
  | { kind: 'callTransferred'; leg: string; to: Destination }
  /**
   * Who talks on this leg holds the caller and rings a colleague, to say who comes. They hang up, or hand over to that
   * colleague, and the caller is put through; or they take the caller back.
   */
  | { kind: 'consultationAsked'; leg: string; personId: string }
  | { kind: 'callerRetrieved'; leg: string }
  /** A key pressed on a leg. */
  | { kind: 'keyPressed'; leg: string; key: string }
  /** The caller said something on this leg, as the recogniser heard it, or typed it in answer to a text. */
  | { kind: 'spoken'; leg: string; words: string; by: 'voice' | 'text' }
  /** What a bot says, or why nothing came of it. */
  | { kind: 'botAnswered'; callId: string; asked: number; answer: BotAnswer | null; why: BotFault | null }
  /** What a voicemail box holds, for whoever opens it from a phone. */
  | { kind: 'boxRead'; callId: string; asked: number; messages: MenuMessage[] }
  /** Somebody pauses the recording of a talk by hand, or lets it go on. Whether they may is for the host, but for who talks. */
  | { kind: 'recordingPaused'; callId: string; personId: string; paused: boolean }
  /** The host's answer to `lookUp`: whom the customer system knows; null for nobody. */
  | { kind: 'lookedUp'; callId: string; asked: number; record: RecordFacts | null; failed: boolean }
  /** The pages of a fax are in, and kept as a file. */
  | { kind: 'faxReceived'; callId: string; pages: number }
  /** Messages were deleted from a box, or brought back: how many it holds more, or fewer. */
  | { kind: 'messagesChanged'; boxId: string; by: number }
  /** A member of a ring group takes part in it, or sits out for the time being. */
  | { kind: 'groupPresence'; groupId: string; personId: string; takesPart: boolean }
  /** How many text conversations somebody has open now. */
  | { kind: 'textsOpen'; personId: string; count: number }
  /** The room for recordings is used up, or there is some again. */
  | { kind: 'storageChanged'; full: boolean }
  /** A dialled contact's greeting is over, and who it was. */
  | { kind: 'greetingEnded'; leg: string; by: 'person' | 'machine' }
  /** The host's answer to `wantContacts`; `askAgainAt` says when there may be more, null when never. */
  | {
      kind: 'contactsLeased';
      campaignId: string;
      contacts: LeasedContact[];
      askAgainAt: number | null;
    }
  /** Contacts of this campaign may be due again, after an import or an outcome. */
  | { kind: 'contactsChanged'; campaignId: string }
  /** What the days before brought; taken only by a campaign that knows of none. */
  | { kind: 'talliesKnown'; campaignId: string; tallies: DayTally[] }
  /** Never to be called again, by any campaign. */
  | { kind: 'optedOut'; e164: string }
  /**
   * Stands where an event stood that could not be taken or written: it changes nothing of what that event would have.
   * The calls named end as lost, and the wrap-up and back-off of the people named end, before any timer fires.
   */
  | { kind: 'setAside'; what: string; callIds: string[]; personIds: string[] };

/** `seq` is gapless, `at` is UTC milliseconds; an `at` before the engine's own time counts as that time. */
export type ExchangeEvent = ExchangeEventBody & { seq: number; at: number };

export type ExchangeEventKind = ExchangeEventBody['kind'];

/** Why an event was not taken. It changed nothing but the engine's time. */
export type Refusal =
  /** A field is missing, or is not what it should be. */
  | 'malformed'
  | 'unknownCall'
  | 'callExists'
  | 'unknownLeg'
  | 'legNotRinging'
  | 'legNotConnected'
  | 'unknownPhone'
  | 'unknownPerson'
  | 'notSignedIn'
  | 'noSeat'
  | 'atLimit'
  | 'notWrappingUp'
  | 'unknownCampaign'
  | 'unknownBox'
  | 'unknownRingGroup'
  | 'notAMember'
  | 'notExpected'
  | 'notReachable'
  | 'cannotBeRung'
  | 'noOutsideNumber'
  | 'trunkFull'
  | 'lineOpen'
  | 'notRecording'
  | 'mayNotPause';
