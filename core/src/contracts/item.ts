import type Joi from 'joi';
import { flag, id, object, type Out, type Part, whole } from './parts.ts';

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
  readonly draft: Part<Draft>;
  readonly view: Part<View>;
}

type Parts = Readonly<Record<string, Part<unknown>>>;
type Values<P extends Parts> = { [K in keyof P]: Out<P[K]> };

export function itemContract<Path extends string, D extends Parts, M extends Parts>(
  about: { area: string; path: Path; one: string; many: string },
  draft: D,
  more: M,
): ItemContract<Path, Values<D>, Values<D> & Values<M> & Values<typeof present>> {
  return {
    ...about,
    draft: object(draft),
    view: object({ ...present, ...draft, ...more }) as never,
  };
}

export type DraftOf<C> = C extends ItemContract<string, infer Draft, unknown> ? Draft : never;
export type ViewOf<C> = C extends ItemContract<string, unknown, infer View> ? View : never;

/** The schema of a part that is an object, as a route takes it. */
export function objectSchema<T>(part: Part<T>): Joi.ObjectSchema<T> {
  return part.schema as Joi.ObjectSchema<T>;
}
