import Joi from 'joi';
import { type Destination, destinationKinds, type NoAnswerStep } from '@night-bell/core/model/destination';

const shapes = [
  Joi.object({ kind: Joi.valid('end').required() }),
  Joi.object({
    kind: Joi.string()
      .valid(...destinationKinds)
      .required(),
    id: Joi.string().required(),
  }),
];

/** What follows when nobody lifts, in a reply. */
export const noAnswerView = Joi.array<NoAnswerStep[]>().items(
  Joi.alternatives(Joi.object({ kind: Joi.valid('otherPhones').required() }), ...shapes),
);

/** A destination in a reply, or none. */
export const destinationViewOrNull = Joi.alternatives<Destination | null>(Joi.valid(null), ...shapes);
