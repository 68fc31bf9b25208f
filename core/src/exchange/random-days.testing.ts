import fc from 'fast-check';
import { callBackFirst } from '../model/call-back.ts';
import type { Configuration } from '../model/configuration.ts';
import { Exchange, type Handled } from './exchange.ts';
import { anythingGoes, callerNumber, contacts, directNumber } from './exchange.testing.ts';
import type { ExchangeEvent, ExchangeEventBody } from './kernel/events.ts';
import type { State } from './kernel/state.ts';
import { dialled, people, setUp, groupExtensions } from './random-set-up.testing.ts';

/** A move of the outside world: what kind, on whom, and after how many milliseconds. */
const move = fc.record({
  kind: fc.integer({ min: 0, max: 40 }),
  pick: fc.nat({ max: 997 }),
  wait: fc.oneof(
    fc.constant(0),
    fc.integer({ min: 1, max: 9_000 }),
    // Whole seconds, so that timers meet at one instant.
    fc.integer({ min: 1, max: 9 }).map((seconds) => seconds * 1_000),
  ),
});

export const day = fc.record({ set: setUp, moves: fc.array(move, { minLength: 5, maxLength: 120 }) });

/** What callers who wait, and those who serve them, do; each as often as it stands here. */
const whileWaiting = [
  ...[0, 1, 2, 3, 0, 1, 4, 5, 4, 5, 4, 7, 9, 10, 10, 12, 13, 14, 14, 26, 27, 32, 33, 34, 33, 35, 36, 35, 36],
  ...[37, 37, 37, 37, 41],
];

/** Longer days in which callers mostly wait, ask to be called back, and are. */
export const waitingDay = fc
  .record({
    set: setUp,
    callBack: fc.record({
      ...{ first: fc.constantFrom(...callBackFirst), tries: fc.integer({ min: 1, max: 2 }) },
      offerAfterSeconds: fc.constantFrom(null, 4),
    }),
    moves: fc.array(
      fc.record({
        kind: fc.constantFrom(...whileWaiting),
        ...{ pick: fc.nat({ max: 997 }), wait: fc.constantFrom(0, 500, 1_000, 3_000, 7_000) },
      }),
      { minLength: 50, maxLength: 90, size: 'max' },
    ),
  })
  .map(({ set, callBack, moves }) => ({
    moves,
    set: {
      ...set,
      rules: [anythingGoes],
      queues: set.queues.map((item) => ({
        ...{ ...item, whenNobody: null, whenAllAway: null, maxWaiting: null },
        callBack: { ...callBack, key: '5', retryMinutes: 0.2, fromHour: 0, toHour: 24 },
      })),
    },
  }));

type Move = { kind: number; pick: number; wait: number };

