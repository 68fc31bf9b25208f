import type { Knex } from 'knex';
import { type Destination, sameDestination } from '@night-bell/core/model/destination';
import { readAmount, writeAmount } from '@night-bell/core/model/amount';
import type { NumberDraft, TextReader } from '@night-bell/core/model/numbers.schema';
import { Problem } from '../../http/problems.ts';
import {
  checkDestination,
  destinationColumns,
  destinationFrom,
  destinationReference,
} from '../../spine/destinations.ts';
import {
  announceChange,
  type Author,
  changeItem,
  checkInUse,
  createItem,
  newId,
  type Reference,
  refuseWhenUsed,
  retireItem,
} from '../../spine/items.ts';

export interface NumberView extends NumberDraft {
  sourceName: string | null;
  textsName: string | null;
  id: string;
  version: number;
  destinationName: string | null;
  /** When it was rented at the shop; null when it was brought from elsewhere. */
  rentedAt: string | null;
  paidUntil: string | null;
  /** Rent a month, decimal. */
  monthly: string | null;
  canText: boolean;
  /** Who has reported it for unwanted calls, and when. */
  reports: { by: string; on: string }[];
  /** Calls that came in on it since the company's midnight. */
  callsToday: number;
}

interface NumberRow {
  rented_at: Date | null;
  paid_until: Date | null;
  monthly: string | null;
  can_text: boolean;
  reports: { by: string; on: string }[];
  dial_teams: string[];
  most_calls: number | null;
  priority: number;
  texts_kind: TextReader['kind'] | null;
  texts_item: string | null;
  texts_name: string | null;
  calls_today: number;
  id: string;
  version: number;
  e164: string;
  label: string;
  destination_kind: string | null;
  destination_item: string | null;
  destination_name: string | null;
  source_id: string | null;
  source_name: string | null;
}

/** SQL that counts calls in on a number since the company's midnight. */
export const callsToday = (numberId: string) => `select count(*) from call c
  where c.number_id = ${numberId} and c.direction = 'inbound' and not c.rehearsed
    and c.arrived_at >= date_trunc('day', now() at time zone (select time_zone from installation))
      at time zone (select time_zone from installation)`;

/** All numbers held, by their digits; or those with these ids. */
export async function listNumbers(database: Knex, ids?: readonly string[]): Promise<NumberView[]> {
  const rows = await database('number as n')
    .join('item as i', 'i.id', 'n.id')
    .leftJoin('item as d', 'd.id', 'n.destination_item')
    .leftJoin('item as s', 's.id', 'n.source_id')
    .leftJoin('item as x', 'x.id', 'n.texts_item')
    .whereNull('i.retired_at')
    .modify((query) => {
      if (ids !== undefined) void query.whereRaw('n.id = any(?::uuid[])', [[...ids]]);
    })
    .orderBy([{ column: 'n.e164' }])
    .select<NumberRow[]>(
      'n.*',
      'i.version',
      'i.name as label',
      'd.name as destination_name',
      's.name as source_name',
      'x.name as texts_name',
      database.raw('n.monthly::text as monthly'),
      database.raw(`(${callsToday('n.id')})::int as calls_today`),
    );
  return rows.map((row) => ({
    id: row.id,
    version: row.version,
    e164: row.e164,
    label: row.label,
    destination: destinationFrom(row.destination_kind, row.destination_item),
    destinationName: row.destination_kind === 'end' ? 'Ends the call' : row.destination_name,
    sourceId: row.source_id,
    sourceName: row.source_name,
    dialTeams: row.dial_teams,
    ...{ mostCalls: row.most_calls, priority: row.priority },
    textsTo: row.texts_kind === null ? null : { kind: row.texts_kind, id: row.texts_item! },
    textsName: row.texts_name,
    rentedAt: row.rented_at?.toISOString() ?? null,
    paidUntil: row.paid_until?.toISOString() ?? null,
    monthly: row.monthly === null ? null : writeAmount(readAmount(row.monthly)!),
    canText: row.can_text,
    reports: row.reports,
    callsToday: row.calls_today,
  }));
}

export async function getNumber(database: Knex, id: string): Promise<NumberView> {
  const [number] = await listNumbers(database, [id]);
  if (number === undefined) throw new Problem('notFound', 'There is no such number.');
  return number;
}

export function numberSnapshot(number: NumberDraft): NumberDraft {
  const { e164, label, destination, sourceId, textsTo, dialTeams, mostCalls, priority } = number;
  return { e164, label, destination, sourceId, textsTo, dialTeams, mostCalls, priority };
}

