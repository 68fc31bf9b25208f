import Joi from 'joi';
import { type Destination, destinationKinds } from '@night-bell/core/model/destination';

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

export const destinationViewOrNull = Joi.alternatives<Destination | null>(Joi.valid(null), ...shapes);
