import type pg from 'pg';
import type { ListReport } from '@night-bell/core/outbound/contact-list';
import type { Database } from '../../database/connection.ts';
import { counted } from '../../jobs/counted.ts';
import { inThread } from '../../jobs/in-thread.ts';
import { type JobDefinition, Stopped } from '../../jobs/jobs.ts';
import { type ImportInput, leftOut, outcomeOf, runImport } from './run-import.ts';

/**
 * Contacts of a file, brought behind the page: all good rows or none.
 *
 * @param file of the thread; null does the work here, for tests
 */
export function importContactsJob(database: Database, file: URL | null): JobDefinition<ImportInput> {
  const connection = database.client.config.connection as pg.ClientConfig;
  return {
    title: ({ rows }) => `Bringing ${counted(rows, 'contact', 'contacts')}`,
    total: ({ rows }) => rows,
    whenStopped: 'Stopped. Nothing was kept.',
    run: async (input, going) => {
      const work =
        file === null
          ? runImport(connection, going.id, input, (read, doing) => going.at(read, doing))
          : inThread<ListReport>(file, { database: connection, jobId: going.id, input }, going);
      const report = await work.catch(async (error: unknown) => {
        // One that is to go on elsewhere needs its file.
        if (!(error instanceof Stopped)) await database('upload').where({ id: input.uploadId }).delete();
        throw error;
      });
      going.leftOut = leftOut(report);
      going.done = input.rows;
      return outcomeOf(report);
    },
  };
}