export async function createNumber(
  trx: Knex.Transaction,
  draft: NumberDraft,
  author: Author,
): Promise<string> {
  await checkNumber(trx, draft, null);
  const id = newId();
  await createItem(
    trx,
    {
      id,
      kind: 'number',
      name: draft.label,
      after: numberSnapshot(draft),
      references: referencesOf(draft),
    },
    author,
  );
  await trx('number').insert({ id, ...columnsOf(draft) });
  await announceChange(trx);
  return id;
}

export async function changeNumber(
  trx: Knex.Transaction,
  id: string,
  version: number,
  draft: NumberDraft,
  author: Author,
  takesBack?: number,
): Promise<void> {
  const current = await getNumber(trx, id);
  await checkNumber(trx, draft, current);
  await changeItem(
    trx,
    {
      id,
      name: draft.label,
      before: numberSnapshot(current),
      after: numberSnapshot(draft),
      references: referencesOf(draft),
      version,
      current,
      ...(takesBack === undefined ? {} : { takesBack }),
    },
    author,
  );
  await trx('number').where({ id }).update(columnsOf(draft));
  await announceChange(trx);
}

/** The number is no longer ours. Its digits may be taken up again later. */
export async function giveUpNumber(
  trx: Knex.Transaction,
  id: string,
  version: number,
  author: Author,
): Promise<NumberView> {
  const number = await getNumber(trx, id);
  await refuseWhenUsed(trx, id, number.label);
  await retireItem(trx, id, version, author);
  await trx('item_reference').where({ from_item: id }).delete();
  // The row keeps the calls' history; its digits step aside for whoever holds the number next.
  await trx('number').where({ id }).update({
    destination_kind: null,
    destination_item: null,
    source_id: null,
    texts_kind: null,
    texts_item: null,
    given_up_e164: number.e164,
    e164: null,
    paid_until: null,
  });
  await announceChange(trx);
  return number;
}

async function checkNumber(
  trx: Knex.Transaction,
  draft: NumberDraft,
  before: NumberView | null,
): Promise<void> {
  const id = before?.id ?? null;
  const other = await trx('number as n')
    .join('item as i', 'i.id', 'n.id')
    .where('n.e164', draft.e164)
    .modify((query) => {
      if (id !== null) void query.whereNot('n.id', id);
    })
    .first<{ name: string } | undefined>('i.name');
  if (other !== undefined)
    throw Problem.field('/e164', `This number is already here, as ${other.name}.`, 'taken');
  if (!sameDestination(before?.destination ?? null, draft.destination))
    await checkDestination(trx, draft.destination, '/destination');
  if (!sameDestination(before?.textsTo ?? null, draft.textsTo)) {
    await checkDestination(trx, draft.textsTo, '/textsTo');
    if (draft.textsTo !== null && before?.rentedAt != null && !before.canText)
      throw Problem.field('/textsTo', 'This number was rented for voice only: no texts come to it.');
  }
  await refuseCircle(trx, draft.destination, id);
  await checkInUse(trx, draft.sourceId, 'source', '/sourceId');
  for (const [index, teamId] of draft.dialTeams.entries())
    await checkInUse(trx, teamId, 'team', `/dialTeams/${index}`);
}

/** A number that leads to another of ours, and on, never leads back to itself. */
async function refuseCircle(trx: Knex, destination: Destination | null, id: string | null): Promise<void> {
  const names: string[] = [];
  for (let next = destination; next?.kind === 'number';) {
    const row = await trx('number as n')
      .join('item as i', 'i.id', 'n.id')
      .where('n.id', next.id)
      .first<{ name: string; destination_kind: string | null; destination_item: string | null } | undefined>(
        'i.name',
        'n.destination_kind',
        'n.destination_item',
      );
    if (next.id === id || row === undefined || names.length > 50)
      throw Problem.field(
        '/destination',
        names.length === 0
          ? 'A number cannot lead to itself.'
          : `This would go round in a circle: ${names.join(', ')} lead back here.`,
      );
    names.push(row.name);
    next = destinationFrom(row.destination_kind, row.destination_item);
  }
}

function columnsOf(draft: NumberDraft) {
  const { kind, item } = destinationColumns(draft.destination);
  return {
    e164: draft.e164,
    destination_kind: kind,
    destination_item: item,
    source_id: draft.sourceId,
    dial_teams: draft.dialTeams,
    ...{ most_calls: draft.mostCalls, priority: draft.priority },
    texts_kind: draft.textsTo?.kind ?? null,
    texts_item: draft.textsTo?.id ?? null,
  };
}

function referencesOf(draft: NumberDraft): Reference[] {
  return [
    ...destinationReference(draft.destination, 'leads to'),
    ...(draft.sourceId === null ? [] : [{ to: draft.sourceId, how: 'source' }]),
    ...destinationReference(draft.textsTo, 'reads its texts'),
    ...draft.dialTeams.map((to) => ({ to, how: 'may show' })),
  ];
}
