import type { ConfigurationChanges } from '../model/configuration.ts';

/** Why a rung phone did not take the call, as its device reports it. */
export type LegFailure = 'declined' | 'busy' | 'unreachable';

/** What can happen to the exchange. Nothing else changes its state. */
export type ExchangeEventBody =
  | { kind: 'configurationChanged'; changes: ConfigurationChanges }
  /** Time passed: due timers fire, nothing else. */
  | { kind: 'clock' }
  /** `to` is a number held (E.164) or an extension. Larger `priority` is served first. */
  | {
      kind: 'callArrived';
      callId: string;
      to: string;
      from: string;
      callerName?: string;
      priority?: number;
      standIn?: boolean;
    }
  | { kind: 'callerHungUp'; callId: string }
  | { kind: 'legAnswered'; leg: string }
  | { kind: 'legFailed'; leg: string; cause: LegFailure }
  /** The agent's side hung up, or its device was lost. */
  | { kind: 'legEnded'; leg: string }
  | { kind: 'phoneRegistered'; phoneId: string; address: string }
  | { kind: 'phoneUnregistered'; phoneId: string; why: string }
  | { kind: 'phoneRefused'; phoneId: string; why: string }
  | { kind: 'agentSignedIn'; personId: string }
  | { kind: 'agentAway'; personId: string; reason: string }
  | { kind: 'agentSignedOut'; personId: string }
  /** The agent ends the wrap-up before its time. */
  | { kind: 'wrapUpEnded'; personId: string };

/** `seq` is gapless, `at` is UTC milliseconds; an `at` before the engine's own time counts as that time. */
export type ExchangeEvent = ExchangeEventBody & { seq: number; at: number };

export type ExchangeEventKind = ExchangeEventBody['kind'];

/** Why an event was not taken. It changed nothing but the engine's time. */
export type Refusal =
  | 'unknownCall'
  | 'callExists'
  | 'unknownLeg'
  | 'legNotRinging'
  | 'legNotConnected'
  | 'unknownPhone'
  | 'unknownPerson'
  | 'notSignedIn'
  | 'notWrappingUp';
