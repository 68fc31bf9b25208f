import { overlayOf } from '../collections/overlay.ts';
import type { Configuration } from '../model/configuration.ts';
import type { Reply } from '../plan/step-kind.ts';
import type { Detail, StoryRecord } from '../story/records.ts';
import { Agent } from './agents/agent.ts';
import { askPersistentLine, closeLineOf } from './agents/persistent-line.ts';
import { choosePhone, losePhone, registerPhone } from './agents/phones.ts';
import { endBackOff, endWrapUp, endWrapUpEarly, signIn } from './agents/presence.ts';
import {
  activityTimedOut,
  contactGreeted,
  keyPressed,
  legAnswered,
  legEnded,
  legFailed,
  spoken,
} from './calls/activities.ts';
import { Call } from './calls/call.ts';
import { faxReceived } from './calls/fax.ts';
import { callerHangsUp } from './calls/hang-up.ts';
import { changeConfiguration } from './configuration.ts';
import { countTexts, setAway, signOut } from './duty.ts';
import type { Effect } from './kernel/effects.ts';
import { isWellFormed } from './kernel/event-shape.ts';
import type { ExchangeEvent, Refusal } from './kernel/events.ts';
import type { PassedStep } from './kernel/journal.ts';
import { setGroupPresence } from './groups/members.ts';
import { emptyState, type State } from './kernel/state.ts';
import { clearTimer, type Timer, type TimerName } from './kernel/timers.ts';
import { noAgentInTime, optOut } from './outbound/contacts.ts';
import { launchDue } from './outbound/launch.ts';
import { contactsChanged, knowTallies, takeContacts } from './outbound/supply.ts';
import { serveAgent, serveCall } from './queues/dispatch.ts';
import { announce } from './queues/announcements.ts';
import { offerCallBack } from './queues/call-back.ts';
import { callBackFailed } from './queues/calling-back.ts';
import { stageBegan } from './queues/waiting.ts';
import { closingCame, waitRanOut } from './queues/ways-out.ts';
import { arrive } from './route/arrival.ts';
import { activityLeft, sendTo, stepReplied } from './route/run.ts';
import { ExchangeFault, namesOf, setAside } from './set-aside.ts';
import { type ExchangeSnapshot, restoreState, takeSnapshot } from './snapshot.ts';
import { transfer } from './transfer/blind-transfer.ts';
import { consult, retrieveCaller } from './transfer/consultation.ts';
import { pauseRecording } from './media/recording.ts';
import { changeMessages } from './media/voicemail.ts';
import { pickUp } from './transfer/pick-up.ts';

/** Fields of the state whose values nobody changes in place. */
const dataFields: ReadonlySet<PropertyKey> = new Set([
  ...[
    'settings',
    'dialPlan',
    'blocked',
    'person',
    'item',
    'record',
    'contact',
    'fallback',
    'lastDestination',
    'plan',
    'gaps',
  ],
  // Of the set-up by id.
  ...[
    'numbers',
    'numberByDigits',
    'boxes',
    'outsideNumbers',
    'rooms',
    'faxBoxes',
    'codes',
    'hours',
    'prompts',
    'regions',
    'bots',
    'plans',
  ],
]);

/** What came of one event. `refusal` is null when the event was taken. */
export interface Handled {
  effects: Effect[];
  records: StoryRecord[];
  /** Steps of plans that calls entered; none unless everything was asked for. */
  passed: PassedStep[];
  refusal: Refusal | null;
}

/**
 * The engine that decides every call: live, test, drill and rehearsal alike. Sans-I/O and deterministic: the
 * same events give the same effects, byte for byte. Time and everything random come in with events.
 *
 * @example
 * const exchange = new Exchange();
 * exchange.handle({ seq: 1, at: 0, kind: 'configurationChanged', changes: configuration });
 * exchange.handle({ seq: 2, at: 5_000, kind: 'callArrived', callId: 'c1', to: '+12065550140', from: '+13605550117' });
 */
export class Exchange {
  private readonly state: State;

  constructor(state: State = emptyState()) {
    this.state = state;
  }

  /** An exchange that goes on where the snapshot was taken. */
  static restore(snapshot: ExchangeSnapshot): Exchange {
    return new Exchange(restoreState(snapshot));
  }

  /** An empty exchange whose next event is `seq` + 1: for a host that cannot continue an older engine's state. */
  static startingAfter(seq: number): Exchange {
    const state = emptyState();
    state.seq = seq;
    return new Exchange(state);
  }

  /** Everything the exchange knows, as data that survives JSON. */
  snapshot(): ExchangeSnapshot {
    return takeSnapshot(this.state);
  }

