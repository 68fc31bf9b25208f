import { botFaults } from '../../model/bots.ts';
import { callBackFirst } from '../../model/call-back.ts';
import { distributionKinds } from '../../model/distribution.ts';
import { destinationKinds } from '../../model/destination.ts';
import { groupShows } from '../../model/ring-group.ts';
import { groupOrders, ringTargetKinds } from '../../model/ring.ts';
import { mayPause, queueRecording } from '../../model/recording.ts';
import { phoneLines, waysOut } from '../../model/waiting.ts';
import type { ExchangeEvent, ExchangeEventKind } from './events.ts';

/** Whether a value is what it should be. Cheap: it runs on every event. */
type Check = (value: unknown) => boolean;

const longestText = 1_000;
const text: Check = (value) => typeof value === 'string' && value.length > 0 && value.length <= longestText;
const anyWords: Check = (value) => typeof value === 'string' && value.length <= 10_000;
const anyText: Check = (value) => typeof value === 'string' && value.length <= longestText;
const flag: Check = (value) => typeof value === 'boolean';
const whole: Check = (value) => Number.isSafeInteger(value);
const count: Check = (value) => Number.isSafeInteger(value) && (value as number) >= 0;
const positive: Check = (value) => typeof value === 'number' && value > 0 && Number.isFinite(value);
const share: Check = (value) => typeof value === 'number' && value >= 0 && Number.isFinite(value);
const object: Check = (value) => typeof value === 'object' && value !== null && !Array.isArray(value);
const one =
  (...of: unknown[]): Check =>
  (value) =>
    of.includes(value);
const nullable =
  (check: Check): Check =>
  (value) =>
    value === null || check(value);
const optional =
  (check: Check): Check =>
  (value) =>
    value === undefined || check(value);
const list =
  (check: Check): Check =>
  (value) => {
    if (!Array.isArray(value)) return false;
    // Not every(): it passes over places that are empty.
    for (let i = 0; i < value.length; i++) if (!check(value[i])) return false;
    return true;
  };
const shape = (fields: Record<string, Check>): Check => {
  const names = Object.keys(fields);
  const checks = Object.values(fields);
  return (value) => {
    if (!object(value)) return false;
    for (let i = 0; i < names.length; i++)
      if (!checks[i]!((value as Record<string, unknown>)[names[i]!])) return false;
    return true;
  };
};

const named: Check = (value) => object(value) && Object.values(value as object).every(text);

const destination: Check = (value) =>
  shape({ kind: one(...destinationKinds), id: text })(value) || shape({ kind: one('end') })(value);
const noAnswerStep: Check = (value) => destination(value) || shape({ kind: one('otherPhones') })(value);

const fieldTexts: Check = (value) => object(value) && Object.values(value as object).every(anyText);
const record = shape({ id: text, name: anyText, ownerId: nullable(text), fields: optional(fieldTexts) });
const contact = shape({
  ...{ contactId: text, callId: text, e164: text, name: anyText, attempt: whole },
  ...{ callableUntil: whole, record: nullable(record) },
});
const plan: Check = (value) =>
  shape({ id: text, version: whole, start: text, steps: object, fallback: destination })(value) &&
  Object.values((value as { steps: object }).steps).every(
    shape({ kind: text, config: object, exits: object }),
  );

const namedPlan: Check = (value) => plan(value) && anyText((value as { name: unknown }).name);

/** A zone's clock: from each instant on, how far ahead of UTC it is. */
const clock: Check = (value) =>
  shape({ zone: text, changes: list((change) => list(whole)(change) && (change as unknown[]).length === 2) })(
    value,
  ) && (value as { changes: unknown[] }).changes.length > 0;

