import fc from 'fast-check';
import { distributionKinds } from '../model/distribution.ts';
import { callBackFirst } from '../model/call-back.ts';
import { waysOut } from '../model/waiting.ts';
import type { OpeningHours } from '../hours/opening-hours.ts';
import { utcClock } from '../hours/zone-clock.ts';
import type { PlanItem } from '../model/plan.ts';
import type { DiallingRule } from '../dialling/rules.ts';
import type { Configuration, QueueItem } from '../model/configuration.ts';
import type { Destination, NoAnswerStep } from '../model/destination.ts';
import { groupShows } from '../model/ring-group.ts';
import { groupOrders } from '../model/ring.ts';
import { pinHash } from '../plan/steps/room.ts';
import {
  anythingGoes,
  campaign,
  configuration,
  outsideNumber,
  person,
  queue,
  ringGroup,
  trunk,
} from './exchange.testing.ts';

/** Random set-ups of an exchange: five people, two queues, and all that calls can be led through. */
export const people = ['a', 'b', 'c', 'd', 'e'];
/** Of the two ring groups. */
export const groupExtensions = ['4300', '4301'] as const;
/** What somebody of the five may dial: by the rules, for help, inside, and what nobody has. */
export const dialled = ['+12505550123', '911', '4001', '77'];

const destination: fc.Arbitrary<Destination> = fc.oneof(
  fc.constantFrom<Destination>({ kind: 'end' }, { kind: 'queue', id: 'q0' }, { kind: 'queue', id: 'q1' }),
  fc.constantFrom(...people).map((id): Destination => ({ kind: 'person', id })),
  fc.constantFrom(...people).map((id): Destination => ({ kind: 'voicemail', id: `${id}.box` })),
  fc.constantFrom<Destination>(
    { kind: 'outside', id: 'o' },
    { kind: 'room', id: 'r1' },
    { kind: 'room', id: 'r2' },
    { kind: 'ringGroup', id: 'g0' },
    { kind: 'ringGroup', id: 'g1' },
    { kind: 'fax', id: 'f' },
    { kind: 'number', id: 'n0' },
    { kind: 'plan', id: 'menu' },
  ),
);

const noAnswerStep: fc.Arbitrary<NoAnswerStep> = fc.oneof(
  destination,
  fc.constant<NoAnswerStep>({ kind: 'otherPhones' }),
);

const optionally = <Value>(of: fc.Arbitrary<Value>) => fc.option(of, { nil: undefined });
const eight = (of: fc.Arbitrary<number>) => fc.array(of, { minLength: 8, maxLength: 8 });
const easier = [
  { afterSeconds: 5, minimum: 2 },
  { afterSeconds: 12, minimum: 0 },
];

