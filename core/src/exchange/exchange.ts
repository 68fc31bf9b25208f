import type { Configuration } from '../model/configuration.ts';
import {
  choosePhone,
  endRest,
  endWrapUp,
  endWrapUpEarly,
  losePhone,
  registerPhone,
  signIn,
} from './agents.ts';
import { contactsChanged, knowTallies, launchDue, takeContacts } from './campaigns.ts';
import { changeConfiguration } from './configuration.ts';
import { noAgentInTime, optOut } from './contacts.ts';
import { serveAgent, serveCall } from './dispatch.ts';
import type { Effect } from './effects.ts';
import { emptyState } from './empty-state.ts';
import { callerHangsUp, messageRanOut } from './ending.ts';
import type { ExchangeEvent, Refusal } from './events.ts';
import { contactGreeted, keyPressed, legAnswered, legEnded, legFailed, rangOut } from './legs.ts';
import { askLine, closeLineOf } from './lines.ts';
import { announce, takeCallerBack } from './announcing.ts';
import { handOver, takeRinging } from './passing.ts';
import { setAway, signOut } from './presence.ts';
import { waitRanOut } from './queueing.ts';
import type { Detail, StoryRecord } from './records.ts';
import { arrive, sendTo } from './routing.ts';
import { faxReceived } from './rooms.ts';
import { restoreState } from './restore.ts';
import { ExchangeFault, namesOf, setAside } from './set-aside.ts';
import { type ExchangeSnapshot, takeSnapshot } from './snapshot.ts';
import { Agent, Call, type Campaign, type State, type Timer } from './state.ts';
import { timerClass } from './timers.ts';

/**
 * Raise on any change that makes the same events give other effects, or that keeps something else; upgrade.ts says how
 * the state of the version before goes on.
 */
export const engineVersion = 7;

/** What came of one event. `refusal` is null when the event was taken. */
export interface Handled {
  effects: Effect[];
  records: StoryRecord[];
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
    return new Exchange(restoreState(snapshot, emptyState()));
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

  /** A second exchange with the same past, for a test call. */
  fork(): Exchange {
    return Exchange.restore(this.snapshot());
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
    state.out = { detail, effects: [], records: [] };
    try {
      const refusal = this.take(event);
      return { effects: state.out.effects, records: state.out.records, refusal };
    } catch (error) {
      state.seq = event.seq - 1;
      throw new ExchangeFault(event, namesOf(event, state.atHand), error);
    } finally {
      state.atHand = null;
    }
  }

  private take(event: ExchangeEvent): Refusal | null {
    const state = this.state;
    const at = Math.max(state.now, event.at);
    if (event.kind === 'setAside') {
      // Before the first timer that is due, at its instant: it may be the one that breaks.
      state.now = Math.min(at, Math.max(state.now, this.nextTimerAt() ?? at));
      setAside(state, event);
    }
    // At one instant what sets somebody free comes before what runs out, an event as much as a timer; who comes in, last.
    const arrives = event.kind === 'callArrived';
    this.fireDue(at, arrives ? 'all' : 'releases');
    state.now = at;
    state.atHand = null;
    const refusal = apply(state, event);
    settle(state);
    if (!arrives) this.fireDue(at, 'all');
    return refusal;
  }

  /** Fires timers due before `at`, and of those due at it all, or only those that set somebody free. */
  private fireDue(at: number, then: 'all' | 'releases'): void {
    const state = this.state;
    for (let timer = state.timers.peek(); timer !== undefined && timer.at <= at;) {
      if (timer.at === at && then === 'releases' && timerClass[timer.kind] > 0) return;
      state.timers.remove(timer);
      state.now = Math.max(state.now, timer.at);
      state.atHand = timer.owner;
      fire(state, timer);
      const next = state.timers.peek();
      // All releases of one instant come before anybody is chosen: who is free then is free for all callers.
      if (next === undefined || next.at !== timer.at || timerClass[next.kind] !== timerClass[timer.kind])
        settle(state);
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
    case 'lineAsked':
      return askLine(state, event);
    case 'lineClosed':
      return closeLineOf(state, event.personId);
    case 'callTaken':
      return takeRinging(state, event.callId, event.phoneId);
    case 'callHandedOver':
      return handOver(state, event.leg, event.to);
    case 'callAnnounced':
      return announce(state, event.leg, event.personId);
    case 'callTakenBack':
      return takeCallerBack(state, event.leg);
    case 'keyPressed':
      return keyPressed(state, event.leg, event.key);
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
    default:
      throw new Error(`no event is called ${(event as { kind: unknown }).kind}`);
  }
}

function fire(state: State, timer: Timer): void {
  switch (timer.kind) {
    case 'wrapUp':
      return endWrapUp(state, timer.owner as Agent);
    case 'rest':
      return endRest(state, timer.owner as Agent);
    case 'ring':
    case 'accept':
      return rangOut(state, timer.owner as Call);
    case 'connectBy':
      return noAgentInTime(state, timer.owner as Call);
    case 'askContacts':
      (timer.owner as Campaign).askTimer = null;
      return;
    case 'message':
      return messageRanOut(state, timer.owner as Call);
    case 'maxWait':
      return waitRanOut(state, timer.owner as Call);
  }
}

/** Works off what an event left to be done; then campaigns launch what they may. */
function settle(state: State): void {
  drain(state);
  launchDue(state);
  drain(state);
}

function drain(state: State): void {
  const todo = state.todo;
  for (let i = 0; i < todo.length; i++) {
    const next = todo[i]!;
    state.atHand = 'send' in next ? next.send : next;
    if (next instanceof Agent) serveAgent(state, next);
    else if (next instanceof Call) serveCall(state, next);
    else if (next.send.stage !== 'ended') sendTo(state, next.send, next.to, next.inChain);
  }
  todo.length = 0;
}

/** An exchange that has taken in `configuration` as its first event, at `at`. */
export function exchangeOver(configuration: Configuration, at: number): Exchange {
  const exchange = new Exchange();
  exchange.handle({ seq: 1, at, kind: 'configurationChanged', changes: configuration }, 'none');
  return exchange;
}