const range: Check = (value) => list(whole)(value) && (value as unknown[]).length === 2;
const hours = shape({
  ...{ id: text, name: anyText, clock, storm: nullable(shape({ since: whole, until: whole })) },
  weekly: (value) => list(list(range))(value) && (value as unknown[]).length === 7,
  days: (value) =>
    object(value) &&
    Object.values(value as object).every(
      shape({ date: text, name: anyText, holiday: flag, ranges: list(range) }),
    ),
});

const settings = shape({
  ...{ backOffAfterNoAnswerSeconds: share, backOffAfterDeclineSeconds: share, missesBeforeAway: count },
  ...{ acceptSeconds: positive, connectWithinMs: positive, clock, seats: nullable(count) },
});
const person = shape({
  ...{ id: text, name: anyText, teamId: nullable(text), extension: nullable(text), callLimit: count },
  ...{ ringSeconds: positive, signInWithPhone: flag, startAway: flag, answerBySelf: flag, skills: object },
  ...{ wrapUpSeconds: nullable(share), noAnswer: list(noAnswerStep), voicemailBoxId: nullable(text) },
});
const phone = shape({
  ...{ id: text, personId: text, kind: text, account: anyText, home: flag, e164: nullable(text) },
  ...{ trunkId: nullable(text), callerId: nullable(text), dialTrunkId: nullable(text) },
});
const queue = shape({
  ...{ id: text, name: anyText, extension: nullable(text), priority: whole, ringSeconds: positive },
  ...{ wrapUpSeconds: share, members: list(text), preferOwner: flag },
  skills: list(
    shape({
      ...{ skillId: text, name: anyText, minimum: whole },
      relaxes: optional(list(shape({ afterSeconds: positive, minimum: count }))),
    }),
  ),
  distribution: optional(one(...distributionKinds)),
  ...{ turns: optional(list(positive)), ringsAtMost: optional(positive), joinsAfter: optional(list(count)) },
  ...{ whenAllAway: optional(nullable(destination)), leaveKey: optional(nullable(text)) },
  ...{ whenLeaves: optional(destination), keepsTime: optional(list(one(...waysOut))) },
  ...{ agePoints: optional(count), agesAcross: optional(flag), ringsAway: optional(list(text)) },
  ...{ ringsInWrapUp: optional(flag), mostTexts: optional(nullable(positive)) },
  recordPriorities: optional(list(shape({ field: text, value: anyText, priority: count }))),
  phoneShows: optional(list(one(...phoneLines))),
  callBack: optional(
    nullable(
      shape({
        ...{ key: nullable(text), offerAfterSeconds: nullable(positive), first: one(...callBackFirst) },
        ...{ tries: positive, retryMinutes: positive, fromHour: count, toHour: positive },
      }),
    ),
  ),
  hears: optional(
    shape({
      ...{ musicId: nullable(text), everySeconds: nullable(positive), promptId: nullable(text) },
      ...{ tellsPlace: flag, tellsWait: flag },
    }),
  ),
  ...{ maxWaiting: nullable(count), whenFull: destination, maxWaitSeconds: nullable(share) },
  ...{ whenTooLong: destination, whenNobody: nullable(destination) },
  ...{ hoursId: optional(nullable(text)), whenClosed: optional(nullable(destination)) },
  atClosing: optional(one('serve', 'sendOn')),
  recording: optional(one(...queueRecording)),
  ...{ recordingNoticeId: optional(nullable(text)), mayPause: optional(one(...mayPause)) },
});
const greetingPair = shape({ outside: nullable(text), inside: nullable(text) });
const changes = shape({
  settings: optional(settings),
  people: optional(list(person)),
  phones: optional(list(phone)),
  queues: optional(list(queue)),
  numbers: optional(
    list(
      shape({
        id: text,
        e164: text,
        label: anyText,
        plan: nullable(plan),
        sourceId: nullable(text),
        ...{ mostCalls: optional(nullable(count)), sourceName: optional(nullable(anyText)) },
        priority: optional(count),
      }),
    ),
  ),
  voicemailBoxes: optional(
    list(
      shape({
        ...{ id: text, name: anyText, extension: nullable(text), hoursId: nullable(text) },
        greetings: shape({ open: greetingPair, closed: greetingPair }),
        ...{ maxMessageSeconds: positive, mostMessages: count, whenFull: nullable(destination) },
        ...{ pinHash: optional(nullable(text)), personId: optional(nullable(text)) },
      }),
    ),
  ),
  trunks: optional(list(shape({ id: text, name: anyText, channels: count, callerId: nullable(anyText) }))),
  campaigns: optional(
    list(
      shape({
        ...{ id: text, name: anyText, running: flag, queueId: text, trunkId: text, callerId: anyText },
        ...{ ratio: share, mostInAir: nullable(count), ringSeconds: positive, abandonLimit: share },
        ...{ messageSeconds: share, optOutKey: nullable(text), numberId: nullable(text) },
      }),
    ),
  ),
  outsideNumbers: optional(
    list(shape({ id: text, name: anyText, e164: text, trunkId: nullable(text), ringSeconds: positive })),
  ),
  rooms: optional(
    list(shape({ id: text, name: anyText, pinHash: nullable(text), pinLength: count, joinTone: flag })),
  ),
  ringGroups: optional(
    list(
      shape({
        ...{ id: text, name: anyText, extension: nullable(text), rounds: positive },
        targets: list(shape({ kind: one(...ringTargetKinds), id: text, seconds: positive })),
        ...{ order: one(...groupOrders.map(({ value }) => value)), shows: one(...groupShows) },
        ...{ whenBusy: nullable(destination), whenUnanswered: destination },
        whenOutage: nullable(destination),
      }),
    ),
  ),
  faxBoxes: optional(list(shape({ id: text, name: anyText }))),
  codes: optional(
    list(
      shape({
        ...{ id: text, name: anyText, digits: text, does: one('storm', 'voicemail', 'takePart') },
        ...{ hoursIds: list(text), groupIds: optional(list(text)) },
        ...{ forHours: positive, pinHash: nullable(text), pinLength: count, teamIds: list(text) },
      }),
    ),
  ),
  blocked: optional(
    list(
      shape({
        ...{ id: text, name: anyText, kind: one('number', 'prefix', 'withheld'), digits: anyText },
        until: nullable(whole),
      }),
    ),
  ),
  hours: optional(list(hours)),
  prompts: optional(
    list(
      shape({
        ...{ id: text, name: anyText, seconds: share, words: anyWords },
        translations: optional(named),
      }),
    ),
  ),
  regions: optional(
    list(
      shape({
        ...{ id: text, name: anyText },
        // As many digits as the longest table has: they are checked where they come in.
        ways: list(shape({ destination, prefixes: (value) => typeof value === 'string' })),
      }),
    ),
  ),
  bots: optional(list(shape({ id: text, name: anyText, limitSeconds: positive, mostTurns: positive }))),
  plans: optional(list(namedPlan)),
  rules: optional(
    list(
      shape({
        ...{ id: text, name: anyText, pattern: anyText, strip: count, prepend: anyText },
        ...{ trunkIds: list(text), use: text, teamIds: list(text) },
      }),
    ),
  ),
  gone: optional(list(text)),
});

