/** A thread that saves one list and ends: reading, writing and packing a hundred thousand rows is no work for the live loop. */
import { parentPort, workerData } from 'node:worker_threads';
import { connect } from '../database/connection.ts';
import { Problem } from '../http/problems.ts';
import { runSave, type SaveInput } from './run-save.ts';

const port = parentPort;
if (port === null) throw new Error('this is started as a thread');
const { url, jobId, input } = workerData as { url: string; jobId: string; input: SaveInput };
const database = connect(url);
runSave(database, jobId, input, (read) => {
  port.postMessage({ read, doing: null });
  return Promise.resolve();
})
  .then(
    (report) => port.postMessage({ report }),
    (error: unknown) =>
      port.postMessage(
        error instanceof Problem
          ? { problem: { code: error.code, detail: error.detail } }
          : { fault: String(error) },
      ),
  )
  .finally(() => void database.destroy());
