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

/** A destination in a reply. */
export const destinationView = Joi.alternatives<Destination>(...shapes);

/** What follows when nobody lifts, in a reply. */
export const noAnswerView = Joi.array<NoAnswerStep[]>().items(
  Joi.alternatives(Joi.object({ kind: Joi.valid('otherPhones').required() }), ...shapes),
);

export const destinationViewOrNull = Joi.alternatives<Destination | null>(Joi.valid(null), ...shapes);
