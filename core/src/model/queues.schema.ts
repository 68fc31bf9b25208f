import Joi from 'joi';
import type { Destination } from './destination.ts';
import type { Outcome } from './outcomes.ts';
import { outcomeList, script } from './outcomes.schema.ts';
import { destination, destinationOrNull, extension, id, name, seconds } from './fields.schema.ts';

/** A queue as edited. `members` are people and teams, in order. */
export interface QueueDraft {
  name: string;
  extension: string | null;
  priority: number;
  ringSeconds: number;
  wrapUpSeconds: number;
  members: string[];
  /** What a member must be able to do to be rung. */
  skills: { skillId: string; minimum: number }[];
  maxWaiting: number | null;
  whenFull: Destination;
  maxWaitSeconds: number | null;
  whenTooLong: Destination;
  whenNobody: Destination | null;
  /** The opening hours it follows; null for always. */
  hoursId: string | null;
  /** Where callers go while it is closed; null tells them that nobody can take the call. */
  whenClosed: Destination | null;
  atClosing: 'serve' | 'sendOn';
  /** Ring the agent who looks after the caller's record first. */
  preferOwner: boolean;
  script: string;
  outcomes: Outcome[];
}

/** A queue as asked for: limits without a destination send callers to the queue's own voicemail box. */
export type QueueRequest = Omit<QueueDraft, 'whenFull' | 'whenTooLong' | 'whenNobody'> &
  Partial<Pick<QueueDraft, 'whenFull' | 'whenTooLong' | 'whenNobody'>>;

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

const waitingSentence = 'From 0 to 1,000 callers, or no limit.';

export const queueRequest = Joi.object<QueueRequest>({
  name: name.required(),
  extension: extension.allow(null).default(null),
  priority: Joi.number()
    .integer()
    .min(0)
    .max(9)
    .default(0)
    .messages({ 'number.base': 'Priority is 0 to 9.' }),
  ringSeconds: seconds(5, 120).default(15),
  wrapUpSeconds: seconds(0, 900).default(20),
  members: Joi.array().items(id).unique().max(500).default([]).messages({
    'array.unique': 'Somebody is in this queue twice.',
  }),
  skills: Joi.array()
    .items(
      Joi.object({
        skillId: id.required().messages({ 'any.required': 'Choose a skill.' }),
        minimum: Joi.number().integer().min(1).max(5).required().messages({
          'number.base': 'A level is 1 to 5.',
          'number.min': 'A level is 1 to 5.',
          'number.max': 'A level is 1 to 5.',
        }),
      }),
    )
    .max(10)
    .unique('skillId')
    .default([])
    .messages({ 'array.unique': 'This skill is asked for twice.', 'array.max': 'At most 10 skills.' }),
  maxWaiting: Joi.number().integer().min(0).max(1_000).allow(null).default(null).messages({
    'number.base': waitingSentence,
    'number.min': waitingSentence,
    'number.max': waitingSentence,
  }),
  whenFull: destination,
  maxWaitSeconds: seconds(5, 7_200).allow(null).default(null),
  whenTooLong: destination,
  whenNobody: destinationOrNull,
  hoursId: id.allow(null).default(null),
  whenClosed: destinationOrNull.default(null),
  atClosing: Joi.string().valid('serve', 'sendOn').default('serve'),
  preferOwner: Joi.boolean().default(false),
  script: script.default(''),
  outcomes: outcomeList.default([]),
});
