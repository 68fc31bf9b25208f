import type { Knex } from 'knex';
import type { tables } from './tables.ts';

/** What JavaScript has for each. JSON is written as text, instants as they come. */
interface Read {
  uuid: string;
  text: string;
  int: number;
  big: number;
  real: number;
  /** Decimal digits: no float holds an amount. */
  amount: string;
  flag: boolean;
  instant: Date;
  day: string;
  /** Whatever stands there; whoever reads it says what that is. */
  json: unknown;
  bytes: Buffer;
  searched: string;
  texts: string[];
  uuids: string[];
  ints: number[];
}

type Words<S extends string> = S extends `${infer First} ${infer Rest}` ? First | Words<Rest> : S;
type Name<Word extends string> = Word extends `${infer N}?=` | `${infer N}?` | `${infer N}=` ? N : Word;
type IsNull<Word extends string> = Word extends `${string}?${string}` ? null : never;
type IsGiven<Word extends string> = Word extends `${string}=` | `${string}?` ? false : true;

type Columns = Readonly<Partial<Record<keyof Read, string>>>;
type Named<Table extends Columns> = {
  [Kind in keyof Table & keyof Read]: Table[Kind] extends string
    ? { kind: Kind; word: Words<Table[Kind]> }
    : never;
}[keyof Table & keyof Read];
type Each<Column> = Column extends { kind: infer Kind extends keyof Read; word: infer Word extends string }
  ? Word extends string
    ? { name: Name<Word>; value: Read[Kind] | IsNull<Word>; given: IsGiven<Word> }
    : never
  : never;

export type TableName = keyof typeof tables;
export type Row<Table extends TableName> = {
  [Column in Each<Named<(typeof tables)[Table]>> as Column['name']]: Column['value'];
};

/** What may be written for a value: SQL stands for any, an instant may be text (ISO 8601). */
type Sent<Value> = Value | (Value extends Date ? string : never) | Knex.Raw;

/** What a new row must say, and what it may. */
type Written<Table extends TableName> = {
  [
    Column in Each<Named<(typeof tables)[Table]>> as Column['given'] extends true ? Column['name'] : never
  ]: Sent<Column['value']>;
} & Changed<Table>;
type Changed<Table extends TableName> = { [Column in keyof Row<Table>]?: Sent<Row<Table>[Column]> };

type Tabled = {
  [Table in TableName]: Knex.CompositeTableType<Row<Table>, Written<Table>, Changed<Table>>;
};

declare module 'knex/types/tables.js' {
  // How the package takes types from outside: by merging with an interface of its own. Its own table is not ours to keep.
  interface Tables extends Tabled {
    knex_migrations: { id: number; name: string; batch: number; migration_time: Date };
  }
}
