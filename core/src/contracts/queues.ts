import type { Destination } from '../model/destination.ts';
import { distributionKinds, mostRung, usuallyRung } from '../model/distribution.ts';
import { destinationOrNull } from '../model/fields.schema.ts';
import type { Outcome } from '../model/outcomes.ts';
import { outcomeList, script } from '../model/outcomes.schema.ts';
import { mayPause, queueRecording } from '../model/recording.ts';
import { mostAgePoints, phoneLines, usualPhoneLines, waysOut } from '../model/waiting.ts';
import { type DraftOf, itemContract, type ViewOf } from './item.ts';
import {
  choice,
  destination,
  destinationOrNone,
  extensionOrNone,
  flag,
  id,
  list,
  name,
  nullable,
  object,
  optional,
  type Out,
  part,
  seconds,
  usually,
  whole,
} from './parts.ts';
import {
  announceSeconds,
  callBack,
  awayReasons,
  joins,
  key,
  maxWaiting,
  members,
  priority,
  recordPriorities,
  skills,
  some,
  turns,
} from './queue-parts.ts';

export type { QueueSkill } from './queue-parts.ts';

/** Queues: who is rung, how long, and where callers go that nobody takes. */
export const queues = itemContract(
  {
    ...{ area: 'Queues', path: '/api/queues', one: 'a queue', many: 'queues' },
    example: { name: 'Bookings' },
  },
  {
    name,
    extension: extensionOrNone,
    priority: usually(priority, 0),
    ringSeconds: usually(seconds(5, 120), 15),
    wrapUpSeconds: usually(seconds(0, 900), 20),
    /** People and teams, in order. */
    members: usually(members, []),
    /** How who rings is chosen among those who can be rung. */
    distribution: usually(choice(...distributionKinds), 'longestIdle'),
    /** Members who are rung only when nobody of an earlier turn can be; everybody else has turn 1. */
    turns: usually(turns, []),
    /** How many phones ring together, where all ring at once. */
    ringsAtMost: usually(whole(1, mostRung), usuallyRung),
    /** Members who may be rung only once a caller has waited so long; everybody else may from the beginning. */
    joins: usually(joins, []),
    /** What a member must be able to do to be rung, and when less is enough. */
    skills: usually(skills, []),
    maxWaiting: usually(maxWaiting, null),
    maxWaitSeconds: usually(nullable(seconds(5, 7_200)), null),
    /** The opening hours it follows; null for always. */
    hoursId: usually(nullable(id), null),
    /** Where callers go while it is closed; null tells them that nobody can take the call. */
    whenClosed: destinationOrNone,
    atClosing: usually(choice('serve', 'sendOn'), 'serve'),
    /** Where callers go when all who are signed in are away; null lets them wait. */
    whenAllAway: destinationOrNone,
    /** The key by which a caller leaves; null for none. */
    leaveKey: usually(key, null),
    /** By which ways out the time waited counts on in the next queue. */
    keepsTime: usually(some(waysOut), []),
    /** What a minute of waiting adds to a caller's priority, and whether that counts between queues too. */
    agePoints: usually(whole(0, mostAgePoints), 0),
    agesAcross: usually(flag, false),
    /** Callers whose record says so come at this priority, where no step of a plan says another. */
    recordPriorities: usually(recordPriorities, []),
    /** Who is away for one of these reasons is rung all the same. */
    ringsAway: usually(awayReasons, []),
    /** Whether who wraps up is rung; and with how many text conversations open nobody is. */
    ringsInWrapUp: usually(flag, false),
    mostTexts: usually(nullable(whole(1, 20)), null),
    /** What callers hear: music (null for the house's own), and what is said every so often. */
    musicId: usually(nullable(id), null),
    announceSeconds: usually(announceSeconds, null),
    announcementId: usually(nullable(id), null),
    tellsPlace: usually(flag, false),
    tellsWait: usually(flag, false),
    /** How callers are called back who do not want to wait; null for not at all. */
    callBack: usually(callBack, null),
    /** What a ringing phone shows, in this order. */
    phoneShows: usually(some(phoneLines, 1), [...usualPhoneLines]),
    /** The service level aimed at: so many of a hundred callers answered within so many seconds. */
    goalPercent: usually(whole(1, 100), 80),
    goalSeconds: usually(seconds(5, 600), 20),
    /** Ring the agent who looks after the caller's record first. */
    preferOwner: usually(flag, false),
    /** Whether its talks are recorded, what callers hear before, and who may pause it. */
    recording: usually(choice(...queueRecording), 'asPlan'),
    recordingNoticeId: usually(nullable(id), null),
    mayPause: usually(choice(...mayPause), 'talker'),
    script: usually(part<string>(script), ''),
    outcomes: usually(part<Outcome[]>(outcomeList), []),
  },
  {
    whenFull: destination,
    whenTooLong: destination,
    /** Null lets callers wait. */
    whenNobody: destinationOrNone,
    /** Where the key to leave leads. */
    whenLeaves: destination,
    voicemailBoxId: nullable(id),
    /** People who may be rung, teams resolved. */
    peopleCount: whole(0, 1_000_000),
  },
  {
    // Limits without a destination send callers to the queue's own voicemail box.
    written: {
      whenFull: optional(destination),
      whenTooLong: optional(destination),
      whenNobody: optional(part<Destination | null>(destinationOrNull)),
      whenLeaves: optional(destination),
    },
    rule: ({ recording, recordingNoticeId, distribution, skills, leaveKey, callBack: back, ...heard }) => {
      if (leaveKey !== null && leaveKey === back?.key)
        return `Key ${leaveKey} cannot both leave the queue and ask to be called back.`;
      const { announceSeconds: every, announcementId, tellsPlace, tellsWait } = heard;
      if (every !== null && announcementId === null && !tellsPlace && !tellsWait)
        return 'Choose what is announced: a prompt, the place in line or the expected wait.';
      if (distribution === 'bestSkill' && skills.length === 0)
        return 'Best skill needs a skill to compare: name one that the queue asks for.';
      return recording === 'always' && recordingNoticeId === null
        ? 'Choose the notice that callers hear before they are recorded.'
        : null;
    },
  },
);

export type QueuesContract = typeof queues;
export type QueueRequest = DraftOf<QueuesContract>;
export type QueueView = ViewOf<QueuesContract>;
/** A queue with every field named. */
export type QueueDraft = Omit<QueueView, 'id' | 'version' | 'retired' | 'voicemailBoxId' | 'peopleCount'>;

/** Names every field: what was left open leads to the queue's own voicemail box. */
export function completeQueue(request: QueueRequest, ownBoxId: string): QueueDraft {
  const own: Destination = { kind: 'voicemail', id: ownBoxId };
  return {
    ...request,
    whenFull: request.whenFull ?? own,
    whenTooLong: request.whenTooLong ?? own,
    whenNobody: request.whenNobody === undefined ? own : request.whenNobody,
    whenLeaves: request.whenLeaves ?? own,
  };
}

const people = whole(0, 1_000_000);
/** Of these members, with these skills asked for: who may be rung as a caller waits on. */
export const queueFitAsked = object({
  members: usually(members, []),
  joins: usually(joins, []),
  skills: usually(skills, []),
});
/** From so many seconds of waiting on, how many fit, and how many of them are signed in. */
export const queueFit = object({
  stages: list(object({ afterSeconds: whole(0, 3_600), fits: people, here: people }), 60),
});
export type QueueFit = Out<typeof queueFit>;
