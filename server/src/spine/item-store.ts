import type { Knex } from 'knex';
import { Problem } from '../http/problems.ts';
import {
  announceChange,
  type Author,
  changeItem,
  createItem,
  type ItemKind,
  newId,
  reactivateItem,
  type Reference,
  refuseSameName,
  refuseWhenUsed,
  retireItem,
} from './items.ts';

/** How the items of one kind are read and written; routes and take-back need no more of them. */
export interface ItemStore<Draft, View> {
  /** All of them, or those of the ids. */
  list: (database: Knex, ids?: readonly string[]) => Promise<View[]>;
  get: (database: Knex, id: string) => Promise<View>;
  /** The fields that history keeps and take-back restores. */
  snapshot: (item: Draft) => Draft;
  create: (trx: Knex.Transaction, draft: Draft, author: Author) => Promise<string>;
  change: (
    trx: Knex.Transaction,
    id: string,
    version: number,
    draft: Draft,
    author: Author,
    takesBack?: number,
  ) => Promise<void>;
  retire: (trx: Knex.Transaction, id: string, version: number, author: Author) => Promise<void>;
  reactivate: (trx: Knex.Transaction, id: string, version: number, author: Author) => Promise<void>;
}

interface Present {
  id: string;
  version: number;
  retired: boolean;
  name: string;
}

/** What of a kind is its own; the order of the work, versions, history and announcing are the same for all. */
export interface ItemKeeping<Draft extends { name: string }, View extends Draft & Present> {
  kind: ItemKind;
  /** 'skill', 'trunk': for sentences. */
  word: string;
  list: (database: Knex, ids?: readonly string[]) => Promise<View[]>;
  snapshot: (item: Draft) => Draft;
  /** `current` is null for a new one. */
  references: (draft: Draft, current: View | null) => Reference[];
  /** Refuses what does not fit what there is; `current` is null for a new one. */
  check?: (trx: Knex.Transaction, draft: Draft, current: View | null) => Promise<void>;
  insert: (trx: Knex.Transaction, id: string, draft: Draft) => Promise<void>;
  update: (trx: Knex.Transaction, id: string, draft: Draft) => Promise<void>;
  /** After a change is written: what else follows from it. */
  changed?: (trx: Knex.Transaction, draft: Draft, before: View) => Promise<void>;
  /** Refuses deactivation for reasons beside those that lead to it. */
  refuseRetiring?: (trx: Knex.Transaction, item: View) => Promise<void>;
}

export function itemStore<Draft extends { name: string }, View extends Draft & Present>(
  keeping: ItemKeeping<Draft, View>,
): ItemStore<Draft, View> {
  const { kind, word, list, snapshot, references, check, insert, update, changed, refuseRetiring } = keeping;

  async function get(database: Knex, id: string): Promise<View> {
    const [item] = await list(database, [id]);
    if (item === undefined) throw new Problem('notFound', `There is no such ${word}.`);
    return item;
  }

  return {
    list,
    get,
    snapshot,
    create: async (trx, draft, author) => {
      await refuseSameName(trx, kind, draft.name, null);
      await check?.(trx, draft, null);
      const id = newId();
      const after = snapshot(draft);
      await createItem(
        trx,
        { id, kind, name: draft.name, after, references: references(draft, null) },
        author,
      );
      await insert(trx, id, draft);
      await announceChange(trx);
      return id;
    },
    change: async (trx, id, version, draft, author, takesBack) => {
      const current = await get(trx, id);
      await refuseSameName(trx, kind, draft.name, id);
      if (current.version === version) await check?.(trx, draft, current);
      await changeItem(
        trx,
        {
          id,
          name: draft.name,
          before: snapshot(current),
          after: snapshot(draft),
          references: references(draft, current),
          version,
          current,
          ...(takesBack === undefined ? {} : { takesBack }),
        },
        author,
      );
      await update(trx, id, draft);
      await changed?.(trx, draft, current);
      await announceChange(trx);
    },
    retire: async (trx, id, version, author) => {
      const item = await get(trx, id);
      await refuseWhenUsed(trx, id, item.name);
      await refuseRetiring?.(trx, item);
      await retireItem(trx, id, version, author);
      await announceChange(trx);
    },
    reactivate: async (trx, id, version, author) => {
      const item = await get(trx, id);
      await refuseSameName(trx, kind, item.name, id);
      await reactivateItem(trx, id, version, author);
      await announceChange(trx);
    },
  };
}
