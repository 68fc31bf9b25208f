import Joi from 'joi';
import { dayOfDate } from '../hours/civil.ts';
import type { Destination } from '../model/destination.ts';
import * as fields from '../model/fields.schema.ts';

/**
 * A part of a contract: what may come in or go out, with the type that follows from it. Types are read off contracts
 * (`Out`), never written beside them.
 */
export interface Part<T> {
  readonly schema: Joi.Schema;
  /** Only there so that the type is kept. */
  readonly of?: T;
}

/** The type a part describes. */
export type Out<P> = P extends Part<infer T> ? T : never;

/** A part of a schema that stands elsewhere, or is needed once. */
export const part = <T>(schema: Joi.Schema): Part<T> => ({ schema });

/** A name of a person or thing. */
export const name: Part<string> = part(fields.name.required());
export const id: Part<string> = part(fields.id.required());
export const flag: Part<boolean> = part(Joi.boolean().strict().required());

/** Words of at most so many characters; may be empty. */
export function text(most: number): Part<string> {
  return part(
    Joi.string()
      .trim()
      .allow('')
      .max(most)
      .required()
      .messages({ 'string.max': `At most ${most.toLocaleString('en')} characters.` }),
  );
}

export function whole(least: number, most: number): Part<number> {
  const sentence = `A whole number from ${least.toLocaleString('en')} to ${most.toLocaleString('en')}.`;
  return part(
    Joi.number().strict().integer().min(least).max(most).required().messages({
      'number.base': sentence,
      'number.integer': sentence,
      'number.min': sentence,
      'number.max': sentence,
    }),
  );
}

/** A number that need not be whole. */
export const decimal: Part<number> = part(Joi.number().required());

/** A file of at most so many bytes, in base64. */
export function base64(most: number): Part<string> {
  return part(
    Joi.string()
      .base64()
      .max(Math.ceil(most / 3) * 4)
      .required()
      .messages({
        'string.max': `A file of at most ${Math.floor(most / 1024 / 1024)} MB.`,
        'string.base64': 'The file came in broken. Bring it again.',
      }),
  );
}

/** An instant, UTC milliseconds. */
export const instant: Part<number> = part(Joi.number().integer().required());

/** A day without a time: YYYY-MM-DD. */
export const date: Part<string> = part(
  Joi.string()
    .pattern(/^\d{4}-\d{2}-\d{2}$/)
    .custom((value: string, helpers) =>
      Number.isNaN(dayOfDate(value)) ? helpers.error('string.pattern.base') : value,
    )
    .required()
    .messages({ 'string.pattern.base': 'A day looks like 2026-12-25.' }),
);

/** One of these words. */
export function choice<const Words extends readonly string[]>(...words: Words): Part<Words[number]> {
  return part(
    Joi.string()
      .valid(...words)
      .required(),
  );
}

export function nullable<T>(of: Part<T>): Part<T | null> {
  return part(of.schema.allow(null));
}

/** May be left out; for what is only written. */
export function optional<T>(of: Part<T>): Part<T> {
  return part(of.schema.optional());
}

/** Whole seconds within bounds, said as such. */
export function seconds(least: number, most: number): Part<number> {
  return part(fields.seconds(least, most).required());
}

/** An extension, or null for none. */
export const extensionOrNone: Part<string | null> = part(fields.extension.allow(null).default(null));

/** Where a call goes. */
export const destination: Part<Destination> = part(fields.destination.required());
export const destinationOrNone: Part<Destination | null> = part(fields.destinationOrNull.default(null));

/** May be left out, and is `value` then. */
export function usually<T>(of: Part<T>, value: T): Part<T> {
  return part(of.schema.optional().default(value as never));
}

export function list<T>(of: Part<T>, most: number): Part<T[]> {
  return part(
    Joi.array()
      .items(of.schema.optional())
      .max(most)
      .required()
      .messages({ 'array.max': `At most ${most.toLocaleString('en')} of these.` }),
  );
}

/** Values by name; names fit the pattern. */
export function dictionary<T>(of: Part<T>, names: RegExp, most: number): Part<Record<string, T>> {
  return part(
    Joi.object()
      .pattern(names, of.schema)
      .max(most)
      .required()
      .messages({ 'object.max': `At most ${most.toLocaleString('en')} of these.` }),
  );
}

/** An object whose fields are checked elsewhere. */
export const fieldsOfSomeKind: Part<Record<string, unknown>> = part(Joi.object().unknown(true).required());

type Parts = Readonly<Record<string, Part<unknown>>>;

export function object<P extends Parts>(parts: P): Part<{ [K in keyof P]: Out<P[K]> }> {
  return part(
    Joi.object(
      Object.fromEntries(Object.entries(parts).map(([key, { schema }]) => [key, schema])),
    ).required(),
  );
}

/** With a rule of its own beside its parts; the sentence says what to do. */
export function ruled<T>(of: Part<T>, fault: (value: T) => string | null): Part<T> {
  return part(
    of.schema.custom((value: T, helpers) => {
      const said = fault(value);
      return said === null ? value : helpers.message({ custom: said });
    }),
  );
}

/** An address of mail (RFC 5321: at most 254 characters). */
export const emailAddress: Part<string> = part(
  Joi.string()
    .trim()
    .email({ tlds: false })
    .max(254)
    .required()
    .messages({ 'string.email': 'An address looks like name@example.com.' }),
);
