import type { Knex } from 'knex';
import { type Destination, destinationKinds } from '@night-bell/core/model/destination';
import type { TextReader } from '@night-bell/core/model/numbers.schema';
import { readNumber } from '@night-bell/core/numbers/e164';
import { placeOf } from '@night-bell/core/numbers/facts';
import { Problem } from '../../http/problems.ts';
import type { Author } from '../../spine/items.ts';
import { readTable } from '../../spine/tables.ts';
import { createNumber } from './store.ts';

/** A row as it was read, with a sentence at each cell that is wrong. */
export interface CheckedNumber {
  number: string;
  label: string;
  /** Name or extension of what it leads to; empty for nowhere. */
  destination: string;
  source: string;
  /** Name or extension of who reads its texts; empty for texts that are not taken. */
  texts: string;
  /** Calls it takes at once, as written; empty for any number of them. */
  atOnce: string;
  faults: Record<string, string>;
}

interface ReadNumber {
  e164: string;
  to: Destination | null;
  sourceId: string | null;
  textsTo: TextReader | null;
  mostCalls: number | null;
}

function isReader(destination: Destination | null): destination is TextReader {
  return destination?.kind === 'person' || destination?.kind === 'queue';
}

const headerNames = {
  number: ['number', 'phone number', 'phone', 'did', 'e164', 'telephone'],
  label: ['label', 'name', 'description'],
  destination: ['destination', 'leads to', 'route', 'goes to', 'queue'],
  source: ['source', 'call source', 'advert'],
  texts: ['texts', 'texts to', 'sms', 'messages'],
  atOnce: ['calls at once', 'at once', 'most calls', 'call limit'],
} as const;

const mostNumbers = 5_000;

/** Reads, checks and makes all numbers of the list, or none. A dry run only checks. */
export async function bringNumbers(
  trx: Knex.Transaction,
  text: string,
  dryRun: boolean,
  author: Author,
): Promise<{ rows: CheckedNumber[]; made: number }> {
  const table = await readTable(text, '/text', false);
  if (table.rows.length > mostNumbers)
    throw Problem.field('/text', `At most ${mostNumbers.toLocaleString('en')} numbers are brought at once.`);
  const headers = table.headers.map((header) => header.trim().toLowerCase());
  const columnOf = (key: keyof typeof headerNames) =>
    headers.findIndex((header) => (headerNames[key] as readonly string[]).includes(header));
  const named = columnOf('number') >= 0;
  const at = named
    ? {
        number: columnOf('number'),
        label: columnOf('label'),
        destination: columnOf('destination'),
        source: columnOf('source'),
        texts: columnOf('texts'),
        atOnce: columnOf('atOnce'),
      }
    : { number: 0, label: 1, destination: 2, source: 3, texts: 4, atOnce: 5 };
  const cells = named ? table.rows : [table.headers, ...table.rows];
  const known = await knownThings(trx);
  const seen = new Map<string, number>();
  const rows = cells.map((row, index): CheckedNumber & ReadNumber => {
    const cell = (column: number) => (row[column] ?? '').trim();
    const faults: Record<string, string> = {};
    const reading = readNumber(cell(at.number));
    const e164 = reading.ok ? reading.e164 : '';
    if (!reading.ok) faults.number = reading.reason;
    else if (known.numbers.has(e164))
      faults.number = `This number is already here, as ${known.numbers.get(e164)!}.`;
    else if (seen.has(e164)) faults.number = `The same number as row ${seen.get(e164)!}.`;
    else seen.set(e164, index + 1);
    const destination = cell(at.destination);
    const to = known.destinations.get(destination.toLowerCase()) ?? null;
    if (destination !== '' && to === null)
      faults.destination = `Nothing is called ${destination}. Make it first, or leave the cell empty.`;
    const source = cell(at.source);
    const sourceId = known.sources.get(source.toLowerCase()) ?? null;
    if (source !== '' && sourceId === null) faults.source = `No call source is called ${source}.`;
    const texts = cell(at.texts);
    const reader = known.destinations.get(texts.toLowerCase()) ?? null;
    const textsTo = isReader(reader) ? reader : null;
    if (texts !== '' && textsTo === null) faults.texts = `No person and no queue is called ${texts}.`;
    const atOnce = cell(at.atOnce);
    const mostCalls = atOnce === '' ? null : Number(atOnce);
    if (mostCalls !== null && !(Number.isInteger(mostCalls) && mostCalls >= 1 && mostCalls <= 10_000))
      faults.atOnce = `${atOnce} is no number of calls. Write 1 to 10,000, or leave the cell empty.`;
    const label = cell(at.label) || (reading.ok ? (placeOf(e164) ?? e164) : '');
    return {
      number: reading.ok ? e164 : cell(at.number),
      label,
      destination,
      source,
      texts,
      atOnce,
      faults,
      e164,
      to,
      sourceId,
      textsTo,
      mostCalls,
    };
  });
  const bad = rows.filter((row) => Object.keys(row.faults).length > 0).length;
  const shown = rows.map(({ number, label, destination, source, texts, atOnce, faults }) => ({
    ...{ number, label, destination, source, texts, atOnce, faults },
  }));
  if (bad > 0 || dryRun) return { rows: shown, made: 0 };
  for (const { e164, label, to, sourceId, textsTo, mostCalls } of rows)
    await createNumber(
      trx,
      { e164, label, destination: to, sourceId, textsTo, dialTeams: [], mostCalls, priority: 0 },
      author,
    );
  return { rows: shown, made: rows.length };
}

async function knownThings(trx: Knex) {
  const things = await trx('item as i')
    .leftJoin('extension as e', 'e.item_id', 'i.id')
    .whereIn('i.kind', [...destinationKinds, 'source'])
    .whereNull('i.retired_at')
    .select<{ id: string; kind: string; name: string; digits: string | null }[]>(
      'i.id',
      'i.kind',
      'i.name',
      'e.digits',
    );
  const numbers = await trx('number as n')
    .join('item as i', 'i.id', 'n.id')
    .whereNotNull('n.e164')
    .select<{ e164: string; name: string }[]>('n.e164', 'i.name');
  const destinations = new Map<string, Destination>();
  for (const { id, kind, name, digits } of things.filter((thing) => thing.kind !== 'source')) {
    const destination = { kind, id } as Destination;
    destinations.set(name.toLowerCase(), destination);
    if (digits !== null) destinations.set(digits, destination);
  }
  return {
    destinations,
    sources: new Map(
      things.filter((thing) => thing.kind === 'source').map(({ id, name }) => [name.toLowerCase(), id]),
    ),
    numbers: new Map(numbers.map(({ e164, name }) => [e164, name])),
  };
}