const someQueue = (id: string) =>
  fc
    .record({
      members: fc.shuffledSubarray(people, { minLength: 1 }),
      priority: fc.integer({ min: 0, max: 2 }),
      ringSeconds: fc.integer({ min: 1, max: 20 }),
      wrapUpSeconds: fc.integer({ min: 0, max: 20 }),
      maxWaiting: fc.option(fc.integer({ min: 0, max: 4 })),
      whenFull: destination,
      maxWaitSeconds: fc.option(fc.integer({ min: 0, max: 40 })),
      whenTooLong: destination,
      whenNobody: fc.option(destination),
      preferOwner: fc.boolean(),
      distribution: fc.constantFrom(...distributionKinds),
      turns: optionally(eight(fc.integer({ min: 1, max: 2 }))),
      ringsAtMost: fc.integer({ min: 1, max: 3 }),
      skills: fc.constantFrom<QueueItem['skills']>(
        [],
        [],
        [{ skillId: 'french', name: 'French', minimum: 3 }],
        [{ ...{ skillId: 'french', name: 'French', minimum: 4 }, relaxes: easier }],
      ),
      joinsAfter: optionally(eight(fc.constantFrom(0, 0, 4, 9))),
      agePoints: fc.constantFrom(0, 0, 6),
      agesAcross: fc.boolean(),
      whenAllAway: fc.option(destination),
      ...{ leaveKey: fc.constantFrom(null, '9'), whenLeaves: destination },
      keepsTime: fc.subarray([...waysOut]),
      ringsAway: fc.constantFrom<string[]>([], ['break']),
      ringsInWrapUp: fc.boolean(),
      mostTexts: fc.constantFrom(null, 1),
      callBack: fc.option(
        fc.record({
          ...{ key: fc.constantFrom('5', '5', null), offerAfterSeconds: fc.constantFrom(null, 3) },
          ...{ first: fc.constantFrom(...callBackFirst), tries: fc.integer({ min: 1, max: 3 }) },
          ...{
            retryMinutes: fc.constantFrom(0.1, 1),
            fromHour: fc.constant(0),
            toHour: fc.constantFrom(24, 0),
          },
        }),
      ),
      hears: optionally(
        fc.record({
          ...{ musicId: fc.constantFrom(null, 'ask'), promptId: fc.constantFrom(null, 'ask') },
          everySeconds: fc.constantFrom(null, 7),
          ...{ tellsPlace: fc.boolean(), tellsWait: fc.boolean() },
        }),
      ),
    })
    .map(({ members, turns, joinsAfter, hears, ...rest }) =>
      queue(id, members, {
        ...rest,
        ...(turns === undefined ? {} : { turns: turns.slice(0, members.length) }),
        ...(joinsAfter === undefined ? {} : { joinsAfter: joinsAfter.slice(0, members.length) }),
        ...(hears === undefined ? {} : { hears }),
      }),
    );

const someTarget = fc.oneof(
  fc.constantFrom(...people).map((id) => ({ kind: 'person' as const, id })),
  fc.constantFrom({ kind: 'team' as const, id: 't' }, { kind: 'outside' as const, id: 'o' }),
);

/** Of a few of the five, their team and the number outside; groups may lead to each other. */
const someGroup = (extension: string) =>
  fc.record({
    extension: fc.constant(extension),
    targets: fc.uniqueArray(
      fc
        .tuple(someTarget, fc.integer({ min: 3, max: 9 }))
        .map(([target, seconds]) => ({ ...target, seconds })),
      { maxLength: 4, selector: ({ id }) => id },
    ),
    order: fc.constantFrom(...groupOrders.map(({ value }) => value)),
    rounds: fc.integer({ min: 1, max: 2 }),
    shows: fc.constantFrom(...groupShows),
    whenBusy: fc.option(destination),
    whenUnanswered: destination,
    whenOutage: fc.option(destination),
  });

const someCampaign = fc.record({
  ratio: fc.constantFrom(0.5, 1, 1.4, 3),
  abandonLimit: fc.constantFrom(0, 0.03, 1),
  mostInAir: fc.option(fc.integer({ min: 1, max: 4 })),
  running: fc.boolean(),
});

/** Open in the first minute of the day, so that days of some minutes see both. */
const firstMinute: OpeningHours = {
  ...{ id: 'h', name: 'First minute', clock: utcClock, days: {}, storm: null },
  weekly: Array.from({ length: 7 }, () => [[0, 1] as const]),
};

/** While open a menu: 1 to a queue, nothing to a person and then to the menu again; closed to voicemail. */
const menuPlan: PlanItem = {
  ...{ id: 'menu', name: 'Menu', version: 1, start: 's1', fallback: { kind: 'end' } },
  steps: {
    s1: { kind: 'hours', config: { hoursId: 'h' }, exits: { open: 's2', closed: 's5' } },
    s2: {
      kind: 'keys',
      config: { promptId: 'ask', keys: [{ key: '1', label: 'queue' }], waitSeconds: 3, tries: 2 },
      exits: { key1: 's3', noKey: 's4' },
    },
    s3: { kind: 'queue', config: { queueId: 'q1', priority: 3 }, exits: { waitedTooLong: 's2' } },
    s4: { kind: 'ring', config: { personId: 'a', seconds: 4 }, exits: { notTaken: 's7' } },
    s7: {
      kind: 'ringSeveral',
      config: {
        targets: [
          { kind: 'team', id: 't', seconds: 3 },
          { kind: 'person', id: 'd', seconds: 5 },
          { kind: 'outside', id: 'o', seconds: 4 },
        ],
        ...{ order: 'allAtOnce', rounds: 2 },
      },
      exits: { notTaken: 's8' },
    },
    s8: { kind: 'plan', config: { planId: 'aside' }, exits: { returned: 's2' } },
    s5: { kind: 'say', config: { promptId: 'ask', againKey: '1' }, exits: { next: 's6' } },
    s6: { kind: 'voicemail', config: { boxId: 'a.box' }, exits: {} },
  },
};

