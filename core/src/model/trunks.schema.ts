import Joi from 'joi';
import { type Codec, codecs, type Transport, transports } from '../phones/catalogue.ts';
import type { PrefixPrice } from '../dialling/price.ts';
import { readAmount } from './amount.ts';
import { id, name } from './fields.schema.ts';

/** A connection to a provider as edited. The secret and the certificate's key are written, never read. */
export interface TrunkDraft {
  name: string;
  host: string;
  port: number;
  transport: Transport;
  account: string;
  /** Whether we register there; some providers know a trunk by its address. */
  registers: boolean;
  channels: number;
  codecs: Codec[];
  behindRouter: boolean;
  /** Always shown as caller ID; null for what the call has. */
  numberId: string | null;
  prices: PrefixPrice[];
}

export interface TrunkRequest extends TrunkDraft {
  /** A new secret; left out to keep the one there is. */
  secret?: string;
}

const channelSentence = 'From 1 to 10,000 calls at once.';
const portSentence = 'A port is 1 to 65,535; usually 5060, or 5061 for TLS.';

const price = Joi.object<PrefixPrice, true>({
  prefix: Joi.string()
    .trim()
    .allow('')
    .pattern(/^\+?\d{0,15}$/)
    .required()
    .messages({ 'string.pattern.base': 'A prefix is digits, for example +44.' }),
  perMinute: Joi.string()
    .trim()
    .required()
    .custom((value: string, helpers) => {
      const amount = readAmount(value);
      return amount === null || amount < 0n
        ? helpers.message({ custom: 'A price is an amount like 0.0135.' })
        : value;
    })
    .messages({ 'string.empty': 'A price is an amount like 0.0135.' }),
});

export const trunkRequest = Joi.object<TrunkRequest>({
  name: name.required(),
  host: Joi.string()
    .trim()
    .lowercase()
    .max(200)
    .pattern(/^[a-z0-9]([a-z0-9.-]*[a-z0-9])?$/)
    .required()
    .messages({
      'string.empty': "Type the provider's host, for example sip.provider.example.",
      'string.pattern.base': 'A host is a name like sip.provider.example, without sip: and without a port.',
    }),
  port: Joi.number()
    .integer()
    .min(1)
    .max(65_535)
    .default(5060)
    .messages({ 'number.base': portSentence, 'number.min': portSentence, 'number.max': portSentence }),
  transport: Joi.string()
    .valid(...transports)
    .default('udp')
    .messages({ 'any.only': 'Transport is UDP, TCP or TLS.' }),
  account: Joi.string()
    .trim()
    .max(80)
    .pattern(/^[A-Za-z0-9._+-]+$/)
    .required()
    .messages({
      'string.empty': 'Type the account the provider gave you.',
      'string.pattern.base': 'An account has letters, digits, dot, hyphen, underscore or +.',
    }),
  secret: Joi.string().min(1).max(200).messages({ 'string.empty': 'Type the secret the provider gave you.' }),
  registers: Joi.boolean().default(false),
  channels: Joi.number().integer().min(1).max(10_000).required().messages({
    'number.base': channelSentence,
    'number.min': channelSentence,
    'number.max': channelSentence,
    'number.integer': channelSentence,
  }),
  codecs: Joi.array()
    .items(Joi.string().valid(...codecs))
    .unique()
    .default([]),
  behindRouter: Joi.boolean().default(false),
  numberId: id.allow(null).default(null),
  prices: Joi.array()
    .items(price)
    .max(2_000)
    .unique('prefix')
    .default([])
    .messages({ 'array.unique': 'This prefix is priced twice.' }),
});
