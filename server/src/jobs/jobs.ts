import type { Knex } from 'knex';
import type { JobKind, JobView } from '@night-bell/core/contracts/jobs';
import type { Database } from '../database/connection.ts';
import { Problem } from '../http/problems.ts';
import { type Author, authorOf, newId, tellPages } from '../spine/items.ts';
import { deleteOldUploads } from './uploads.ts';
import type { JobQueue } from './queue.ts';

/** How often a job says how far it is, and says that it is there at all. */
const tellEveryMs = 250;
const seenEveryMs = 2_000;
/** After so long without a word its server is taken to be gone, and it is begun again. */
const silentSeconds = 90;
const keptDays = 30;
const queueName = 'jobs';

/** One kind of job. What was done before it was stopped, or begun again, stays done: `run` goes on from there. */
export interface JobDefinition<Input extends object> {
  title: (input: Input) => string;
  total: (input: Input) => number | null;
  /** What is said of one that somebody stopped: what of it stays. */
  whenStopped: string;
  /** Gives what became of it, in a sentence. */
  run: (input: Input, going: Going) => Promise<string>;
}

type Definitions = Partial<Record<JobKind, JobDefinition<never>>>;

/** Somebody asked the job to stop, or its server is closing. Thrown by `Going.at`, and caught by whoever runs it. */
export class Stopped extends Error {}

interface Row {
  id: string;
  kind: JobKind;
  input: never;
  byPerson: string | null;
}

/** A job that is being done. */
export class Going {
  readonly id: string;
  readonly author: Author;
  private readonly tell: (going: Going) => Promise<boolean>;
  private toldAt = 0;
  done = 0;
  doing: string | null = null;
  leftOut: JobView['leftOut'] = [];
  private toStop: () => void = () => undefined;

  constructor(id: string, author: Author, tell: (going: Going) => Promise<boolean>) {
    this.id = id;
    this.author = author;
    this.tell = tell;
  }

  /** For work that is long without a word: called when it is to stop, between two of `at`. */
  whenToStop(stop: () => void): void {
    this.toStop = stop;
  }

  /** Says that it is still there, and hears whether it is to stop. */
  async look(): Promise<void> {
    if (!(await this.tell(this))) this.toStop();
  }

  /**
   * So far it is, and what it does just now where that takes its time. Throws when it is to stop here: nothing may be
   * half done at this point.
   */
  async at(done: number, doing: string | null = null): Promise<void> {
    const isNews = doing !== this.doing;
    [this.done, this.doing] = [done, doing];
    if (!isNews && Date.now() - this.toldAt < tellEveryMs) return;
    this.toldAt = Date.now();
    if (!(await this.tell(this))) throw new Stopped();
  }
}

/** Work that people begin and need not wait for: how far it is can be seen, it can be stopped, and it outlives a server. */
export class Jobs {
  private readonly database: Database;
  private readonly queue: JobQueue;
  private readonly definitions: Definitions = {};
  private closing = false;

  constructor(database: Database, queue: JobQueue) {
    this.database = database;
    this.queue = queue;
  }

  define<Input extends object>(kind: JobKind, definition: JobDefinition<Input>): void {
    this.definitions[kind] = definition as unknown as JobDefinition<never>;
  }

  async start(): Promise<void> {
    await this.queue.work<{ id: string }>(queueName, ({ id }) => this.run(id), { atOnce: 2 });
    await this.queue.workEvery('lookAfterJobs', '* * * * *', () => this.lookAfter());
  }

  /** Those that are going on are put back, and go on elsewhere. */
  close(): void {
    this.closing = true;
  }

  async begin<Input extends object>(kind: JobKind, input: Input, personId: string): Promise<JobView> {
    const { title, total } = this.definitions[kind]!;
    const id = newId();
    await this.database('job').insert({
      ...{ id, kind, input: JSON.stringify(input), by_person: personId },
      ...{ title: title(input as never), total: total(input as never) },
    });
    await tellPages(this.database, 'job', id);
    await this.queue.send(queueName, { id });
    return jobById(this.database, id);
  }

  /** It stops where nothing is half done. One that has ended stays as it is. */
  async stop(id: string): Promise<JobView> {
    const { state } = await jobById(this.database, id);
    if (state === 'waiting') await this.end(id, 'stopped', 'Stopped before it began.');
    else await this.database('job').where({ id, state: 'running' }).update({ stop_asked: true });
    return jobById(this.database, id);
  }