const botFault = one(...botFaults);
const botAnswer = shape({
  ...{ say: anyText, then: one('listen', 'done', 'handOver'), facts: fieldTexts },
  language: nullable(text),
});
const menuMessages = list(shape({ id: text, from: anyText, seconds: share, fresh: flag }));
const legFailure = one('declined', 'busy', 'unreachable', 'noAnswer', 'refused', 'noRoute', 'congestion');
const contacts = list(contact);
const tallies = list(shape({ day: whole, answered: count, abandoned: count }));
const texts = list(text);

type Raw = Readonly<Record<string, unknown>>;

/**
 * The fields of every kind of event. A kind without them does not compile. Each reads its fields by name instead of going
 * through a list of them: it runs on every event.
 */
const shapes: Record<ExchangeEventKind, (event: Raw) => boolean> = {
  configurationChanged: (event) => changes(event.changes),
  clock: (event) => event.unattended === undefined || event.unattended === true,
  callArrived: (event) =>
    text(event.callId) &&
    text(event.to) &&
    anyText(event.from) &&
    (event.callerName === undefined || anyText(event.callerName)) &&
    (event.priority === undefined || whole(event.priority)) &&
    (event.standIn === undefined || flag(event.standIn)) &&
    (event.fromPhoneId === undefined || text(event.fromPhoneId)) &&
    (event.trunkId === undefined || text(event.trunkId)) &&
    (event.record === undefined || record(event.record)),
  callerHungUp: (event) => text(event.callId),
  legAnswered: (event) => text(event.leg),
  legFailed: (event) => text(event.leg) && legFailure(event.cause),
  legEnded: (event) => text(event.leg),
  phoneRegistered: (event) => text(event.phoneId) && anyText(event.address),
  phoneUnregistered: (event) => text(event.phoneId) && anyText(event.why),
  phoneRefused: (event) => text(event.phoneId) && anyText(event.why),
  agentSignedIn: (event) => text(event.personId) && (event.asUsual === undefined || flag(event.asUsual)),
  agentAway: (event) => text(event.personId) && anyText(event.reason),
  agentSignedOut: (event) => text(event.personId),
  wrapUpEnded: (event) => text(event.personId),
  phoneChosen: (event) => text(event.personId) && (event.phoneId === null || text(event.phoneId)),
  persistentLineAsked: (event) => text(event.callId) && text(event.personId),
  persistentLineClosed: (event) => text(event.personId),
  callPickedUp: (event) => text(event.callId) && text(event.phoneId),
  callTransferred: (event) => text(event.leg) && destination(event.to),
  consultationAsked: (event) => text(event.leg) && text(event.personId),
  callerRetrieved: (event) => text(event.leg),
  keyPressed: (event) => text(event.leg) && text(event.key),
  spoken: (event) => text(event.leg) && anyText(event.words) && (event.by === 'voice' || event.by === 'text'),
  botAnswered: (event) =>
    text(event.callId) &&
    count(event.asked) &&
    (event.answer === null ? botFault(event.why) : botAnswer(event.answer) && event.why === null),
  boxRead: (event) => text(event.callId) && count(event.asked) && menuMessages(event.messages),
  recordingPaused: (event) => text(event.callId) && text(event.personId) && flag(event.paused),
  lookedUp: (event) =>
    text(event.callId) && count(event.asked) && nullable(record)(event.record) && flag(event.failed),
  faxReceived: (event) => text(event.callId) && count(event.pages),
  groupPresence: (event) => text(event.groupId) && text(event.personId) && flag(event.takesPart),
  textsOpen: (event) => text(event.personId) && count(event.count),
  messagesChanged: (event) => text(event.boxId) && whole(event.by),
  storageChanged: (event) => flag(event.full),
  greetingEnded: (event) => text(event.leg) && (event.by === 'person' || event.by === 'machine'),
  contactsLeased: (event) =>
    text(event.campaignId) &&
    contacts(event.contacts) &&
    (event.askAgainAt === null || whole(event.askAgainAt)),
  contactsChanged: (event) => text(event.campaignId),
  talliesKnown: (event) => text(event.campaignId) && tallies(event.tallies),
  optedOut: (event) => text(event.e164),
  setAside: (event) => anyText(event.what) && texts(event.callIds) && texts(event.personIds),
};

const byKind = new Map<string, (event: Raw) => boolean>(Object.entries(shapes));

/** Whether an event has the fields of its kind, and each is what it should be. */
export function isWellFormed(event: ExchangeEvent): boolean {
  return byKind.get(event.kind)?.(event as unknown as Raw) ?? false;
}
