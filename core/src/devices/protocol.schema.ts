import Joi from 'joi';
import type { LegFailure } from '../story/facts.ts';
import { type FromGateway, misbehaviours } from './protocol.ts';

/** Which fields were cleaned while a message was read. */
export interface Cleaned {
  fields: Set<string>;
}

const mostAlive = 50_000;

/** Ids and references, as we or a gateway made them. */
const id = Joi.string()
  .pattern(/^[\w.:@+-]+$/)
  .max(120);
/** A gateway's own name for something: it comes back as it was. */
const reference = Joi.string()
  .pattern(/^[^\p{Cc}\p{Surrogate}]+$/u)
  .max(200)
  .required();
/** One line for people or a provider: control characters become spaces, and what is longer is cut. */
const line = (most: number) => cleanText(most, /\p{Cc}+/gu);
/** Several lines: breaks stay. */
const lines = (most: number) => cleanText(most, /(?![\n\t])\p{Cc}/gu);
/** A SIP message: text with its own line breaks. A NUL is in none. */
const sip = Joi.string()
  .max(65_536)
  .pattern(/^[^\0]*$/);
const money = Joi.string().pattern(/^\d{1,9}(\.\d{1,6})?$/);
const base64 = Joi.string()
  .allow('')
  .pattern(/^[A-Za-z0-9+/]*={0,2}$/);
const leg = id.required();
const callId = id.required();
const part = Joi.number().integer().min(1).max(1_000);
const host = Joi.string().hostname().max(255);

function cleanText(most: number, dirt: RegExp): Joi.StringSchema {
  return Joi.string()
    .allow('')
    .custom((value: string, helpers) => {
      // A surrogate without its other half is no character and cannot be kept as one.
      const clean = value
        .slice(0, most)
        .replace(dirt, ' ')
        .replace(/\p{Surrogate}/gu, '\uFFFD');
      if (clean !== value) {
        const { cleaned } = helpers.prefs.context as { cleaned: Cleaned };
        cleaned.fields.add(String(helpers.state.path?.at(-1)));
      }
      return clean;
    });
}

const failures: LegFailure[] = [
  'declined',
  'busy',
  'unreachable',
  'noAnswer',
  'refused',
  'noRoute',
  'congestion',
];

type Fields<Kind extends FromGateway['kind']> = {
  [Field in Exclude<keyof Extract<FromGateway, { kind: Kind }>, 'kind'>]-?: Joi.Schema;
};

/** One schema for each kind of message; a kind without one does not compile. */
const kinds: { [Kind in FromGateway['kind']]: Fields<Kind> } = {
  hello: {
    gateway: line(60).required(),
    legs: Joi.array().items(id).max(mostAlive).required(),
    calls: Joi.array().items(id).max(mostAlive).required(),
    trunkHosts: Joi.array().items(host).max(1_000),
  },
  sip: { device: id.required(), message: sip.required(), source: line(120) },
  trunkSip: { trunkHost: host.required(), account: line(120).required(), message: sip.required() },
  answered: { leg },
  failed: {
    leg,
    cause: Joi.string()
      .valid(...failures)
      .required(),
  },
  hungUp: { leg },
  key: {
    leg,
    key: Joi.string()
      .pattern(/^[0-9*#A-D]$/)
      .required(),
  },
  greeted: { leg, by: Joi.string().valid('person', 'machine').required() },
  call: {
    ref: reference,
    to: line(64).required(),
    from: line(64).required(),
    callerName: line(120),
    trunkHost: host,
    device: id,
  },
  spoken: { leg, words: line(1_000).required() },
  callerHungUp: { callId },
  faxPart: { callId, file: base64.required() },
  fax: { callId, pages: Joi.number().integer().min(1).max(1_000).required(), file: base64.required() },
  recordingPart: { callId, file: base64.required() },
  recording: { callId, file: base64.required() },
  greetingPart: { callId, file: base64.required() },
  greeting: { callId, file: base64.required() },
  talkPart: { callId, part: part.required(), file: base64.required() },
  talk: { callId, part: part.required(), file: base64.required() },
  text: {
    ref: reference,
    to: line(64).required(),
    from: line(64).required(),
    body: lines(4_000).required(),
    price: money.required(),
  },
  textSent: { ref: reference, price: money.required() },
  textFailed: { ref: reference, why: line(300).required() },
  trafficState: {
    on: Joi.boolean().required(),
    speed: Joi.number().min(0).max(1_000).required(),
    devices: Joi.array()
      .items(
        Joi.object({
          account: id.required(),
          misbehaves: Joi.string()
            .valid(...misbehaviours)
            .allow(null)
            .required(),
          newMessages: Joi.number().integer().min(0).max(100_000),
          display: Joi.array().items(line(300)).max(8),
        }),
      )
      .max(mostAlive)
      .required(),
    frontDesk: Joi.array().items(line(300)).max(100).required(),
    letters: Joi.array()
      .items(
        Joi.object({
          to: line(300).required(),
          subject: line(300).required(),
          text: lines(4_000).required(),
          at: Joi.number().integer().required(),
        }),
      )
      .max(100),
  },
  enrolled: { code: line(60).required(), account: id.allow(null).required() },
};

/** How each kind of message is checked. A field we do not know is left out: a later gateway may say more. */
export const messageSchemas: ReadonlyMap<string, Joi.ObjectSchema<FromGateway>> = new Map(
  Object.entries(kinds).map(([kind, fields]) => [
    kind,
    Joi.object<FromGateway>({ kind: Joi.string().required(), ...fields }).options({ stripUnknown: true }),
  ]),
);