  /** A second exchange with the same past. */
  fork(): Exchange {
    return Exchange.restore(this.snapshot());
  }

  /**
   * A second exchange with the same past that copies only what it changes, for a test call: made in no time, however
   * many people there are. This one must not take events while the other is used.
   */
  overlay(): Exchange {
    return new Exchange(overlayOf(this.state, (property) => dataFields.has(property)));
  }

  /** Engine time, UTC milliseconds. */
  get now(): number {
    return this.state.now;
  }

  get seq(): number {
    return this.state.seq;
  }

  /** When the exchange wants a `clock` event at the latest, or null when no timer runs. */
  nextTimerAt(): number | null {
    return this.state.timers.peek()?.at ?? null;
  }

  /** Read-only: hosts look, only events change anything. */
  view(): Readonly<State> {
    return this.state;
  }

  /**
   * Takes one event: first every timer due at or before its time, in order, each at its own instant; then
   * the event. Throws when `seq` is not the next one: a host that skipped an event must rebuild. Throws `ExchangeFault`
   * when something broke on the way: the state is half changed then, and the host must rebuild without this event.
   */
  handle(event: ExchangeEvent, detail: Detail = 'bounded'): Handled {
    const state = this.state;
    if (event.seq !== state.seq + 1) {
      throw new Error(`event ${event.seq} after ${state.seq}: events are numbered without gaps`);
    }
    if (!Number.isSafeInteger(event.at))
      throw new RangeError(
        `event ${event.seq} has no time: milliseconds are whole numbers, not ${String(event.at)}`,
      );
    state.seq = event.seq;
    state.out = { detail, effects: [], records: [], passed: [] };
    try {
      const refusal = this.take(event);
      const { effects, records, passed } = state.out;
      return { effects, records, passed, refusal };
    } catch (error) {
      state.seq = event.seq - 1;
      throw new ExchangeFault(event, namesOf(event, state.atHand), error);
    } finally {
      state.atHand = null;
      state.unattendedUntil = null;
    }
  }

  private take(event: ExchangeEvent): Refusal | null {
    const state = this.state;
    const at = Math.max(state.now, event.at);
    const wellFormed = isWellFormed(event);
    if (event.kind === 'setAside' && wellFormed) {
      // Before the first timer that is due, at its instant: it may be the one that breaks.
      state.now = Math.min(at, Math.max(state.now, this.nextTimerAt() ?? at));
      setAside(state, event);
    }
    state.unattendedUntil = event.kind === 'clock' && event.unattended === true ? at : null;
    // At one instant what sets somebody free comes before what runs out, an event as much as a timer; who comes in, last.
    const arrives = event.kind === 'callArrived';
    this.fireDue(at, arrives ? 'all' : 'releases');
    state.now = at;
    state.atHand = null;
    const refusal = wellFormed ? apply(state, event) : 'malformed';
    settle(state);
    if (!arrives) this.fireDue(at, 'all');
    return refusal;
  }

  /** Fires timers due before `at`, and of those due at it all, or only those that set somebody free. */
  private fireDue(at: number, then: 'all' | 'releases'): void {
    const state = this.state;
    for (let timer = state.timers.peek(); timer !== undefined && timer.at <= at;) {
      if (timer.at === at && then === 'releases' && timer.phase > 0) return;
      state.now = Math.max(state.now, timer.at);
      state.atHand = timer.owner as State['atHand'];
      fire(state, timer);
      const next = state.timers.peek();
      // All releases of one instant come before anybody is chosen: who is free then is free for all callers.
      if (next === undefined || next.at !== timer.at || next.phase !== timer.phase) settle(state);
      timer = state.timers.peek();
    }
  }
}

