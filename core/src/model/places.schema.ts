import Joi from 'joi';
import { extension, name, pin } from './fields.schema.ts';

/** A conference room as edited. The PIN is written, never read. */
export interface RoomDraft {
  name: string;
  extension: string | null;
  joinTone: boolean;
}

export interface RoomRequest extends RoomDraft {
  /** A new PIN, or null for none; left out to keep what there is. */
  pin?: string | null;
}

export const roomRequest = Joi.object<RoomRequest>({
  name: name.required(),
  extension: extension.allow(null).default(null),
  joinTone: Joi.boolean().default(true),
  pin: pin.allow(null),
});

export interface FaxBoxDraft {
  name: string;
  extension: string | null;
}

export const faxBoxDraft = Joi.object<FaxBoxDraft, true>({
  name: name.required(),
  extension: extension.allow(null).default(null),
});
