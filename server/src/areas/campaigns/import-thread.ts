/** A thread that brings one list and ends: a million rows are read, checked and copied beside the live loop. */
import { parentPort, workerData } from 'node:worker_threads';
import type pg from 'pg';
import { Problem } from '../../http/problems.ts';
import { type ImportInput, runImport } from './run-import.ts';

const port = parentPort;
if (port === null) throw new Error('this is started as a thread');
const { database, jobId, input } = workerData as {
  database: pg.ClientConfig;
  jobId: string;
  input: ImportInput;
};
runImport(database, jobId, input, (read, doing) => {
  port.postMessage({ read, doing });
  return Promise.resolve();
}).then(
  (report) => port.postMessage({ report }),
  (error: unknown) =>
    port.postMessage(
      error instanceof Problem
        ? { problem: { code: error.code, detail: error.errors[0]?.detail ?? error.detail } }
        : { fault: String(error) },
    ),
);
