import { Worker } from 'node:worker_threads';
import type { Logger } from 'pino';
import type { ConfigurationChanges } from '@night-bell/core/model/configuration';
import type { TestResult } from '@night-bell/core/rehearse/test-call';
import { Problem } from '../http/problems.ts';
import type { Beside } from './beside.ts';
import type { Asked, FromThread, ThreadData, ToThread } from './messages.ts';

/** Questions that may wait at once; more are refused, so that they do not pile up. */
const mostWaiting = 100;
/** A question that takes longer has gone wrong, and the thread with it. */
const patienceMs = 60_000;
/** The follower is told of commits at most this often: between two it may fall behind by that much. */
const tellEveryMs = 100;

interface Waiting {
  resolve: (answer: never) => void;
  reject: (fault: Error) => void;
  timer: NodeJS.Timeout;
}

type Question = Asked extends infer Each ? (Each extends { id: number } ? Omit<Each, 'id'> : never) : never;

/** The work in a thread of its own. A thread that ends is replaced when the next question comes. */
export class BesideThread implements Beside {
  private readonly file: URL;
  private readonly data: ThreadData;
  private readonly logger: Logger;
  private worker: Worker | null = null;
  private readonly waiting = new Map<number, Waiting>();
  private count = 0;
  private untold: { seq: number; hosting: boolean } | null = null;
  private tellTimer: NodeJS.Timeout | null = null;
  private closed = false;

  constructor(file: URL, data: ThreadData, logger: Logger) {
    this.file = file;
    this.data = data;
    this.logger = logger;
  }

  testCall(asked: Parameters<Beside['testCall']>[0]): Promise<TestResult> {
    return this.ask({ kind: 'testCall', asked });
  }

  hours(asked: Parameters<Beside['hours']>[0]): ReturnType<Beside['hours']> {
    return this.ask({ kind: 'hours', asked });
  }

  home(asked: Parameters<Beside['home']>[0]): Promise<string> {
    return this.ask({ kind: 'home', asked });
  }

  setUpDifference(seq: number): Promise<ConfigurationChanges | null> {
    return this.ask({ kind: 'setUpDifference', seq });
  }

  committed(seq: number, hosting: boolean): void {
    this.untold = { seq, hosting };
    this.tellTimer ??= setTimeout(() => {
      this.tellTimer = null;
      const { untold } = this;
      this.untold = null;
      if (untold !== null) this.worker?.postMessage({ kind: 'committed', ...untold } satisfies ToThread);
    }, tellEveryMs);
  }

  reset(): void {
    this.worker?.postMessage({ kind: 'reset' } satisfies ToThread);
  }

  async close(): Promise<void> {
    this.closed = true;
    if (this.tellTimer !== null) clearTimeout(this.tellTimer);
    await this.worker?.terminate();
  }

  private ask<Answer>(question: Question): Promise<Answer> {
    if (this.closed || this.waiting.size >= mostWaiting)
      return Promise.reject(
        new Problem('exchangeAway', 'Too much is being tried out at once. Try again in a moment.', [], {
          retryAfter: 1,
        }),
      );
    const worker = (this.worker ??= this.begin());
    const id = ++this.count;
    return new Promise<Answer>((resolve, reject) => {
      const timer = setTimeout(() => {
        this.logger.error(
          { kind: question.kind },
          'the thread beside the live loop does not answer; it is replaced',
        );
        void worker.terminate();
      }, patienceMs);
      this.waiting.set(id, { resolve, reject, timer });
      worker.postMessage({ id, ...question } satisfies ToThread);
    });
  }

  private begin(): Worker {
    const worker = new Worker(this.file, { workerData: this.data });
    worker.on('message', (message: FromThread) => this.hear(message));
    worker.on('error', (error) =>
      this.logger.error({ error: error.stack ?? String(error) }, 'the thread beside the live loop broke'),
    );
    worker.on('exit', () => {
      if (this.worker === worker) this.worker = null;
      for (const id of [...this.waiting.keys()]) this.settle(id)?.reject(away());
    });
    return worker;
  }

  private hear(message: FromThread): void {
    const asked = this.settle(message.id);
    if (asked === null) return;
    if ('answer' in message) asked.resolve(message.answer as never);
    else {
      this.logger.error({ fault: message.fault }, 'the thread beside the live loop could not answer');
      asked.reject(away());
    }
  }

  private settle(id: number): Waiting | null {
    const asked = this.waiting.get(id);
    if (asked === undefined) return null;
    this.waiting.delete(id);
    clearTimeout(asked.timer);
    return asked;
  }
}

function away(): Problem {
  return new Problem('exchangeAway', 'This could not be tried out just now. Try again in a moment.', [], {
    retryAfter: 1,
  });
}
