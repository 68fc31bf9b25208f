import { Worker } from 'node:worker_threads';
import type pg from 'pg';
import type { ListReport } from '@night-bell/core/outbound/contact-list';
import type { Database } from '../../database/connection.ts';
import { Problem, type ProblemCode } from '../../http/problems.ts';
import { counted } from '../../jobs/counted.ts';
import { type Going, type JobDefinition, Stopped } from '../../jobs/jobs.ts';
import { type ImportInput, leftOut, outcomeOf, runImport } from './run-import.ts';

type Said =
  | { read: number; doing: string | null }
  | { report: ListReport }
  | { problem: { code: ProblemCode; detail: string } }
  | { fault: string };

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
          : inThread(file, { database: connection, jobId: going.id, input }, going);
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

/** The thread is ended when the job is to stop: its transaction ends with its connections. */
function inThread(file: URL, workerData: object, going: Going): Promise<ListReport> {
  const worker = new Worker(file, { workerData });
  return new Promise<ListReport>((resolve, reject) => {
    let telling: Promise<void> = Promise.resolve();
    worker.on('message', (said: Said) => {
      if ('report' in said) resolve(said.report);
      else if ('problem' in said) reject(new Problem(said.problem.code, said.problem.detail));
      else if ('fault' in said) reject(new Error(said.fault));
      else telling = telling.then(() => going.at(said.read, said.doing)).catch(reject);
    });
    // While the rows settle nothing is told; who asks to stop then is heard all the same.
    going.whenToStop(() => reject(new Stopped()));
    worker.on('error', reject);
    worker.on('exit', () => reject(new Error('the thread ended')));
  }).finally(() => worker.terminate());
}
