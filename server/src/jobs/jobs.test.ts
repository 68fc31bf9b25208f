import pino from 'pino';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { JobView } from '@night-bell/core/contracts/jobs';
import { Problem } from '../http/problems.ts';
import type { Database } from '../database/connection.ts';
import { freshDatabase, until } from '../server.testing.ts';
import { type JobDefinition, jobById, Jobs, latestJobs, Stopped } from './jobs.ts';
import { JobQueue } from './queue.ts';

interface Counting {
  to: number;
}

const quiet = pino({ level: 'silent' });
const nobody = null as unknown as string;
let database: Database;
let drop: () => Promise<void>;
const open: { jobs: Jobs; queue: JobQueue }[] = [];

beforeEach(async () => {
  ({ database, drop } = await freshDatabase());
});
afterEach(async () => {
  for (const server of open.splice(0)) await shut(server);
  await drop();
});

/** One server of however many. */
async function server(run: JobDefinition<Counting>['run']) {
  const queue = new JobQueue(database, quiet);
  const jobs = new Jobs(database, queue);
  jobs.define<Counting>('speakPrompts', {
    title: ({ to }) => `Counting to ${to}`,
    total: ({ to }) => to,
    whenStopped: 'Stopped. What was counted stays so.',
    run,
  });
  await queue.start();
  await jobs.start();
  open.push({ jobs, queue });
  return { jobs, queue };
}
async function shut({ jobs, queue }: { jobs: Jobs; queue: JobQueue }) {
  jobs.close();
  await queue.close();
}
const ended = (id: string): Promise<JobView> =>
  until(async () => {
    const job = await jobById(database, id);
    return job.endedAt === null ? null : job;
  }, 'the job ends');
async function begunTogether(jobs: Jobs, counts: number[]): Promise<JobView[]> {
  const begun: JobView[] = [];
  for (const to of counts) begun.push(await jobs.begin<Counting>('speakPrompts', { to }, nobody));
  return begun;
}
const pause = () => new Promise((done) => setTimeout(done, 5));

test('a job is done behind whoever began it, and says what became of it', async () => {
  let go: () => void = () => undefined;
  const told = new Promise<void>((resolve) => (go = resolve));
  const { jobs } = await server(async ({ to }, going) => {
    await told;
    for (let i = 0; i < to; i++) await going.at(i);
    going.done = to;
    return 'Counted.';
  });
  const begun = await jobs.begin<Counting>('speakPrompts', { to: 40 }, nobody);
  expect(begun).toMatchObject({ title: 'Counting to 40', total: 40, done: 0, outcome: null });
  go();
  expect(await ended(begun.id)).toMatchObject({ state: 'done', done: 40, outcome: 'Counted.' });
  expect((await latestJobs(database, null, 10)).map(({ id }) => id)).toEqual([begun.id]);
});

test('one that cannot be done says why, in the words of its refusal', async () => {
  let error: Error = new Problem('notNow', 'There is no voice here.');
  const { jobs } = await server(() => Promise.reject(error));
  const refused = await jobs.begin<Counting>('speakPrompts', { to: 1 }, nobody);
  expect(await ended(refused.id)).toMatchObject({ state: 'failed', outcome: 'There is no voice here.' });
  error = new Error('disk gone');
  const broken = await jobs.begin<Counting>('speakPrompts', { to: 1 }, nobody);
  expect((await ended(broken.id)).outcome).toContain('disk gone');
});

test('it stops between two steps when somebody asks; before it began it never begins', async () => {
  const { jobs } = await server(async ({ to }, going) => {
    for (let i = 0; i < to; i++) {
      await going.at(i);
      await pause();
    }
    return 'Counted.';
  });
  // As many as one server does at a time, and one that waits.
  const [job, other, waiting] = await begunTogether(jobs, [100_000, 100_000, 5]);
  await until(async () => (await jobById(database, other!.id)).done > 2, 'both are under way');
  expect(await jobs.stop(waiting!.id)).toMatchObject({ state: 'stopped', done: 0 });
  await jobs.stop(job!.id);
  const stopped = await ended(job!.id);
  expect(stopped).toMatchObject({ state: 'stopped', outcome: 'Stopped. What was counted stays so.' });
  expect(stopped.done).toBeGreaterThan(0);
  // Asked once more, it stays as it is; the other goes on.
  expect(await jobs.stop(job!.id)).toEqual(stopped);
  expect((await jobById(database, other!.id)).state).toBe('running');
});

