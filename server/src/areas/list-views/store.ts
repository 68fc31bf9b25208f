import type { Knex } from 'knex';
import type { ListView, ListViewDraft, ViewedList, WaysToLook } from '@night-bell/core/contracts/list-views';
import { Problem } from '../../http/problems.ts';
import { newId } from '../../spine/items.ts';

const mostViews = 200;

interface ViewRow extends Omit<ListView, 'mine'> {
  personId: string;
}

/** What this person may look at a list by: own views and those of everybody, by name. */
export async function waysToLookAt(database: Knex, personId: string, list: ViewedList): Promise<WaysToLook> {
  const rows = await database('list_view as v')
    .join('item as i', 'i.id', 'v.person_id')
    .where('v.list', list)
    .where((of) => void of.where('v.person_id', personId).orWhere('v.shared', true))
    .orderByRaw('lower(v.name), v.id')
    .select<ViewRow[]>('v.id', 'v.name', 'v.query', 'v.columns', 'v.shared', {
      by: 'i.name',
      personId: 'v.person_id',
    });
  const chosen = await database('column_choice')
    .where({ person_id: personId, list })
    .first<{ columns: string[] } | undefined>('columns');
  return {
    columns: chosen?.columns ?? null,
    views: rows.map(({ personId: whose, ...view }) => ({ ...view, mine: whose === personId })),
  };
}

/** Keeps a view under its name; one of one's own by the same name is replaced. */
export async function keepView(trx: Knex.Transaction, personId: string, draft: ListViewDraft): Promise<void> {
  const { list, name, query, columns, shared } = draft;
  const kept = { query, columns: columns === null ? null : JSON.stringify(columns), shared };
  const replaced = await trx('list_view')
    .where({ person_id: personId, list })
    .whereRaw('lower(name) = lower(?)', [name])
    .update({ name, ...kept });
  if (replaced > 0) return;
  const [{ count } = { count: 0 }] = await trx('list_view')
    .where({ person_id: personId })
    .select<{ count: number }[]>(trx.raw('count(*)::int as count'));
  if (count >= mostViews)
    throw new Problem('notNow', `You keep ${mostViews} views already. Delete one that is no longer used.`);
  await trx('list_view').insert({ id: newId(), person_id: personId, list, name, ...kept });
}

/** Only who keeps a view takes it away; an administrator also one that everybody sees. */
export async function dropView(
  trx: Knex.Transaction,
  who: { personId: string; isAdministrator: boolean },
  id: string,
): Promise<void> {
  const gone = await trx('list_view')
    .where({ id })
    .where((of) => {
      void of.where({ person_id: who.personId });
      if (who.isAdministrator) void of.orWhere({ shared: true });
    })
    .delete();
  if (gone === 0) throw new Problem('notFound', 'You keep no such view.');
}

/** Null goes back to the columns the page shows of itself. */
export async function chooseColumns(
  database: Knex,
  personId: string,
  list: ViewedList,
  columns: string[] | null,
): Promise<void> {
  if (columns === null) await database('column_choice').where({ person_id: personId, list }).delete();
  else
    await database('column_choice')
      .insert({ person_id: personId, list, columns: JSON.stringify(columns) })
      .onConflict(['person_id', 'list'])
      .merge();
}