/** Turns a move into an event that makes sense (mostly) in the present state. */
function bodyFor(
  state: Readonly<State>,
  { kind, pick }: Move,
  count: number,
  set: Configuration,
): ExchangeEventBody {
  const one = people[pick % people.length]!;
  const legsOf = (...parties: string[]) =>
    [...state.calls.values()].flatMap((call) => call.legs.filter((leg) => parties.includes(leg.party)));
  const oneOf = (legs: { id: string }[]) => (legs.length === 0 ? 'none.2' : legs[pick % legs.length]!.id);
  // Who was called back is on a leg that was dialled.
  const dialledBack = [...state.calls.values()].flatMap(({ callBack, legs }) =>
    callBack === null ? [] : legs.filter(({ party }) => party === 'caller'),
  );
  const leg = oneOf([...legsOf('agent', 'outside'), ...dialledBack]);
  const waiting = [...state.calls.values()]
    .filter(({ activity, direction }) => activity.kind === 'waiting' && direction === 'inbound')
    .flatMap(({ legs }) => legs.slice(0, 1));
  const asked = [...state.calls.values()]
    .filter(({ callBackAskedUntil }) => callBackAskedUntil !== null)
    .flatMap(({ legs }) => legs.slice(0, 1));
  const contactLeg = oneOf(legsOf('contact'));
  const talking = legsOf('agent').filter((each) => each.state === 'connected');
  const calls = [...state.calls.keys()];
  switch (kind) {
    case 0:
    case 1:
    case 2:
    case 3:
      return {
        kind: 'callArrived',
        callId: `c${count}`,
        to:
          pick % 7 === 0
            ? directNumber
            : pick % 13 === 0
              ? dialled[pick % 4]!
              : pick % 11 === 0
                ? groupExtensions[pick % 2]!
                : set.numbers[pick % 2]!.e164,
        ...(pick % 13 === 0 ? { fromPhoneId: `${one}.phone` } : {}),
        from: pick % 2 === 0 ? callerNumber : `+1360555${2_000 + count}`,
        priority: pick % 11 === 0 ? 1 : 0,
        ...(pick % 5 === 0 ? { trunkId: 't' } : {}),
        ...(pick % 3 === 0 ? { record: { id: 'r', name: 'R', ownerId: one } } : {}),
      };
    case 4:
    case 5:
      return { kind: 'legAnswered', leg };
    case 6:
      return {
        kind: 'legFailed',
        leg: pick % 2 === 0 ? leg : contactLeg,
        cause: (['declined', 'busy', 'unreachable', 'noAnswer', 'noRoute', 'congestion'] as const)[pick % 6]!,
      };
    case 7:
    case 8:
      return { kind: 'legEnded', leg };
    case 9:
      return { kind: 'callerHungUp', callId: calls.length === 0 ? 'none' : calls[pick % calls.length]! };
    case 10:
    case 11:
      return { kind: 'phoneRegistered', phoneId: `${one}.phone`, address: '192.0.2.1' };
    case 12:
      return { kind: 'phoneUnregistered', phoneId: `${one}.phone`, why: 'expired' };
    case 13:
      return pick % 2 === 0
        ? { kind: 'agentSignedOut', personId: one }
        : { kind: 'agentAway', personId: one, reason: 'break' };
    case 14:
      return pick % 4 === 0
        ? { kind: 'wrapUpEnded', personId: one }
        : { kind: 'agentSignedIn', personId: one };
    case 16:
    case 17:
      return {
        kind: 'contactsLeased',
        campaignId: `x${pick % 2}`,
        contacts: leasable(count, pick, state.now),
        askAgainAt: pick % 5 === 0 ? null : state.now + 5_000,
      };
    case 18:
    case 19:
      return { kind: 'legAnswered', leg: contactLeg };
    case 20:
    case 21:
      return { kind: 'greetingEnded', leg: contactLeg, by: pick % 4 === 0 ? 'machine' : 'person' };
    case 22:
      return { kind: 'legEnded', leg: contactLeg };
    case 23:
      return { kind: 'keyPressed', leg: pick % 4 === 0 ? contactLeg : leg, key: pick % 4 === 0 ? '9' : '1' };
    case 24:
      return pick % 3 === 0
        ? { kind: 'persistentLineClosed', personId: one }
        : { kind: 'persistentLineAsked', callId: `l${count}`, personId: pick % 2 === 0 ? 'e' : 'd' };
    case 25:
      return pick % 2 === 0
        ? { kind: 'optedOut', e164: contacts(1, 1 + (pick % 200))[0]!.e164 }
        : { kind: 'phoneChosen', personId: 'd', phoneId: pick % 3 === 0 ? null : 'd.outside' };
    case 26:
      return {
        kind: 'callPickedUp',
        callId: calls.length === 0 ? 'none' : calls[pick % calls.length]!,
        phoneId: `${one}.phone`,
      };
    case 27:
      return {
        kind: 'callTransferred',
        leg,
        to: pick % 3 === 0 ? { kind: 'queue', id: 'q0' } : { kind: 'person', id: one },
      };
    case 28:
    case 29:
      return pick % 3 === 0
        ? { kind: 'callerRetrieved', leg }
        : { kind: 'consultationAsked', leg: oneOf(talking), personId: one };
    case 30:
      return {
        kind: 'setAside',
        what: 'clock',
        callIds: calls.filter((_, i) => i % 3 === pick % 3),
        personIds: pick % 2 === 0 ? [one] : [],
      };
    case 31:
      return pick % 4 === 0
        ? { kind: 'storageChanged', full: pick % 8 === 0 }
        : { kind: 'messagesChanged', boxId: `${one}.box`, by: (pick % 5) - 2 };
    case 32:
      return pick % 2 === 0
        ? { kind: 'textsOpen', personId: one, count: pick % 3 }
        : { kind: 'groupPresence', groupId: `g${pick % 3}`, personId: one, takesPart: pick % 4 === 1 };
    case 33:
    case 34:
      return { kind: 'keyPressed', leg: oneOf(waiting), key: pick % 4 === 0 ? '9' : '5' };
    case 35:
    case 36:
      // Most who were asked to confirm do.
      return { kind: 'keyPressed', leg: oneOf(asked.length > 0 ? asked : waiting), key: '1' };
    case 37:
      return pick % 3 === 0
        ? { kind: 'legFailed', leg: oneOf(dialledBack), cause: pick % 2 === 0 ? 'busy' : 'congestion' }
        : { kind: 'legAnswered', leg: oneOf(dialledBack) };
    default:
      if (pick % 3 === 0) return changeSetUp(set, pick);
      return pick % 3 === 1 ? { kind: 'clock' } : { kind: 'clock', unattended: true };
  }
}

