import Joi from 'joi';
import type { Destination } from '../model/destination.ts';
import { distributionKinds, lastTurn, mostRung, usuallyRung } from '../model/distribution.ts';
import { mayPause, queueRecording } from '../model/recording.ts';
import { outcomeList, script } from '../model/outcomes.schema.ts';
import type { Outcome } from '../model/outcomes.ts';
import { destinationOrNull, id as idSchema } from '../model/fields.schema.ts';
import { type DraftOf, itemContract, type ViewOf } from './item.ts';
import {
  choice,
  destination,
  destinationOrNone,
  extensionOrNone,
  flag,
  id,
  name,
  nullable,
  optional,
  part,
  seconds,
  usually,
  whole,
} from './parts.ts';

const waitingSentence = 'From 0 to 1,000 callers, or no limit.';
const levelSentence = 'A level is 1 to 5.';

const priority = part<number>(
  Joi.number().integer().min(0).max(9).messages({
    'number.base': 'Priority is 0 to 9.',
    'number.min': 'Priority is 0 to 9.',
    'number.max': 'Priority is 0 to 9.',
  }),
);
const members = part<string[]>(
  Joi.array()
    .items(idSchema)
    .unique()
    .max(500)
    .messages({ 'array.unique': 'Somebody is in this queue twice.' }),
);
const turnSentence = `A turn is 1 to ${lastTurn}.`;
const turns = part<{ memberId: string; turn: number }[]>(
  Joi.array()
    .items(
      Joi.object({
        memberId: idSchema.required(),
        turn: Joi.number().strict().integer().min(1).max(lastTurn).required().messages({
          'number.base': turnSentence,
          'number.integer': turnSentence,
          'number.min': turnSentence,
          'number.max': turnSentence,
        }),
      }),
    )
    .max(500)
    .unique('memberId')
    .messages({ 'array.unique': 'Somebody has two turns.' }),
);
const skills = part<{ skillId: string; minimum: number }[]>(
  Joi.array()
    .items(
      Joi.object({
        skillId: idSchema.required().messages({ 'any.required': 'Choose a skill.' }),
        minimum: Joi.number().integer().min(1).max(5).required().messages({
          'number.base': levelSentence,
          'number.min': levelSentence,
          'number.max': levelSentence,
        }),
      }),
    )
    .max(10)
    .unique('skillId')
    .messages({ 'array.unique': 'This skill is asked for twice.', 'array.max': 'At most 10 skills.' }),
);
const maxWaiting = part<number | null>(
  Joi.number().integer().min(0).max(1_000).allow(null).messages({
    'number.base': waitingSentence,
    'number.min': waitingSentence,
    'number.max': waitingSentence,
  }),
);

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
    /** What a member must be able to do to be rung. */
    skills: usually(skills, []),
    maxWaiting: usually(maxWaiting, null),
    maxWaitSeconds: usually(nullable(seconds(5, 7_200)), null),
    /** The opening hours it follows; null for always. */
    hoursId: usually(nullable(id), null),
    /** Where callers go while it is closed; null tells them that nobody can take the call. */
    whenClosed: destinationOrNone,
    atClosing: usually(choice('serve', 'sendOn'), 'serve'),
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
    },
    rule: ({ recording, recordingNoticeId, distribution, skills }) => {
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
  };
}
