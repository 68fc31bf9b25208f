import type { Knex } from 'knex';
import type { ItemContract } from '@night-bell/core/contracts/item';
import { moveExtension } from './extensions.ts';
import type { ItemListing } from './item-listing.ts';
import { type ItemStore, itemStore } from './item-store.ts';
import { type ItemKind, type Reference } from './items.ts';

/** SQL that counts what in use leads to the item. */
export const usesOf = `(select count(*)::int from item_reference r join item u on u.id = r.from_item
  where r.to_item = t.id and u.retired_at is null)`;

/** How a field of a draft stands in its table, where that is more than the column's name. */
export interface Column {
  column: string;
  json?: true;
  /** UTC milliseconds in drafts, an instant in the table. */
  instant?: true;
  /** SQL it is read by, where that is not the column as it stands. */
  read?: string;
  write?: (value: never) => unknown;
}

export interface Present {
  id: string;
  version: number;
  retired: boolean;
  name: string;
}

/** What a plain area has of its own; everything else of an item follows from its contract and its columns. */
export interface ItemDefinition<
  Path extends string,
  Draft extends { name: string },
  View extends Draft & Present,
  Row = View,
> {
  kind: ItemKind;
  contract: ItemContract<Path, Draft, View>;
  /** 'set of opening hours': for sentences. */
  word: string;
  table: string;
  /** Of every field but the name, which the item has. */
  columns: Readonly<Partial<Record<Exclude<keyof Draft & string, 'name'>, Column | string>>>;
  /** Its draft has a field `extension`, which stands among all extensions. */
  hasExtension?: true;
  /** Selected beside the columns, as SQL by name. */
  more: Readonly<Record<string, string>>;
  /** From a row, with its columns under the names of the draft's fields; left out where the row is the view. */
  view?: (row: Row) => View;
  /** Joined beside the item, as `from` takes it: for what `more` selects. */
  joins?: string;
  /** The list's order, where it is not by name. */
  order?: string;
  /** What its list is narrowed to and sorted by, beside names. */
  listing?: ItemListing;
  /** Columns of a new row that no draft has: its place in an order. */
  begins?: (trx: Knex.Transaction) => Promise<Record<string, unknown>>;
  /** What of a draft stands in tables of its own. Fields it keeps are read by `more`. */
  parts?: {
    fields: readonly (keyof Draft & string)[];
    write: (trx: Knex.Transaction, id: string, draft: Draft) => Promise<void>;
  };
  references: (draft: Draft, current: View | null) => Reference[];
  check?: (trx: Knex.Transaction, draft: Draft, current: View | null) => Promise<void>;
  /** After a change is written: what else follows from it. */
  changed?: (trx: Knex.Transaction, draft: Draft, before: View) => Promise<void>;
  /** Refuses deactivation for reasons beside those that lead to it. */
  refuseRetiring?: (trx: Knex.Transaction, item: View) => Promise<void>;
}

export interface DefinedItem<Path extends string, Draft, View> extends ItemStore<Draft, View> {
  kind: ItemKind;
  contract: ItemContract<Path, Draft, View>;
  listing: ItemListing;
}

/** The store of a plain area: list, read, create, change, retire and reactivate, told to the pages by id. */
export function defineItem<
  Path extends string,
  Draft extends { name: string },
  View extends Draft & Present,
  Row = View,
>(definition: ItemDefinition<Path, Draft, View, Row>): DefinedItem<Path, Draft, View> {
  const { kind, contract, word, table, columns, more, view, references, check, changed, refuseRetiring } =
    definition;
  const { hasExtension = false, joins, order, begins, parts, listing } = definition;
  const fields = (Object.entries(columns) as [keyof Draft & string, Column | string][]).map(
    ([field, column]) => [field, typeof column === 'string' ? { column } : column] as const,
  );

  async function list(database: Knex, ids?: readonly string[]): Promise<View[]> {
    const rows = await database(`${table} as t`)
      .join('item as i', 'i.id', 't.id')
      .modify((query) => {
        if (hasExtension)
          void query.leftJoin('extension as e', 'e.item_id', 't.id').select('e.digits as extension');
        if (joins !== undefined) void query.joinRaw(joins);
        if (ids !== undefined) void query.whereRaw('t.id = any(?::uuid[])', [[...ids]]);
      })
      // As lists are kept: without regard to case, numbers in names by their size.
      .orderByRaw(`${order ?? 'i.name collate listing'}, t.id`)
      .select(
        't.id',
        'i.version',
        database.raw('i.retired_at is not null as retired'),
        'i.name',
        ...fields.map(([field, { column, read }]) =>
          read === undefined ? `t.${column} as ${field}` : database.raw(`${read} as ??`, [field]),
        ),
        ...Object.entries(more).map(([name, sql]) => database.raw(`${sql} as ??`, [name])),
      );
    return view === undefined ? (rows as View[]) : (rows as Row[]).map(view);
  }

  const rowOf = (draft: Draft) =>
    Object.fromEntries(
      fields.map(([field, { column, json, instant, write }]) => {
        const value = draft[field];
        if (write !== undefined) return [column, write(value as never)];
        if (json === true) return [column, JSON.stringify(value)];
        return [column, instant === true && value !== null ? new Date(value as number) : value];
      }),
    );

  const drafted = [
    ...['name', ...fields.map(([field]) => field), ...(hasExtension ? ['extension'] : [])],
    ...(parts?.fields ?? []),
  ];
  const writeBeside = async (trx: Knex.Transaction, id: string, draft: Draft) => {
    await parts?.write(trx, id, draft);
    if (hasExtension)
      await moveExtension(trx, id, (draft as { extension?: string | null }).extension ?? null);
  };

  const store = itemStore<Draft, View>({
    ...{ kind, word, list, references },
    ...(check === undefined ? {} : { check }),
    ...(changed === undefined ? {} : { changed }),
    ...(refuseRetiring === undefined ? {} : { refuseRetiring }),
    snapshot: (item) =>
      Object.fromEntries(drafted.map((field) => [field, item[field as keyof Draft]])) as unknown as Draft,
    insert: async (trx, id, draft) => {
      await trx(table).insert({ id, ...(await begins?.(trx)), ...rowOf(draft) });
      await writeBeside(trx, id, draft);
    },
    update: async (trx, id, draft) => {
      if (fields.length > 0) await trx(table).where({ id }).update(rowOf(draft));
      await writeBeside(trx, id, draft);
    },
  });

  const usual = order === undefined ? {} : { usual: `select ${order} from ${table} t where t.id = l.id` };
  return { ...store, ...{ kind, contract }, listing: { ...usual, ...listing } };
}
