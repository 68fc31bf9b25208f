import type Joi from 'joi';
import type { Knex } from 'knex';
import type { Page } from '../http/paging.ts';

/** A column of a saved table. */
export interface SavedColumn<Row> {
  title: string;
  of: (row: Row) => string | number | null;
}

/** A list that can be saved as a file, whole or as it is narrowed. */
export interface SavedList<Query = Record<string, unknown>, Row = Record<string, unknown>> {
  /** The heading of the API it is read under: a key that is kept to others does not save it. */
  area: string;
  /** What the file is called, and the job: 'people'. */
  name: string;
  /** What narrows and sorts it, as its own route takes it. */
  query: Joi.ObjectSchema<Query>;
  /** What the columns need beside the rows is read once. */
  columns: (database: Knex, query: Query) => Promise<SavedColumn<Row>[]>;
  /** The rows, some at a time, in the list's order; `ids` are those that were marked. */
  rows: (database: Knex, query: Query, ids: readonly string[] | null) => AsyncIterable<Row[]>;
  /** How many there are, where that is cheap to know. */
  count: (database: Knex, query: Query) => Promise<number | null>;
}

/** Forgets the types of its rows, for the table of all lists. */
export function savedList<Query, Row>(list: SavedList<Query, Row>): SavedList {
  return list as unknown as SavedList;
}

export const savedAtOnce = 1_000;

/** Some at a time, in their order. */
export function* inParts<T>(all: readonly T[], size = savedAtOnce): Generator<T[]> {
  for (let from = 0; from < all.length; from += size) yield all.slice(from, from + size);
}

/** Every stretch of a paged list. */
export async function* everyPage<Row>(
  read: (page: { limit: number; after?: string; total: boolean }) => Promise<Page<Row>>,
): AsyncGenerator<Row[]> {
  let after: string | null = null;
  do {
    const page: Page<Row> = await read({
      ...{ limit: savedAtOnce, total: false },
      ...(after === null ? {} : { after }),
    });
    yield page.rows;
    after = page.next;
  } while (after !== null);
}