  private async run(id: string): Promise<void> {
    const [row] = await this.database('job')
      .where({ id, state: 'waiting' })
      .update({ state: 'running', seen_at: this.database.fn.now() })
      .returning<Row[]>(['id', 'kind', 'input', 'by_person as byPerson']);
    // Another server has it, or it was stopped before it began.
    if (row === undefined) return;
    const going = new Going(id, authorOf(row.byPerson), (so) => this.told(id, so));
    const seen = setInterval(() => void going.look().catch(() => undefined), seenEveryMs);
    try {
      const outcome = await this.definitions[row.kind]!.run(row.input, going);
      await this.end(id, 'done', outcome, going);
    } catch (error) {
      if (error instanceof Stopped) await this.stopped(row, going);
      else
        await this.end(id, 'failed', error instanceof Problem ? error.detail : `It failed: ${String(error)}`);
    } finally {
      clearInterval(seen);
    }
  }

  /** Whether it may go on. */
  private async told(id: string, { done, doing }: Going): Promise<boolean> {
    const [row] = await this.database('job')
      .where({ id, state: 'running' })
      .update({ done, doing, seen_at: this.database.fn.now() })
      .returning<{ stopAsked: boolean }[]>(['stop_asked as stopAsked']);
    await tellPages(this.database, 'job', id);
    return row !== undefined && !row.stopAsked && !this.closing;
  }

  private async stopped({ id, kind }: Row, going: Going): Promise<void> {
    const job = await this.database('job').where({ id }).first<{ stop_asked: boolean }>('stop_asked');
    if (job.stop_asked) return this.end(id, 'stopped', this.definitions[kind]!.whenStopped, going);
    await this.database('job').where({ id, state: 'running' }).update({ state: 'waiting' });
    await this.queue.send(queueName, { id });
  }

  private async end(id: string, state: JobView['state'], outcome: string, going?: Going): Promise<void> {
    await this.database('job')
      .where({ id })
      .whereIn('state', ['waiting', 'running'])
      .update({
        ...{ state, outcome: outcome.slice(0, 1_000), doing: null, ended_at: this.database.fn.now() },
        ...(going === undefined ? {} : { done: going.done, left_out: JSON.stringify(going.leftOut) }),
      });
    await tellPages(this.database, 'job', id);
  }

  /** Those of servers that are gone are begun again; those that ended long ago are forgotten. */
  async lookAfter(): Promise<void> {
    await this.database('job').whereRaw('ended_at < now() - make_interval(days => ?)', [keptDays]).delete();
    await deleteOldUploads(this.database);
    const rows = await this.database('job')
      .whereIn('state', ['waiting', 'running'])
      .whereRaw('seen_at < now() - make_interval(secs => ?)', [silentSeconds])
      .update({ state: 'waiting', seen_at: this.database.fn.now() })
      .returning<{ id: string }[]>('id');
    for (const { id } of rows) await this.queue.send(queueName, { id });
  }
}

interface ViewRow extends Omit<JobView, 'at' | 'endedAt'> {
  at: Date;
  endedAt: Date | null;
}

async function views(database: Knex, narrowed: (query: Knex.QueryBuilder) => unknown): Promise<JobView[]> {
  const rows = await database('job as j')
    .leftJoin('item as b', 'b.id', 'j.by_person')
    .modify((query) => void narrowed(query))
    .orderBy([
      { column: 'j.at', order: 'desc' },
      { column: 'j.id', order: 'desc' },
    ])
    .select<ViewRow[]>(
      ...['j.id', 'j.kind', 'j.title', 'j.state', 'j.done', 'j.total', 'j.outcome', 'b.name as by'],
      database.raw('case when j.file_id is not null then j.file_name end as file'),
      ...['j.doing', 'j.left_out as leftOut', 'j.by_person as byId', 'j.at', 'j.ended_at as endedAt'],
    );
  return rows.map((row) => ({ ...row, at: row.at.getTime(), endedAt: row.endedAt?.getTime() ?? null }));
}

/** The file a job made; undefined when there is none (any more). */
export function fileOfJob(
  database: Knex,
  id: string,
): Promise<{ fileId: string; name: string; byId: string | null } | undefined> {
  return database('job')
    .where({ id })
    .whereNotNull('file_id')
    .first<{ fileId: string; name: string; byId: string | null } | undefined>(
      ...['file_id as fileId', 'file_name as name', 'by_person as byId'],
    );
}

/** The latest, newest first; of one person, or of everybody. */
export const latestJobs = (database: Knex, personId: string | null, most: number): Promise<JobView[]> =>
  views(database, (query) => query.limit(most).where(personId === null ? {} : { 'j.by_person': personId }));

export async function jobById(database: Knex, id: string): Promise<JobView> {
  const [job] = await views(database, (query) => query.where('j.id', id));
  if (job === undefined) throw new Problem('notFound', 'There is no such job.');
  return job;
}
