import Joi from 'joi';
import type { PrefixPrice } from '../dialling/price.ts';
import { readAmount } from '../model/amount.ts';
import { type Codec, codecs, type Transport, transports } from '../phones/catalogue.ts';
import { type DraftOf, itemContract, type ViewOf } from './item.ts';
import { flag, id, name, nullable, object, optional, part, text, usually } from './parts.ts';

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
const prices = part<PrefixPrice[]>(
  Joi.array()
    .items(price)
    .max(2_000)
    .unique('prefix')
    .messages({ 'array.unique': 'This prefix is priced twice.' }),
);
const host = part<string>(
  Joi.string()
    .trim()
    .lowercase()
    .max(200)
    .pattern(/^[a-z0-9]([a-z0-9.-]*[a-z0-9])?$/)
    .required()
    .messages({
      'string.empty': "Type the provider's host, for example sip.provider.example.",
      'string.pattern.base': 'A host is a name like sip.provider.example, without sip: and without a port.',
    }),
);
const port = part<number>(
  Joi.number()
    .integer()
    .min(1)
    .max(65_535)
    .messages({ 'number.base': portSentence, 'number.min': portSentence, 'number.max': portSentence }),
);
const transport = part<Transport>(
  Joi.string()
    .valid(...transports)
    .messages({ 'any.only': 'Transport is UDP, TCP or TLS.' }),
);
const account = part<string>(
  Joi.string()
    .trim()
    .max(80)
    .pattern(/^[A-Za-z0-9._+-]+$/)
    .required()
    .messages({
      'string.empty': 'Type the account the provider gave you.',
      'string.pattern.base': 'An account has letters, digits, dot, hyphen, underscore or +.',
    }),
);
const channels = part<number>(
  Joi.number().integer().min(1).max(10_000).required().messages({
    'number.base': channelSentence,
    'number.min': channelSentence,
    'number.max': channelSentence,
    'number.integer': channelSentence,
  }),
);
const codecList = part<Codec[]>(
  Joi.array()
    .items(Joi.string().valid(...codecs))
    .unique(),
);
const secret = part<string>(
  Joi.string().min(1).max(200).messages({ 'string.empty': 'Type the secret the provider gave you.' }),
);

/** What may be said of a certificate. */
export const certificateFacts = object({
  ...{ subject: text(2_000), issuer: text(2_000), from: text(40), until: text(40), fingerprint: text(200) },
  selfSigned: flag,
});

/** Connections to providers. The secret and the certificate's key are written, never read. */
export const trunks = itemContract(
  {
    ...{ area: 'Trunks', path: '/api/trunks', one: 'a trunk', many: 'trunks' },
    example: { name: 'Provider', host: 'sip.provider.example', account: 'shop', channels: 30 },
  },
  {
    name,
    host,
    port: usually(port, 5060),
    transport: usually(transport, 'udp'),
    account,
    /** Whether we register there; some providers know a trunk by its address. */
    registers: usually(flag, false),
    channels,
    codecs: usually(codecList, []),
    behindRouter: usually(flag, false),
    /** Always shown as caller ID; null for what the call has. */
    numberId: usually(nullable(id), null),
    prices: usually(prices, []),
  },
  {
    hasSecret: flag,
    /** Short or easily guessed; or the same as another trunk's or phone's. */
    secretWeak: flag,
    secretShared: flag,
    /** The number always shown, when there is one. */
    callerId: nullable(text(16)),
    certificate: nullable(certificateFacts),
  },
  {
    /** A new secret; left out to keep the one there is. */
    written: { secret: optional(secret) },
  },
);

export type TrunksContract = typeof trunks;
export type TrunkDraft = DraftOf<TrunksContract>;
export type TrunkView = ViewOf<TrunksContract>;
