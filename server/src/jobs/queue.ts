import PgBoss from 'pg-boss';
import type { Logger } from 'pino';
import { type Database, onConnection } from '../database/connection.ts';

/** The schema in which the queue keeps its own tables. */
const schema = 'job_queue';

/** The statement by which the package marks work as done. */
const saysDone = /set completed_on = now\(\)/i;

/** How often work that comes again is looked for. */
const lookAgainSeconds = 1;

/** How work of a name is taken: how often it is looked for, and how much of it is done at a time on each server. */
interface Taking {
  lookEverySeconds?: number;
  atOnce?: number;
}

/**
 * Work that outlives a request: done once, by whichever server is free, at an instant or again and again. On pg-boss,
 * over the connections of the server's own pool.
 */
export class JobQueue {
  private readonly boss: PgBoss;
  private readonly logger: Logger;
  private readonly workers: { name: string; id: string }[] = [];
  private readonly going = new Set<Promise<void>>();
  private closing = false;

  constructor(database: Database, logger: Logger) {
    this.logger = logger;
    const executeSql = async (text: string, values: unknown[]) => {
      try {
        return await onConnection(database, (client) => client.query(text, values));
      } catch (error) {
        // The package says that work is done without waiting for it: with the database away nobody would hear the failure.
        if (!saysDone.test(text)) throw error;
        if (!this.closing) logger.warn({ error: String(error) }, 'that work is done could not be said');
        return undefined as never;
      }
    };
    this.boss = new PgBoss({ db: { executeSql }, schema });
    this.boss.on('error', (error) => {
      if (!this.closing) logger.warn({ error: String(error) }, 'the job queue has a problem');
    });
  }

  async start(): Promise<void> {
    await this.boss.start();
  }

  /** Work of this name is done here too. What it throws is logged; nothing is tried again. */
  async work<Data extends object>(
    name: string,
    handle: (data: Data) => Promise<unknown>,
    { lookEverySeconds = 1, atOnce = 1 }: Taking = {},
  ): Promise<void> {
    await this.boss.createQueue(name, { name, retryLimit: 0, expireInSeconds: 3_600 });
    const options = { pollingIntervalSeconds: lookEverySeconds };
    for (let count = 0; count < atOnce; count++)
      this.workers.push({
        name,
        id: await this.boss.work<Data>(name, options, ([job]) => this.tracked(name, () => handle(job!.data))),
      });
  }

  /** And again at these times (cron, UTC), on one of the servers. */
  async workEvery(
    name: string,
    cron: string,
    handle: () => Promise<unknown>,
    taking: Taking = { lookEverySeconds: 10 },
  ): Promise<void> {
    await this.work(name, handle, taking);
    await this.boss.schedule(name, cron);
  }

  /**
   * And again, so many seconds after it was done, by whichever server is free: at most one waits at a time. Where the
   * server that was at it is gone, another takes it up within a minute.
   */
  async workAgain(name: string, afterSeconds: number, handle: () => Promise<unknown>): Promise<void> {
    await this.boss.createQueue(name, { name, policy: 'short', retryLimit: 0, expireInSeconds: 3_600 });
    const id = await this.boss.work(name, { pollingIntervalSeconds: lookAgainSeconds }, async () => {
      await this.tracked(name, handle);
      // Where that cannot be said, the cron goes on with it.
      if (!this.closing) await this.boss.send(name, {}, { startAfter: afterSeconds }).catch(() => null);
    });
    this.workers.push({ name, id });
    await this.boss.schedule(name, '* * * * *');
    await this.boss.send(name, {});
  }

  /** To be done now, or at an instant; a server that works at it looks at once. */
  async send(name: string, data: object = {}, at: Date | null = null): Promise<void> {
    await this.boss.send(name, data, at === null ? {} : { startAfter: at });
    if (at !== null) return;
    for (const worker of this.workers) if (worker.name === name) this.boss.notifyWorker(worker.id);
  }

  /** What is being done is done first. */
  async close(): Promise<void> {
    this.closing = true;
    await this.boss.stop({ graceful: false });
    await Promise.allSettled(this.going);
  }

  private async tracked(name: string, handle: () => Promise<unknown>): Promise<void> {
    const work = Promise.resolve()
      .then(handle)
      .then(
        () => undefined,
        (error: unknown) => this.logger.warn({ name, error: String(error) }, 'work of the queue failed'),
      );
    this.going.add(work);
    await work;
    this.going.delete(work);
  }
}
