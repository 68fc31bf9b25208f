import { Worker } from 'node:worker_threads';
import { Problem, type ProblemCode } from '../http/problems.ts';
import { type Going, Stopped } from './jobs.ts';

/** What a thread says of its work. */
type Said<Report> =
  | { read: number; doing: string | null }
  | { report: Report }
  | { problem: { code: ProblemCode; detail: string } }
  | { fault: string };

/** A job's work in a thread of its own. It is ended when the job is to stop: its transaction ends with its connections. */
export function inThread<Report>(file: URL, workerData: object, going: Going): Promise<Report> {
  const worker = new Worker(file, { workerData });
  return new Promise<Report>((resolve, reject) => {
    let telling: Promise<void> = Promise.resolve();
    worker.on('message', (said: Said<Report>) => {
      if ('report' in said) void telling.then(() => resolve(said.report));
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