test('a server that closes puts its job back, and another goes on with it; one that is gone is noticed', async () => {
  let steps = 0;
  const first = await server(async ({ to }, going) => {
    for (let i = 0; i < to; i++) {
      await going.at(i);
      steps++;
      await pause();
    }
    return 'Counted by the first.';
  });
  const job = await first.jobs.begin<Counting>('speakPrompts', { to: 100_000 }, nobody);
  await until(() => steps > 2, 'it is under way');
  await shut(open.pop()!);
  expect(await jobById(database, job.id)).toMatchObject({ state: 'waiting', endedAt: null });
  const second = await server(() => Promise.resolve('Counted by the second.'));
  expect(await ended(job.id)).toMatchObject({ state: 'done', outcome: 'Counted by the second.' });
  // As one that was ended in the midst of its work left it.
  const lost = await second.jobs.begin<Counting>('speakPrompts', { to: 2 }, nobody);
  await ended(lost.id);
  await database('job')
    .where({ id: lost.id })
    .update({
      ...{ state: 'running', ended_at: null, outcome: null },
      seen_at: database.raw(`now() - interval '5 minutes'`),
    });
  await second.jobs.lookAfter();
  expect(await ended(lost.id)).toMatchObject({ state: 'done' });
});

test('two servers do a job once', async () => {
  let runs = 0;
  const run = async () => {
    runs++;
    await pause();
    return 'Counted.';
  };
  const { jobs } = await server(run);
  await server(run);
  const ids = await Promise.all(
    Array.from({ length: 12 }, () => jobs.begin<Counting>('speakPrompts', { to: 1 }, nobody)),
  );
  for (const { id } of ids) expect((await ended(id)).state).toBe('done');
  expect(runs).toBe(12);
});

test('what is due at an instant is done then, and what throws keeps nothing up', async () => {
  const { queue } = await server(() => Promise.resolve(''));
  const done: number[] = [];
  await queue.work<{ value: number }>('test', ({ value }) => {
    if (value < 0) throw new Error('no');
    done.push(value);
    return Promise.resolve();
  });
  const at = Date.now() + 1_200;
  await queue.send('test', { value: 2 }, new Date(at));
  await queue.send('test', { value: -1 });
  await queue.send('test', { value: 1 });
  await until(() => done.length === 2, 'both are done');
  expect(done).toEqual([1, 2]);
  expect(Date.now()).toBeGreaterThanOrEqual(at);
});

test('work that is long without a word hears that it is to stop', async () => {
  const { jobs } = await server(
    (_input, going) => new Promise((_done, stopped) => going.whenToStop(() => stopped(new Stopped()))),
  );
  const job = await jobs.begin<Counting>('speakPrompts', { to: 1 }, nobody);
  await until(async () => (await jobById(database, job.id)).state === 'running', 'it is under way');
  await jobs.stop(job.id);
  expect(await ended(job.id)).toMatchObject({ state: 'stopped' });
});

test('work that comes again does so on either of two servers, never twice at once, whatever it throws', async () => {
  const [one, other] = [await server(() => Promise.resolve('')), await server(() => Promise.resolve(''))];
  let [going, most, rounds] = [0, 0, 0];
  const round = async () => {
    most = Math.max(most, ++going);
    await pause();
    going--;
    if (++rounds === 2) throw new Error('no');
  };
  await one.queue.workAgain('test', 1, round);
  await other.queue.workAgain('test', 1, round);
  await until(() => rounds >= 4, 'it came again');
  expect(most).toBe(1);
  const before = rounds;
  await shut(one);
  open.splice(open.indexOf(one), 1);
  await until(() => rounds > before, 'the other goes on');
});

test('with the database away, work that is done fails nobody who does not wait', async () => {
  const failures: unknown[] = [];
  const hear = (error: unknown) => void failures.push(error);
  process.on('unhandledRejection', hear);
  const { queue } = await server(() => Promise.resolve(''));
  let finish: () => void = () => undefined;
  let begun = false;
  await queue.workAgain('test', 1, () => {
    begun = true;
    return new Promise<void>((done) => (finish = done));
  });
  await until(() => begun, 'it is being done');
  const refuse = vi.spyOn(database.client as { acquireConnection: () => unknown }, 'acquireConnection');
  refuse.mockRejectedValue(new Error('away'));
  finish();
  await until(() => refuse.mock.calls.length >= 2, 'it was said');
  await pause();
  refuse.mockRestore();
  process.off('unhandledRejection', hear);
  expect(failures).toEqual([]);
});