function apply(state: State, event: ExchangeEvent): Refusal | null {
  switch (event.kind) {
    case 'clock':
      return null;
    case 'configurationChanged':
      changeConfiguration(state, event.changes);
      return null;
    case 'callArrived':
      return arrive(state, event);
    case 'callerHungUp':
      return callerHangsUp(state, event.callId);
    case 'legAnswered':
      return legAnswered(state, event.leg);
    case 'legFailed':
      return legFailed(state, event.leg, event.cause);
    case 'legEnded':
      return legEnded(state, event.leg);
    case 'phoneRegistered':
      return registerPhone(state, event.phoneId, event.address);
    case 'phoneUnregistered':
      return losePhone(state, event.phoneId, 'unregistered', event.why);
    case 'phoneRefused':
      return losePhone(state, event.phoneId, 'refused', event.why);
    case 'agentSignedIn':
      return signIn(state, event.personId, event.asUsual === true);
    case 'agentAway':
      return setAway(state, event.personId, event.reason);
    case 'agentSignedOut':
      return signOut(state, event.personId);
    case 'wrapUpEnded':
      return endWrapUpEarly(state, event.personId);
    case 'phoneChosen':
      return choosePhone(state, event.personId, event.phoneId);
    case 'persistentLineAsked':
      return askPersistentLine(state, event);
    case 'persistentLineClosed':
      return closeLineOf(state, event.personId);
    case 'callPickedUp':
      return pickUp(state, event.callId, event.phoneId);
    case 'callTransferred':
      return transfer(state, event.leg, event.to);
    case 'consultationAsked':
      return consult(state, event.leg, event.personId);
    case 'callerRetrieved':
      return retrieveCaller(state, event.leg);
    case 'keyPressed':
      return keyPressed(state, event.leg, event.key);
    case 'botAnswered': {
      const { callId, asked, answer, why } = event;
      return stepReplied(state, callId, { of: 'bot', asked, answer, why } as Reply);
    }
    case 'boxRead': {
      const { callId, asked, messages } = event;
      return stepReplied(state, callId, { of: 'box', asked, messages });
    }
    case 'spoken':
      return spoken(state, event.leg, { words: event.words, by: event.by });
    case 'recordingPaused':
      return pauseRecording(state, event.callId, event.personId, event.paused);
    case 'lookedUp': {
      const { callId, asked, record, failed } = event;
      return stepReplied(state, callId, { of: 'record', asked, record, failed });
    }
    case 'messagesChanged':
      return changeMessages(state, event.boxId, event.by);
    case 'groupPresence':
      return setGroupPresence(state, event.groupId, event.personId, event.takesPart);
    case 'textsOpen':
      return countTexts(state, event.personId, event.count);
    case 'storageChanged':
      state.storageFull = event.full;
      return null;
    case 'greetingEnded':
      return contactGreeted(state, event.leg, event.by);
    case 'faxReceived':
      return faxReceived(state, event.callId, event.pages);
    case 'contactsLeased':
      return takeContacts(state, event);
    case 'contactsChanged':
      return contactsChanged(state, event.campaignId);
    case 'talliesKnown':
      return knowTallies(state, event);
    case 'optedOut':
      optOut(state, event);
      return null;
    case 'setAside':
      return null;
  }
}

/** What each timer does when it is due; it has been cleared before. */
const due: Record<TimerName, (state: State, owner: never) => void> = {
  wrapUp: endWrapUp satisfies (state: State, agent: Agent) => void,
  backOff: endBackOff satisfies (state: State, agent: Agent) => void,
  activity: activityTimedOut satisfies (state: State, call: Call) => void,
  maxWait: waitRanOut satisfies (state: State, call: Call) => void,
  closing: closingCame satisfies (state: State, call: Call) => void,
  stage: stageBegan satisfies (state: State, call: Call) => void,
  offerCallBack: offerCallBack satisfies (state: State, call: Call) => void,
  announce: announce satisfies (state: State, call: Call) => void,
  connectBy: noAgentInTime satisfies (state: State, call: Call) => void,
  // Asked again when the event is done with, as campaigns always are.
  askContacts: () => undefined,
};

function fire(state: State, timer: Timer): void {
  clearTimer(state, timer.owner, timer.name);
  due[timer.name](state, timer.owner as never);
}

/** Works off what an event left to be done; then campaigns launch what they may. */
function settle(state: State): void {
  drain(state);
  launchDue(state);
  drain(state);
}

function drain(state: State): void {
  const { workList } = state;
  for (let next = workList.take(); next !== null; next = workList.take()) {
    if (next instanceof Agent) {
      state.atHand = next;
      serveAgent(state, next);
    } else if (next instanceof Call) {
      state.atHand = next;
      serveCall(state, next);
    } else {
      state.atHand = next.call;
      if (next.call.activity.kind === 'ended') continue;
      if ('to' in next) sendTo(state, next.call, next.to);
      else if ('notReached' in next) callBackFailed(state, next.call, next.notReached, next.over);
      else activityLeft(state, next.call, next.exit, next.otherwise, next.miss);
    }
  }
}

/** An exchange that has taken in `configuration` as its first event, at `at`. */
export function exchangeOver(configuration: Configuration, at: number): Exchange {
  const exchange = new Exchange();
  exchange.handle({ seq: 1, at, kind: 'configurationChanged', changes: configuration }, 'none');
  return exchange;
}
