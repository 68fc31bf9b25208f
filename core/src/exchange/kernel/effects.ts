import type { DoneWithMessage } from '../../model/voicemail-menu.ts';
import type { RecordTalk } from '../../model/recording.ts';
import type { CallFacts } from '../../story/facts.ts';

/** Why a leg was released, in the trade's causes. */
export type ReleaseCause =
  | 'normal'
  | 'busy'
  | 'noAnswer'
  | 'callerGone'
  | 'agentGone'
  | 'turnedAway'
  | 'unallocatedNumber'
  | 'optedOut';

/** Why a phone stops ringing. */
export type StopRinging =
  | 'noAnswer'
  | 'notAccepted'
  | 'callerHungUp'
  | 'callerLeft'
  | 'takenElsewhere'
  | 'signedOut'
  | 'setAway'
  | 'personRetired'
  | 'callsForHelp'
  | 'abandoned'
  | 'optedOut';

/** What is played into a leg. `acceptCall` asks somebody reached outside for the key that takes the call. */
export type Prompt =
  | 'waiting'
  | 'ringing'
  | 'notTaken'
  | 'acceptCall'
  | 'lineHeld'
  | 'lineBusy'
  | 'abandoned'
  | 'enterPin'
  | 'boxFull';

/** What the host is to do, in order. Named `seq.n` by the host; devices ignore repeats. */
export type Effect =
  | {
      kind: 'ring';
      callId: string;
      leg: string;
      phoneId: string;
      personId: string;
      from: string;
      callerName: string | null;
      to: string;
      queueId: string | null;
      ringSeconds: number;
      /** The phone lifts at once, without the agent's doing. */
      answerBySelf: boolean;
    }
  /** Dial a public number over a trunk: a contact, an agent reached outside, or whom a call is sent on to. */
  | {
      kind: 'dial';
      callId: string;
      leg: string;
      trunkId: string;
      /** As the dialling rules made them. */
      digits: string;
      callerId: string;
      ringSeconds: number;
      party: 'contact' | 'agent' | 'outside';
      /** Set for an agent's outside number. */
      personId: string | null;
      queueId: string | null;
      /** Set for a campaign's contact, with the number of this attempt. */
      contact: { id: string; campaignId: string; attempt: number } | null;
    }
  /** Somebody of ours calls for help; the front desk hears of it, with the address given. */
  | {
      kind: 'emergency';
      callId: string;
      personId: string;
      phoneId: string;
      digits: string;
      address: string | null;
    }
  /** The call is carried by a line that is open already. */
  | { kind: 'takeLine'; callId: string; leg: string; line: string; queueId: string | null }
  | { kind: 'stopRinging'; callId: string; leg: string; why: StopRinging }
  | { kind: 'connect'; callId: string; bridge: string; legs: [one: string, other: string] }
  | { kind: 'hold'; callId: string; leg: string }
  | { kind: 'resume'; callId: string; leg: string }
  /** `waiting` goes on until something else is played, and again behind what is said meanwhile; `promptId` is its music.
   * `about` is said with it: the queue or number for which somebody reached outside is rung. */
  | { kind: 'play'; callId: string; leg: string; prompt: Prompt; about?: string; promptId?: string }
  /** A prompt of the library, or words for a voice (null); `keys` may be pressed while it plays, and after. */
  | {
      kind: 'say';
      callId: string;
      leg: string;
      promptId: string | null;
      words: string;
      seconds: number;
      keys: readonly string[];
      /** Nothing asks for one of the keys: whoever waits may press it, or not. */
      optional?: boolean;
    }
  /** A greeting and a tone, then what the caller says is recorded. `promptId` is null for the default greeting. */
  | {
      kind: 'record';
      callId: string;
      leg: string;
      boxId: string;
      promptId: string | null;
      greetingSeconds: number;
      maxMessageSeconds: number;
    }
  | { kind: 'joinRoom'; callId: string; leg: string; roomId: string; tone: boolean }
  | { kind: 'receiveFax'; callId: string; leg: string; boxId: string }
  | { kind: 'release'; callId: string; leg: string; cause: ReleaseCause }
  | { kind: 'callEnded'; facts: CallFacts }
  | { kind: 'agentChanged'; personId: string }
  | { kind: 'campaignChanged'; campaignId: string }
  /** Hand out at most `count` contacts that are due, by a `contactsLeased` event. */
  | { kind: 'wantContacts'; campaignId: string; count: number }
  /** Contacts that will not be called now; their attempt did not happen. */
  | { kind: 'returnContacts'; campaignId: string; contactIds: string[] }
  /** A text to the caller, from a number of ours. */
  | { kind: 'text'; callId: string; numberId: string; to: string; body: string }
  /** Listen to what is said on this leg for so many seconds; `spoken` tells. Phrases are what is expected. */
  | { kind: 'listen'; callId: string; leg: string; phrases: readonly string[]; seconds: number }
  /** Ask a bot outside what to say; answered by `botAnswered`. */
  | {
      kind: 'askBot';
      callId: string;
      asked: number;
      botId: string;
      turn: number;
      said: string;
      language: string | null;
      from: string;
      to: string;
      found: Readonly<Record<string, string>>;
      withinSeconds: number;
    }
  /** Say what a voicemail box holds; answered by `boxRead`. */
  | { kind: 'readBox'; callId: string; asked: number; boxId: string }
  | {
      kind: 'playMessage';
      callId: string;
      leg: string;
      messageId: string;
      seconds: number;
      keys: readonly string[];
    }
  /** Whoever opened a box heard a message, deleted it, or brought it back. */
  | {
      kind: 'doneWithMessage';
      callId: string;
      boxId: string;
      messageId: string;
      what: DoneWithMessage;
      personId: string | null;
    }
  /** After a tone, record what is said as the greeting of a box; or stop, and send it. */
  | { kind: 'recordGreeting'; callId: string; leg: string; boxId: string; does: 'start' | 'stop' }
  /** A note that goes to the caller's record in the customer system. */
  | { kind: 'recordNote'; callId: string; recordId: string; words: string }
  /** Of a caller's talk with an agent: record it as this part of the call, pause, go on, or stop and send the file. */
  | { kind: 'recordTalk'; callId: string; leg: string; part: number; does: RecordTalk }
  /** A talk that was recorded is over; its sound may come later. */
  | {
      kind: 'talkRecorded';
      callId: string;
      part: number;
      personId: string;
      queueId: string | null;
      planId: string | null;
      from: number;
      recordedMs: number;
      pausedMs: number;
    }
  /** A caller answered a question of a survey. */
  | {
      kind: 'surveyAnswered';
      callId: string;
      question: string;
      answer: number;
      planId: string;
      queueId: string | null;
      personId: string | null;
    }
  /** Ask the customer system who has these digits, in a field or as their number; answered by `lookedUp`. */
  | {
      kind: 'lookUp';
      callId: string;
      asked: number;
      digits: string;
      field: string;
      withinSeconds: number;
    }
  /** Somebody of ours closes sets of opening hours by a code, or opens them (null). */
  | { kind: 'storm'; callId: string; hoursIds: readonly string[]; until: number | null; personId: string }
  /** A caller of the blocked list was turned away. */
  | { kind: 'blockedCaller'; callId: string; blockedId: string }
  /** A member of a ring group takes part in it, or sits out. */
  | { kind: 'groupPresence'; groupId: string; personId: string; takesPart: boolean }
  /** A number outside seems to send calls back to us, and was not called again. */
  | { kind: 'forwardLoop'; callId: string; outsideId: string }
  /** Somebody pressed the key that ends all calls to them. */
  | { kind: 'optOut'; e164: string; callId: string };
