import type { RecordTalk } from '../model/recording.ts';
import type { LegFailure } from '../story/facts.ts';
import type { Transport } from '../phones/catalogue.ts';

/** Ways in which a stand-in phone can be told to go wrong. */
export const misbehaviours = [
  'wrongSecret',
  'wrongTransport',
  'wrongServer',
  'unknownAccount',
  'tooBrief',
  'silent',
  'oddCodecs',
  'behindRouter',
  'moving',
] as const;

export type Misbehaviour = (typeof misbehaviours)[number];

/** How the stand-in customer system can be told to behave: well, too slowly, as if broken, never answering, without end. */
export const harbourMoods = ['well', 'slow', 'broken', 'hung', 'huge'] as const;

export type HarbourMood = (typeof harbourMoods)[number];

/** A device that a stand-in plays, and how it goes wrong. */
export interface PlayedDevice {
  account: string;
  misbehaves: Misbehaviour | null;
  /** New messages its waiting lamp tells of (RFC 3842). */
  newMessages?: number;
  /** What its display showed when it rang last, line by line. */
  display?: string[];
}

/** A letter in the stand-in mailbox. */
export interface Letter {
  to: string;
  subject: string;
  text: string;
  at: number;
}

/**
 * The device protocol: JSON messages between Night Bell and a gateway of phones and lines, over a WebSocket. The
 * stand-ins speak it; a gateway to real equipment would too. docs/device-protocol.md tells the story in order.
 */
export type FromGateway =
  /** First message: what is alive on this side, so that both sides agree after a restart. */
  | {
      kind: 'hello';
      gateway: string;
      legs: string[];
      calls: string[];
      /** Hosts of the providers this gateway reaches. */
      trunkHosts?: string[];
    }
  /** A SIP message of one device; `source` is the address it came from. */
  | { kind: 'sip'; device: string; message: string; source?: string }
  /** A SIP message of a provider, for one of our accounts there. */
  | { kind: 'trunkSip'; trunkHost: string; account: string; message: string }
  | { kind: 'answered'; leg: string }
  | { kind: 'failed'; leg: string; cause: LegFailure }
  | { kind: 'hungUp'; leg: string }
  /** A key pressed on a leg. */
  | { kind: 'key'; leg: string; key: string }
  /** A dialled contact's greeting is over, and who it was. */
  | { kind: 'greeted'; leg: string; by: 'person' | 'machine' }
  /** A caller; `ref` comes back with the call's id, `trunkHost` says by which provider it came. */
  | {
      kind: 'call';
      ref: string;
      to: string;
      from: string;
      callerName?: string;
      trunkHost?: string;
      /** A phone of ours that dialled it. */
      device?: string;
    }
  /** What a caller said on a leg that is listened to, in words as they were recognised. */
  | { kind: 'spoken'; leg: string; words: string }
  | { kind: 'callerHungUp'; callId: string }
  /** A part of a fax's file, in base64, in order: a message is no longer than `longestMessage`. */
  | { kind: 'faxPart'; callId: string; file: string }
  /** The pages of a fax are all sent: a PDF, of which this is the last part. */
  | { kind: 'fax'; callId: string; pages: number; file: string }
  /** A part of what was recorded in voicemail, in base64, in order. */
  | { kind: 'recordingPart'; callId: string; file: string }
  /** What was recorded is all sent: a WAV file, of which this is the last part. */
  | { kind: 'recording'; callId: string; file: string }
  /** What was recorded of a talk, in base64, in order, and the last of it: a WAV file without what was paused. */
  | { kind: 'talkPart'; callId: string; part: number; file: string }
  | { kind: 'talk'; callId: string; part: number; file: string }
  /** What was recorded as a greeting, in base64, in order, and the last of it: a WAV file. */
  | { kind: 'greetingPart'; callId: string; file: string }
  | { kind: 'greeting'; callId: string; file: string }
  /** A text to a number of ours. `price` is what the provider asks for it, decimal; a `ref` that came before is the same text. */
  | { kind: 'text'; ref: string; to: string; from: string; body: string; price: string }
  /** What became of a text of ours. */
  | { kind: 'textSent'; ref: string; price: string }
  | { kind: 'textFailed'; ref: string; why: string }
  | {
      kind: 'trafficState';
      on: boolean;
      speed: number;
      devices: PlayedDevice[];
      frontDesk: string[];
      letters?: Letter[];
    }
  | { kind: 'enrolled'; code: string; account: string | null };

