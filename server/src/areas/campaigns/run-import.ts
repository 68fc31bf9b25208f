import pg from 'pg';
import type { ListReport } from '@night-bell/core/outbound/contact-list';
import { counted } from '../../jobs/counted.ts';
import { uploadParts } from '../../jobs/uploads.ts';
import { readLongTable } from '../../spine/tables.ts';
import { copyContacts, type ImportAsked } from './copy-contacts.ts';

export interface ImportInput extends ImportAsked {
  uploadId: string;
  /** Rows there may be: lines of the file. */
  rows: number;
}

export type TellImport = (read: number, doing: string | null) => Promise<void>;

/** '60 contacts added, 1 row left out.' */
export function outcomeOf({ good, faulty }: Pick<ListReport, 'good' | 'faulty'>): string {
  const added = `${counted(good, 'contact', 'contacts')} added`;
  return faulty === 0 ? `${added}.` : `${added}, ${counted(faulty, 'row', 'rows')} left out.`;
}

/**
 * Brings an uploaded list, over connections of its own: one reads the file, the other copies. The end of the job is
 * written in the same transaction, so that a list is brought once, whatever ends when. Whatever `tell` throws undoes it.
 *
 * @param database how to reach it, as node-postgres takes it
 */
export async function runImport(
  database: pg.ClientConfig,
  jobId: string,
  input: ImportInput,
  tell: TellImport,
): Promise<ListReport> {
  const [reader, writer] = [new pg.Client(database), new pg.Client(database)];
  // A connection that breaks fails the statement at hand; nobody else listens.
  for (const client of [reader, writer]) client.on('error', () => undefined);
  try {
    await Promise.all([reader.connect(), writer.connect()]);
    await writer.query('begin');
    const table = await readLongTable(uploadParts(reader, input.uploadId), '/text');
    const report = await copyContacts(writer, input, table, tell);
    const { rowCount } = await writer.query(
      `update job set state = 'done', outcome = $2, left_out = $3, done = coalesce(total, done), doing = null,
         ended_at = now()
       where id = $1 and state = 'running'`,
      [jobId, outcomeOf(report), JSON.stringify(leftOut(report))],
    );
    if (rowCount !== 1) throw new Error('the job was taken over by another server');
    await writer.query('delete from upload where id = $1', [input.uploadId]);
    await writer.query('commit');
    return report;
  } finally {
    await Promise.allSettled([reader.end(), writer.end()]);
  }
}

/** As a job shows them. */
export const leftOut = ({ faults }: Pick<ListReport, 'faults'>) =>
  faults.map(({ row, cell, detail }) => ({ row, cell, detail }));
