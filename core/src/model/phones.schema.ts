import Joi from 'joi';
import {
  type Codec,
  codecs,
  deviceModels,
  type ModelId,
  type Transport,
  transports,
} from '../phones/catalogue.ts';
import type { LineKey } from '../phones/line-keys.ts';
import type { EmergencyAddress } from './emergency-address.ts';
import { emergencyAddress } from './emergency-address.schema.ts';
import { id } from './fields.schema.ts';
import { lineKeys } from './line-keys.schema.ts';

/** A device that registers by SIP, as edited. */
export interface PhoneDraft {
  model: ModelId;
  transport: Transport;
  /** Allowed for it; none named means any. */
  codecs: Codec[];
  /** Null for the company's own. */
  timeZone: string | null;
  /** The number held that is shown when its person dials directly. */
  numberId: string | null;
  /** The trunk over which what is dialled on it goes out; null for those of the dialling rules. */
  dialTrunkId: string | null;
  /** It registers from behind somebody's router: at home, say. */
  home: boolean;
  /** Where help is sent; null for the team's. */
  emergencyAddress: EmergencyAddress | null;
  /** Keys that watch extensions, in the order of their places. */
  lineKeys: LineKey[];
}

export const modelField = Joi.string()
  .valid(...deviceModels.map((model) => model.id))
  .messages({ 'any.only': 'Choose a model of the catalogue.' });

export const phoneDraft = Joi.object<PhoneDraft>({
  model: modelField.required(),
  transport: Joi.string()
    .valid(...transports)
    .default('tls')
    .messages({ 'any.only': 'Transport is UDP, TCP or TLS.' }),
  codecs: Joi.array()
    .items(Joi.string().valid(...codecs))
    .unique()
    .default([]),
  timeZone: Joi.string().max(60).allow(null).default(null),
  numberId: id.allow(null).default(null),
  dialTrunkId: id.allow(null).default(null),
  home: Joi.boolean().default(false),
  emergencyAddress: emergencyAddress.default(null),
  lineKeys,
});
