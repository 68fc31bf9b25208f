import Joi from 'joi';
import { extension, id, name, publicNumber, seconds } from './fields.schema.ts';

/** Somewhere outside that calls can be sent to. */
export interface OutsideDraft {
  name: string;
  extension: string | null;
  e164: string;
  /** The trunk to dial over; null for those of the dialling rules. */
  trunkId: string | null;
  ringSeconds: number;
}

export const outsideDraft = Joi.object<OutsideDraft, true>({
  name: name.required(),
  extension: extension.allow(null).default(null),
  e164: publicNumber.required(),
  trunkId: id.allow(null).default(null),
  ringSeconds: seconds(5, 120).default(30),
});
