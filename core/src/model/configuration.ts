import type { Destination } from './destination.ts';

/**
 * The compiled set-up the exchange reads. Immutable: a change of the set-up makes new items, which enter
 * the exchange as a `configurationChanged` event. Everything survives JSON.
 */
export interface Configuration {
  settings: ExchangeSettings;
  people: PersonItem[];
  phones: PhoneItem[];
  queues: QueueItem[];
  numbers: NumberItem[];
  voicemailBoxes: VoicemailBoxItem[];
}

/** What happens to an agent who does not take an offered call. */
export interface ExchangeSettings {
  /** Rest in seconds of an agent who let it ring. */
  restAfterNoAnswerSeconds: number;
  /** Rest in seconds of an agent who declined, or whose phone was busy or could not be reached. */
  restAfterDeclineSeconds: number;
  /** Unanswered offers in a row after which an agent is set away with the reason 'not answering'. */
  missesBeforeAway: number;
}

export const defaultSettings: ExchangeSettings = {
  restAfterNoAnswerSeconds: 30,
  restAfterDeclineSeconds: 10,
  missesBeforeAway: 3,
};

export interface PersonItem {
  id: string;
  name: string;
  extension: string | null;
  /** Calls this person may carry at once, from 1. They talk on one at most; the others are held. */
  callLimit: number;
  /** Seconds a call straight to this person rings. */
  ringSeconds: number;
  /** Whether the phone's registration signs a signed-out agent in. */
  signInWithPhone: boolean;
  voicemailBoxId: string | null;
}

export interface PhoneItem {
  id: string;
  personId: string;
  /** SIP account, the user part of its address of record. */
  account: string;
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
  /** Callers that may wait; null for no limit. */
  maxWaiting: number | null;
  whenFull: Destination;
  /** Seconds a caller may wait; null for no limit. */
  maxWaitSeconds: number | null;
  whenTooLong: Destination;
  /** Where callers go when no member is signed in; null lets them wait. */
  whenNobody: Destination | null;
}

export interface NumberItem {
  id: string;
  e164: string;
  label: string;
  /** Null when the number leads nowhere. */
  plan: Plan | null;
}

export interface VoicemailBoxItem {
  id: string;
  name: string;
  greetingSeconds: number;
  maxMessageSeconds: number;
}

/** A compiled answering plan. A number routed straight to a destination is a plan of one step. */
export interface Plan {
  id: string;
  version: number;
  steps: PlanStep[];
  /** Where the call goes when a step leads nowhere or the plan runs in circles. */
  fallback: Destination;
}

export interface PlanStep {
  id: string;
  destination: Destination;
}

/** Items that changed, whole, and ids of those that are gone. */
export interface ConfigurationChanges {
  settings?: ExchangeSettings;
  people?: PersonItem[];
  phones?: PhoneItem[];
  queues?: QueueItem[];
  numbers?: NumberItem[];
  voicemailBoxes?: VoicemailBoxItem[];
  gone?: string[];
}

export const emptyConfiguration: Configuration = {
  settings: defaultSettings,
  people: [],
  phones: [],
  queues: [],
  numbers: [],
  voicemailBoxes: [],
};

const collections = ['people', 'phones', 'queues', 'numbers', 'voicemailBoxes'] as const;

/** The one-step plan of a number that leads straight to `destination`. */
export function directPlan(numberId: string, version: number, destination: Destination): Plan {
  return {
    id: `${numberId}.direct`,
    version,
    steps: [{ id: 'only', destination }],
    fallback: { kind: 'end' },
  };
}

/**
 * What turns `before` into `after`, or null when nothing changed. Items are compared by their JSON, so
 * compile both with the same key order.
 */
export function configurationDifference(
  before: Configuration,
  after: Configuration,
): ConfigurationChanges | null {
  const changes: ConfigurationChanges = {};
  const gone: string[] = [];
  let changed = false;
  if (JSON.stringify(before.settings) !== JSON.stringify(after.settings)) {
    changes.settings = after.settings;
    changed = true;
  }
  for (const collection of collections) {
    const known = new Map<string, string>(before[collection].map((item) => [item.id, JSON.stringify(item)]));
    const fresh = after[collection].filter((item) => known.get(item.id) !== JSON.stringify(item));
    const kept = new Set<string>(after[collection].map((item) => item.id));
    for (const id of known.keys()) if (!kept.has(id)) gone.push(id);
    if (fresh.length > 0) {
      Object.assign(changes, { [collection]: fresh });
      changed = true;
    }
  }
  if (gone.length > 0) changes.gone = gone;
  return changed || gone.length > 0 ? changes : null;
}