export type ToGateway =
  | { kind: 'sip'; device: string; message: string }
  /** A SIP message of ours to a provider; `certificate` is shown where the transport is TLS. */
  | {
      kind: 'trunkSip';
      trunkHost: string;
      account: string;
      transport: Transport;
      certificate: string | null;
      message: string;
    }
  | {
      kind: 'ring';
      effect: string;
      device: string;
      leg: string;
      callId: string;
      from: string;
      ringSeconds: number;
      /** What the display says, line by line; none for calls of no queue. */
      shows?: string[];
      /** Lift at once, without anybody's doing. */
      answerBySelf: boolean;
    }
  /** Dial a public number over a trunk: a contact, an agent reached outside, whom a call is sent on to, or a trial. */
  | {
      kind: 'dial';
      effect: string;
      leg: string;
      callId: string;
      trunkHost: string;
      account: string;
      digits: string;
      callerId: string;
      ringSeconds: number;
      party: 'contact' | 'agent' | 'outside' | 'trial';
    }
  /** The leg is carried by a line that is open already. */
  | { kind: 'takeLine'; effect: string; leg: string; line: string }
  | { kind: 'stopRinging'; effect: string; leg: string }
  | { kind: 'connected'; effect: string; callId: string; leg: string }
  | { kind: 'hold' | 'resume'; effect: string; leg: string }
  /**
   * `about` names the queue or number for which somebody reached outside is rung; it is said before `acceptCall`. What is
   * said to who hears `waiting` interrupts it only; `promptId` is its music, else the house's own.
   */
  | {
      kind: 'play';
      effect: string;
      callId: string;
      leg: string;
      prompt: string;
      about?: string;
      promptId?: string;
    }
  /** A prompt of the library, or words for a voice (null), with its length; any of `keys` may be pressed while it plays and after. */
  | {
      kind: 'say';
      effect: string;
      callId: string;
      leg: string;
      promptId: string | null;
      words: string;
      seconds: number;
      keys: readonly string[];
      /** Nothing asks for one of the keys: whoever waits may press it, or not. */
      optional?: boolean;
    }
  /** Into a conference room; with a tone for those in it. */
  | { kind: 'joinRoom'; effect: string; callId: string; leg: string; roomId: string; tone: boolean }
  /** Answer with the fax tone and take the pages. */
  | { kind: 'receiveFax'; effect: string; callId: string; leg: string }
  /** Play the greeting (null: the default) and a tone, then record until the caller leaves or the time is over. */
  | {
      kind: 'record';
      effect: string;
      callId: string;
      leg: string;
      promptId: string | null;
      greetingSeconds: number;
      maxMessageSeconds: number;
    }
  /** Play a message of a voicemail box (GET /api/messages/…/sound), after what is playing. */
  | {
      kind: 'playMessage';
      effect: string;
      callId: string;
      leg: string;
      messageId: string;
      seconds: number;
      keys: readonly string[];
    }
  /** After a tone, record a greeting; or stop, and send it. */
  | { kind: 'recordGreeting'; effect: string; callId: string; leg: string; does: 'start' | 'stop' }
  /** Listen to this leg for so many seconds, and tell what is said; `phrases` are expected, none for anything. */
  | {
      kind: 'listen';
      effect: string;
      callId: string;
      leg: string;
      phrases: readonly string[];
      seconds: number;
    }
  /** Record what caller and agent say as this part of the call, pause, go on, or stop and send it. */
  | { kind: 'recordTalk'; effect: string; callId: string; leg: string; part: number; does: RecordTalk }
  | { kind: 'released'; effect: string; callId: string; leg: string }
  | { kind: 'callAccepted'; ref: string; callId: string }
  /** About a message of the gateway's: it was taken after something odd in it was cleaned, or was not taken. */
  | { kind: 'remark'; of: string; taken: boolean; why: string }
  /** Send a text over this provider; `ref` names it, and comes once more when nothing was heard of it. */
  | { kind: 'sendText'; ref: string; trunkHost: string; to: string; from: string; body: string }
  /** A text that came was kept, or is taken nowhere and costs nothing. */
  | { kind: 'textTaken'; ref: string; why: string | null }
  /** Have this phone dial, as if its person did. */
  | { kind: 'dialOn'; device: string; to: string }
  /** To the stand-ins only: what an administrator asks them to play. */
  | { kind: 'placeCall'; ref: string; to: string; from: string; callerName?: string }
  | { kind: 'traffic'; on: boolean; speed: number }
  /** The numbers that stand-in callers call, with their shares. */
  | { kind: 'callable'; numbers: { to: string; share: number }[] }
  | { kind: 'enrol'; code: string }
  /** To the stand-ins only: somebody outside texts this. */
  | { kind: 'placeText'; to: string; from: string; body: string }
  /** To the front desk: somebody calls for help. */
  | { kind: 'frontDesk'; text: string }
  /** Register again now. */
  | { kind: 'askAgain'; device: string }
  /** To the stand-ins only: go wrong in this way, or behave again. */
  | { kind: 'misbehave'; device: string; how: Misbehaviour | null }
  /** How Harbour Book, the stand-in customer system, is to behave. */
  | { kind: 'mood'; mood: HarbourMood };