/** Says something, and returns. */
const asidePlan: PlanItem = {
  ...{ id: 'aside', name: 'Aside', version: 1, start: 's1', fallback: { kind: 'end' } },
  steps: {
    s1: { kind: 'say', config: { promptId: 'ask', againKey: null }, exits: { next: 's2' } },
    s2: { kind: 'comeBack', config: {}, exits: {} },
  },
};

/** Two queues, each with a campaign. Of the five people d has a softphone and an outside number, e only the latter. */
export const setUp: fc.Arbitrary<Configuration> = fc
  .tuple(
    fc.array(fc.integer({ min: 1, max: 3 }), { minLength: 5, maxLength: 5 }),
    someQueue('q0'),
    someQueue('q1'),
    someCampaign,
    someCampaign,
    fc.integer({ min: 1, max: 5 }),
    fc.tuple(someGroup(groupExtensions[0]), someGroup(groupExtensions[1])),
    fc.record({
      seats: fc.constantFrom(null, null, 2, 4),
      levels: fc.array(fc.integer({ min: 0, max: 5 }), { minLength: 5, maxLength: 5 }),
      startAway: fc.array(fc.boolean(), { minLength: 5, maxLength: 5 }),
      rules: fc.constantFrom<DiallingRule[]>([], [anythingGoes]),
      noAnswer: fc.array(fc.array(noAnswerStep, { maxLength: 3 }), { minLength: 5, maxLength: 5 }),
    }),
  )
  .map(([limits, q0, q1, x0, x1, channels, groups, agents]) => {
    const set = configuration(
      people.map((id, i) =>
        person(id, {
          callLimit: limits[i]!,
          skills: { french: agents.levels[i]! },
          startAway: agents.startAway[i]!,
          noAnswer: agents.noAnswer[i]!,
          teamId: i < 3 ? 't' : null,
        }),
      ),
      [q0, q1],
    );
    return {
      ...set,
      settings: { ...set.settings, seats: agents.seats },
      phones: [
        ...set.phones.filter((phone) => phone.personId !== 'e'),
        outsideNumber('d'),
        outsideNumber('e'),
      ],
      trunks: [trunk(channels)],
      outsideNumbers: [
        { id: 'o', name: 'O', extension: '4001', e164: '+442079460123', trunkId: null, ringSeconds: 9 },
      ],
      rooms: [
        { id: 'r1', name: 'R1', extension: null, pinHash: null, pinLength: 0, joinTone: true },
        { id: 'r2', name: 'R2', extension: null, pinHash: pinHash('r2', '1'), pinLength: 1, joinTone: false },
      ],
      ringGroups: groups.map((group, i) => ringGroup(`g${i}`, group)),
      faxBoxes: [{ id: 'f', name: 'F', extension: null }],
      // Small enough to be full within a day of minutes; one sends callers on to another that may be full too.
      voicemailBoxes: set.voicemailBoxes.map((box, i) => ({
        ...{ ...box, mostMessages: 1 + (i % 2), hoursId: i === 0 ? 'h' : null },
        whenFull: i === 1 ? ({ kind: 'voicemail', id: 'a.box' } as const) : null,
      })),
      prompts: [{ id: 'ask', name: 'Ask', seconds: 2, words: 'Press 1.' }],
      hours: [firstMinute],
      plans: [menuPlan, asidePlan],
      rules: agents.rules,
      campaigns: [campaign('x0', 'q0', x0), campaign('x1', 'q1', { ...x1, running: true })],
    };
  });
