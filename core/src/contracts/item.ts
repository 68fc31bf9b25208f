import type Joi from 'joi';
import { flag, id, object, type Out, type Part, ruled, whole } from './parts.ts';

/** What every item has beside what people set. */
const present = { id, version: whole(0, Number.MAX_SAFE_INTEGER), retired: flag };

/**
 * The contract of one kind of item: where it is, what people set (`draft`), and what is shown of it (`view`). Server and
 * web client read the same; the six routes of a list of items follow from it.
 */
export interface ItemContract<Path extends string, Draft, View> {
  readonly area: string;
  readonly path: Path;
  /** 'a set of opening hours', 'sets of opening hours': for sentences. */
  readonly one: string;
  readonly many: string;
  /** What making one asks for at least, for the documents of the API. */
  readonly example?: object;
  readonly draft: Part<Draft>;
  readonly view: Part<View>;
}

type Parts = Readonly<Record<string, Part<unknown>>>;
type Values<P extends Parts> = { [K in keyof P]: Out<P[K]> };

/** What may be left out of a request stands in every reply. */
function always(parts: Parts): Parts {
  return Object.fromEntries(
    Object.entries(parts).map(([field, { schema }]) => [field, { schema: schema.required() }]),
  );
}

/**
 * `draft` is set and shown, `more` is only shown, `written` only set: secrets, and what may be left open when something is
 * made. `rule` is one over several fields.
 */
export function itemContract<
  Path extends string,
  D extends Parts,
  M extends Parts,
  W extends Parts = Record<never, Part<unknown>>,
>(
  about: { area: string; path: Path; one: string; many: string; example?: object },
  draft: D,
  more: M,
  { written, rule }: { written?: W; rule?: (draft: Values<D>) => string | null } = {},
): ItemContract<Path, Values<D> & Partial<Values<W>>, Values<D> & Values<M> & Values<typeof present>> {
  const whole = object({ ...draft, ...written }) as Part<Values<D> & Partial<Values<W>>>;
  return {
    ...about,
    draft: rule === undefined ? whole : ruled(whole, rule),
    view: object({ ...present, ...always(draft), ...more }) as never,
  };
}

export type DraftOf<C> = C extends ItemContract<string, infer Draft, unknown> ? Draft : never;
export type ViewOf<C> = C extends ItemContract<string, unknown, infer View> ? View : never;

/** The schema of a part that is an object, as a route takes it. */
export function objectSchema<T>(part: Part<T>): Joi.ObjectSchema<T> {
  return part.schema as Joi.ObjectSchema<T>;
}