/** Contacts nobody was given before, some of whom may not be called for long. */
function leasable(count: number, pick: number, now: number) {
  return contacts(pick % 4, 1 + count * 4).map((contact, i) => ({
    ...contact,
    callableUntil: now + (i === 1 ? 3_000 : 86_400_000),
  }));
}

/** Somebody is deactivated, with their phones, and comes back another time; or two change phones. */
function changePeople(set: Configuration, pick: number): ExchangeEventBody {
  const one = people[pick % 5]!;
  const theirs = set.phones.filter((phone) => phone.personId === one);
  if (pick % 3 === 0) {
    const queues = set.queues.map((item) => ({ ...item, members: item.members.filter((id) => id !== one) }));
    const gone = [one, ...theirs.map((phone) => phone.id)];
    return { kind: 'configurationChanged', changes: { queues, gone } };
  }
  if (pick % 3 === 1) {
    const item = set.people.find((person) => person.id === one)!;
    const changes = { people: [item], phones: theirs, queues: set.queues };
    return { kind: 'configurationChanged', changes };
  }
  const other = people[(pick + 1) % 5]!;
  return {
    kind: 'configurationChanged',
    changes: { phones: theirs.map((phone) => ({ ...phone, personId: other })) },
  };
}

function changeSetUp(set: Configuration, pick: number): ExchangeEventBody {
  if (pick % 4 === 0) return changePeople(set, Math.floor(pick / 4));
  if (pick % 2 === 0) {
    const item = set.campaigns[pick % 2]!;
    return {
      kind: 'configurationChanged',
      changes: {
        campaigns: [{ ...item, running: pick % 4 !== 0 }],
        trunks: [{ ...set.trunks[0]!, channels: 5 + (pick % 5) }],
      },
    };
  }
  const item = set.queues[pick % 2]!;
  const turned = [...item.members.slice(1), item.members[0]!];
  return { kind: 'configurationChanged', changes: { queues: [{ ...item, members: turned }] } };
}

interface Played {
  log: ExchangeEvent[];
  handled: Handled[];
  exchange: Exchange;
}

export function play(
  set: Configuration,
  moves: Move[],
  look?: (exchange: Exchange, handled: Handled, before: number | null) => void,
): Played {
  const exchange = new Exchange();
  const log: ExchangeEvent[] = [];
  const handled: Handled[] = [];
  let at = 0;
  const take = (body: ExchangeEventBody) => {
    const event = { seq: exchange.seq + 1, at, ...body };
    const before = exchange.nextTimerAt();
    log.push(event);
    const result = exchange.handle(event, 'full');
    handled.push(result);
    look?.(exchange, result, before);
  };
  take({ kind: 'configurationChanged', changes: set });
  for (const id of people.slice(0, 3))
    take({ kind: 'phoneRegistered', phoneId: `${id}.phone`, address: '192.0.2.1' });
  moves.forEach((each, index) => {
    at += each.wait;
    take(bodyFor(exchange.view(), each, index, set));
  });
  return { log, handled, exchange };
}
