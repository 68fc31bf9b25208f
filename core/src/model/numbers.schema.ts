import Joi from 'joi';
import type { Destination } from './destination.ts';
import { destinationOrNull, id, name, publicNumber } from './fields.schema.ts';

export interface TextReader {
  kind: 'person' | 'queue';
  id: string;
}

/** A number we hold: its digits, our own label, and where it leads (null: nowhere). */
export interface NumberDraft {
  e164: string;
  label: string;
  destination: Destination | null;
  /** The advert that makes this number ring. */
  sourceId: string | null;
  /** Who reads the texts that come to it: a person, or the members of a queue; null takes none. */
  textsTo: TextReader | null;
  /** Teams whose people may show it when dialling; none named means everybody. */
  dialTeams: string[];
  /** Calls it takes at once; null for no limit. */
  mostCalls: number | null;
  /** Of its callers, 0 to 9, until a step of a plan or a queue says another. */
  priority: number;
}

export const textsTo = Joi.object<TextReader>({
  kind: Joi.string().valid('person', 'queue').required(),
  id: id.required(),
}).allow(null);

const prioritySentence = 'Priority is 0 to 9.';
const mostCallsSentence = 'From 1 to 10,000 calls, or no limit.';

export const numberDraft = Joi.object<NumberDraft, true>({
  e164: publicNumber.required().messages({ 'any.required': 'Type the number.' }),
  label: name.required().messages({ 'string.empty': 'A label is needed, for yourselves only.' }),
  destination: destinationOrNull.default(null),
  sourceId: id.allow(null).default(null),
  textsTo: textsTo.default(null),
  dialTeams: Joi.array().items(id).max(200).unique().default([]),
  mostCalls: Joi.number().integer().min(1).max(10_000).allow(null).default(null).messages({
    'number.base': mostCallsSentence,
    'number.min': mostCallsSentence,
    'number.max': mostCallsSentence,
  }),
  priority: Joi.number().strict().integer().min(0).max(9).default(0).messages({
    'number.base': prioritySentence,
    'number.integer': prioritySentence,
    'number.min': prioritySentence,
    'number.max': prioritySentence,
  }),
});
