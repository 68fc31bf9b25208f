import type { HoursPlayed } from '@night-bell/core/contracts/queue-hours';
import { hourFigures, hourSetUp } from '@night-bell/core/rehearse/comparison';
import type { ConfigurationChanges } from '@night-bell/core/model/configuration';
import { configurationDifference } from '@night-bell/core/model/configuration-difference';
import { type MeanTalk, testCallAt, testCallNow, type TestResult } from '@night-bell/core/rehearse/test-call';
import { homeView, type LinesNow } from '../areas/home/view.ts';
import type { Database } from '../database/connection.ts';
import { SetUpReader } from '../live/compile.ts';
import { configurationOf } from '../live/configuration-of.ts';
import { writeCheckpoint } from '../live/log.queries.ts';
import { Replica } from '../live/replica.ts';
import type { HoursAsked, TestCallAsked } from './beside.ts';

const checkpointEvery = 5_000;
/** How long a view of Home serves all who ask: at least this, and three times as long as it took to make. */
const homeFreshMs = 3_000;
const restAfterHome = 3;

/** Follows the committed log with an exchange of its own, and computes on it. */
export class Follower {
  private readonly database: Database;
  private replica: Promise<Replica> | null = null;
  private readonly setUp = new SetUpReader();
  private following: Promise<unknown> = Promise.resolve();
  private sinceCheckpoint = 0;
  private home: { text: Promise<string>; freshUntil: number } | null = null;

  constructor(database: Database) {
    this.database = database;
  }

  reset(): void {
    this.replica = null;
    this.home = null;
  }

  /** The exchange as it is after event `seq`, or later. */
  private async at(seq: number): Promise<Replica> {
    this.replica ??= Replica.load(this.database);
    const { replica } = this;
    replica.catch(() => this.forget(replica));
    const loaded = await replica;
    if (loaded.exchange.seq >= seq) return loaded;
    // One at a time: two would read the same events.
    this.following = this.following
      .catch(() => undefined)
      .then(async () => {
        if (loaded.exchange.seq < seq) this.sinceCheckpoint += (await loaded.catchUp(this.database)).length;
      });
    try {
      await this.following;
    } catch (error) {
      // It stands half way: the next who asks reads the log again.
      this.forget(replica);
      throw error;
    }
    return loaded;
  }

  private forget(replica: Promise<Replica>): void {
    if (this.replica === replica) this.replica = null;
  }

  async testCall({ seq, call, now, talks, usualTalkMs }: TestCallAsked): Promise<TestResult> {
    const { exchange } = await this.at(seq);
    const byQueue = new Map(talks);
    const meanTalk: MeanTalk = (queueId) => byQueue.get(queueId ?? '') ?? usualTalkMs;
    return now
      ? testCallNow(exchange, call, meanTalk)
      : testCallAt(configurationOf(exchange.view()), call, meanTalk);
  }

  async hours({ seq, queueId, asked, goalSeconds }: HoursAsked): Promise<HoursPlayed | null> {
    const { exchange } = await this.at(seq);
    const queue = exchange.view().queues.get(queueId);
    if (queue === undefined) return null;
    const people = queue.members
      .filter(({ agent }) => asked.people === 'all' || agent.presence !== 'signedOut')
      .map(({ agent }) => agent.person);
    const setUp = hourSetUp(queue.item, people);
    const runs: HoursPlayed['runs'] = [];
    for (const seed of people.length === 0 ? [] : asked.seeds) {
      runs.push(hourFigures(setUp, asked.distribution, asked, { seed, goalSeconds }));
      // Others may be asking for something short meanwhile.
      await new Promise((resolve) => setImmediate(resolve));
    }
    return { people: people.map(({ id, name }) => ({ id, name })), runs };
  }

  async homeText({ seq, lines }: { seq: number; lines: LinesNow | null }): Promise<string> {
    if (this.home !== null && Date.now() < this.home.freshUntil) return this.home.text;
    const began = Date.now();
    const text = this.at(seq)
      .then(({ exchange }) => homeView(this.database, exchange, lines))
      .then((view) => {
        made.freshUntil = Date.now() + Math.max(homeFreshMs, restAfterHome * (Date.now() - began));
        return JSON.stringify(view);
      });
    // While it is being made, all who ask wait for this one.
    const made = { text, freshUntil: Number.POSITIVE_INFINITY };
    this.home = made;
    // A fault is told to whoever asked, and not to those who ask later.
    text.catch(() => {
      if (this.home === made) this.home = null;
    });
    return text;
  }

  async setUpDifference(seq: number): Promise<ConfigurationChanges | null> {
    const [{ exchange }, after] = await Promise.all([this.at(seq), this.setUp.read(this.database)]);
    return configurationDifference(configurationOf(exchange.view()), after);
  }

  async committed(seq: number, hosting: boolean): Promise<void> {
    const replica = await this.at(seq);
    if (!hosting || this.sinceCheckpoint < checkpointEvery) return;
    this.sinceCheckpoint = 0;
    await this.database.transaction((trx) => writeCheckpoint(trx, replica.checkpoint()));
  }
}
