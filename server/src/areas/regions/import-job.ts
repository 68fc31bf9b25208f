import type { Knex } from 'knex';
import { type Destination, destinationKinds } from '@night-bell/core/model/destination';
import {
  mostRegionRows,
  prefixWords,
  putRegion,
  type ReadRegion,
  readRegion,
} from '@night-bell/core/plan/regions';
import type { Database } from '../../database/connection.ts';
import { Problem } from '../../http/problems.ts';
import { counted } from '../../jobs/counted.ts';
import type { Going, JobDefinition } from '../../jobs/jobs.ts';
import { uploadPartsOf } from '../../jobs/uploads.ts';
import { readLongTable } from '../../spine/tables.ts';
import { type NewRow, putRows } from './rows.queries.ts';
import { rowsChanged } from './store.ts';

export interface RegionImport {
  tableId: string;
  uploadId: string;
  rows: number;
}

const mostFaults = 200;
/** Headers by which the two columns are known. */
const regionHeaders = /^(region|prefix|area code|areacode|code|place|state|begins( with)?)$/i;
const destinationHeaders = /^(destination|to|goes to|queue|leads to)$/i;

/** Rows of a file, brought behind the page: all good rows or none. */
export function importRegionsJob(database: Database): JobDefinition<RegionImport> {
  return {
    title: ({ rows }) => `Bringing ${counted(rows, 'region', 'regions')}`,
    total: ({ rows }) => rows,
    whenStopped: 'Stopped. Nothing was kept.',
    run: async (input, going) => {
      const { rows, faults } = await readRows(database, input, going);
      const counts = await database.transaction(async (trx) => {
        await going.at(input.rows, 'Writing them down');
        const written = await putRows(trx, input.tableId, rows);
        await rowsChanged(trx, input.tableId, { ...written, takenOut: 0 }, going.author);
        await trx('upload').where({ id: input.uploadId }).delete();
        return written;
      });
      going.leftOut = faults.slice(0, mostFaults);
      going.done = input.rows;
      const left = faults.length === 0 ? '' : `, ${counted(faults.length, 'row', 'rows')} left out`;
      return `${counted(counts.added, 'region', 'regions')} added, ${counts.changed.toLocaleString('en')} changed${left}.`;
    },
  };
}

interface Fault {
  row: number;
  cell: string;
  detail: string;
}

async function readRows(
  database: Knex,
  { uploadId }: RegionImport,
  going: Going,
): Promise<{ rows: NewRow[]; faults: Fault[] }> {
  const table = await readLongTable(uploadPartsOf(database, uploadId), '/text');
  const region = table.headers.findIndex((header) => regionHeaders.test(header.trim()));
  const destination = table.headers.findIndex((header) => destinationHeaders.test(header.trim()));
  if (region < 0 || destination < 0)
    throw new Problem(
      'invalidInput',
      `The first row must name two columns: one called region (or prefix, area code, place), one called destination. It names ${table.headers.join(', ')}.`,
    );
  const called = await destinationsByName(database);
  const faults: Fault[] = [];
  const rows = new Map<string, NewRow & ReadRegion>();
  let row = 0;
  for await (const batch of table.rows) {
    for (const cells of batch) {
      row++;
      const [written = '', to = ''] = [cells[region], cells[destination]];
      const fault = take(written, to, row);
      if (fault !== null) faults.push({ row, cell: (fault.cell || to).slice(0, 60), detail: fault.detail });
    }
    await going.at(row);
  }
  return { rows: [...rows.values()], faults };

  function take(written: string, to: string, at: number): { cell: string; detail: string } | null {
    const reading = readRegion(written);
    if (!reading.ok) return { cell: written, detail: reading.reason };
    if (to.trim() === '') return { cell: written, detail: 'It does not say where its callers go.' };
    const found = called.get(to.trim().toLowerCase());
    if (found === undefined) return { cell: to, detail: `Nothing is called “${to.slice(0, 60)}”.` };
    if (Array.isArray(found))
      return {
        cell: to,
        detail: `Several are called that. Write ${found.map((kind) => `“${kind}: ${to.trim()}”`).join(' or ')}.`,
      };
    for (const prefix of reading.prefixes) {
      const before = rows.get(prefix);
      if (before !== undefined && reading.place === null && before.place === null)
        return { cell: written, detail: `${prefixWords(prefix)} is in row ${before.at} already.` };
    }
    if (rows.size + reading.prefixes.length > mostRegionRows)
      return { cell: written, detail: `A table has at most ${mostRegionRows.toLocaleString('en')} rows.` };
    for (const prefix of reading.prefixes) putRegion(rows, { prefix, place: reading.place, to: found, at });
    return null;
  }
}

/**
 * What a row may name: anything a call can be sent to, by name, by its kind and name ('queue: Freight'), or by extension.
 * Where several are called alike, their kinds.
 */
async function destinationsByName(database: Knex): Promise<Map<string, Destination | string[]>> {
  const items = (await database('item as i')
    .leftJoin('extension as e', 'e.item_id', 'i.id')
    .whereIn('i.kind', [...destinationKinds])
    .whereNull('i.retired_at')
    .select('i.id', 'i.kind', 'i.name', 'e.digits')) as {
    id: string;
    kind: Exclude<Destination['kind'], 'end'>;
    name: string;
    digits: string | null;
  }[];
  const found = new Map<string, Destination | string[]>();
  const kindsOf = new Map<string, string[]>();
  for (const { id, kind, name, digits } of items) {
    const called = name.toLowerCase();
    const kinds = [...(kindsOf.get(called) ?? []), kind];
    kindsOf.set(called, kinds);
    found.set(called, kinds.length > 1 ? kinds : { kind, id });
    found.set(`${kind}: ${called}`, { kind, id });
    if (digits !== null) found.set(digits, { kind, id });
  }
  return found;
}
