import type pg from 'pg';
import type { Logger } from 'pino';
import type { Exchange } from '@night-bell/core/exchange/exchange';
import type { Effect } from '@night-bell/core/exchange/kernel/effects';
import type { ExchangeEventBody, Refusal } from '@night-bell/core/exchange/kernel/events';
import { ExchangeFault } from '@night-bell/core/exchange/set-aside';
import { brokenInvariants } from '@night-bell/core/exchange/snapshot';
import type { StoryRecord } from '@night-bell/core/story/records';
import type { Beside } from '../beside/beside.ts';
import { type Database, dedicatedClient } from '../database/connection.ts';
import { Problem } from '../http/problems.ts';
import { Told, toldChannels } from './channels.ts';
import { type Poison, poisonOf } from './faults.ts';
import { Host } from './host.ts';
import { hostIsHeardOf, Hosting } from './hosting.ts';
import { refusalSentence } from './refusals.ts';
import { commandOutcomes, lastSeq } from './log.queries.ts';
import { type Applied, Replica } from './replica.ts';
import { keepEvent, setAside, setAsideRefusal } from './set-aside.ts';

const lookEvery = 1_000;
const commandPatience = 5_000;

/** What the exchange's host carries effects out with. */
export interface Devices {
  carryOut(name: string, effect: Effect): void;
  /** This server has become the host: who was on the line must say so again. */
  hosting(host: Host): Promise<void> | void;
  notHosting(): void;
}

type Listener = (applied: Applied[]) => void;

/**
 * The live exchange as one server sees it: a replica that follows the committed log, and, on the one server that
 * holds the advisory lock, the host. Commands go through an inbox, so that they work on any server.
 */
export class Live {
  private readonly database: Database;
  private readonly devices: Devices;
  private readonly beside: Beside;
  private readonly logger: Logger;
  private replica: Replica | null = null;
  private host: Host | null = null;
  private client: pg.Client | null = null;
  private hosting: Hosting | null = null;
  private lookTimer: NodeJS.Timeout | null = null;
  private working: Promise<void> = Promise.resolve();
  private readonly listeners = new Set<Listener>();
  private readonly resets = new Set<() => void>();
  readonly told = new Told();
  private readonly waiting = new Map<number, (refusal: string | null) => void>();
  private closed = false;
  /** An event that is set aside before everything is rebuilt, and device events to be taken in after that. */
  private poison: Poison | null = null;
  private after: ExchangeEventBody[] = [];
  /** What stands in place of that event, with effects that are carried out as soon as there is a host again. */
  private leftOver: Applied | null = null;
  private measured: (ms: number, events: number) => void = () => undefined;
  private catchingUp: { done: number; last: number } | null = null;

  constructor(database: Database, devices: Devices, beside: Beside, logger: Logger) {
    this.database = database;
    this.devices = devices;
    this.beside = beside;
    this.logger = logger;
  }

  async start(): Promise<void> {
    await this.look();
    this.lookTimer = setInterval(() => void this.look(), lookEvery);
  }

  /** Leaves a checkpoint, gives the lock up, stops following. */
  async close(): Promise<void> {
    this.closed = true;
    if (this.lookTimer !== null) clearInterval(this.lookTimer);
    await this.working;
    const host = this.host;
    this.host = null;
    if (host !== null)
      await host.close().catch((error: unknown) => this.logger.warn({ error }, 'no last checkpoint'));
    this.hosting?.stop();
    await this.client?.end().catch(() => undefined);
    this.client = null;
  }

  /** Calls `committed` with how long each commit took, and how many events it wrote. */
  measure(committed: (ms: number, events: number) => void): void {
    this.measured = committed;
  }

  /** Whether some server has said lately that it hosts. */
  async hostIsHeardOf(): Promise<boolean> {
    return hostIsHeardOf(this.database);
  }

  get isHost(): boolean {
    return this.host !== null;
  }

  /** The exchange as this server knows it. Throws a problem while it is being rebuilt. */
  get exchange(): Exchange {
    if (this.replica === null) throw this.notReady();
    return this.replica.exchange;
  }

  get ready(): boolean {
    return this.replica !== null;
  }

  /** How far the log is read again, while it is; null when there is nothing to say yet. */
  get progress(): { done: number; last: number } | null {
    return this.catchingUp;
  }

  private notReady(): Problem {
    const { done, last } = this.catchingUp ?? { done: 0, last: 0 };
    const far = last > 0 ? ` It has read ${Math.floor((100 * done) / last)} % of its log.` : '';
    return new Problem('exchangeAway', `The exchange is catching up.${far} Try again in a moment.`, [], {
      retryAfter: 1,
    });
  }

  /** Waits until the exchange can be asked. */
  async whenReady(): Promise<void> {
    while (!this.ready && !this.closed) {
      await this.working;
      if (!this.ready) await new Promise((resolve) => setTimeout(resolve, 20));
    }
  }

  /** The story so far of a call in progress. */
  story(callId: string): StoryRecord[] | null {
    return this.replica?.stories.get(callId) ?? null;
  }

  /**
   * Calls `listener` with every batch of committed events, and `reset` when the replica was dropped or is there again;
   * returns how to stop.
   */
  listen(listener: Listener, reset: () => void): () => void {
    this.listeners.add(listener);
    this.resets.add(reset);
    return () => {
      this.listeners.delete(listener);
      this.resets.delete(reset);
    };
  }

  /** An event from a device of this host; null when this server is not the host. */
  submit(body: ExchangeEventBody): Refusal | null {
    return this.host?.submit(body) ?? null;
  }

  /** Has the host carry out a command, whichever server that is, and waits until it is committed. */
  async command(body: ExchangeEventBody, byPerson: string | null): Promise<void> {
    const refusal = await this.send(body, byPerson);
    if (refusal === setAsideRefusal)
      throw new Problem(
        'notNow',
        'The exchange could not take this. It is set aside, and the set-up trail shows why.',
      );
    if (refusal !== null) throw new Problem('notNow', refusalSentence(refusal as Refusal));
  }

  /** As `settled`, but no longer than this; false when changes are still being read then. */
  async settledWithin(ms: number): Promise<boolean> {
    let timer: NodeJS.Timeout | null = null;
    const late = new Promise<false>((resolve) => {
      timer = setTimeout(() => resolve(false), ms);
    });
    const settled = this.settled().then(
      () => true as const,
      () => false as const,
    );
    const isSettled = await Promise.race([settled, late]);
    if (timer !== null) clearTimeout(timer);
    return isSettled;
  }

  /** Waits until every change of the set-up committed before has reached the exchange. */
  async settled(): Promise<void> {
    const { rows } = await this.database.raw<{ rows: { max: number | null }[] }>(
      `select max(id) as max from exchange_inbox
       where done_seq is null and refusal is null and body->>'kind' = 'recompile'`,
    );
    const last = rows[0]?.max;
    if (last == null) return;
    await this.outcome(last);
    await this.catchUp();
  }

  /** Waits until what this server's exchange knows is in the database too; up to which event, it says. */
  async committed(): Promise<number> {
    await this.host?.committed();
    return this.exchange.seq;
  }

  private async send(body: ExchangeEventBody, byPerson: string | null): Promise<string | null> {
    const [row] = await this.database('exchange_inbox')
      .insert({ body: JSON.stringify(body), by_person: byPerson })
      .returning<{ id: number }[]>('id');
    const outcome = this.outcome(row!.id);
    await this.database.raw(`select pg_notify('night_bell_inbox', '')`);
    return outcome;
  }

  private outcome(id: number): Promise<string | null> {
    return new Promise((resolve, reject) => {
      const timer = setTimeout(() => {
        this.waiting.delete(id);
        reject(
          new Problem(
            'exchangeAway',
            'The exchange did not take this in time. It is on its list and will be done; look again in a moment.',
          ),
        );
      }, commandPatience);
      this.waiting.set(id, (refusal) => {
        clearTimeout(timer);
        this.waiting.delete(id);
        resolve(refusal);
      });
      void this.checkOutcomes();
    });
  }

  private async checkOutcomes(): Promise<void> {
    if (this.waiting.size === 0) return;
    const outcomes = await commandOutcomes(this.database, [...this.waiting.keys()]).catch(() => []);
    for (const outcome of outcomes) this.waiting.get(outcome.id)?.(outcome.refusal);
  }

  /** Connects, follows, and takes the lock when it is free. One step at a time; a failure starts over. */
  private look(): Promise<void> {
    this.working = this.working.then(async () => {
      if (this.closed) return;
      try {
        if (this.client === null) await this.connect();
        if (this.poison !== null) await this.setPoisonAside();
        if (this.replica === null) await this.load();
        if (this.host === null) {
          await this.catchUp();
          await this.tryToHost();
        } else await this.host.readInbox();
        await this.checkOutcomes();
      } catch (error) {
        this.logger.warn({ error: String(error) }, 'the exchange is rebuilt');
        if (error instanceof ExchangeFault)
          this.poison = { ...poisonOf(error.event, error), commandId: null, after: [], inLog: true };
        await this.stepDown();
      }
    });
    return this.working;
  }

  /**
   * Only whoever may host may touch the log. With another server that is faster the event is in nobody's log: it is
   * kept all the same, and what devices said behind it is found out when they say hello.
   */
  private async setPoisonAside(): Promise<void> {
    const { poison, hosting } = this;
    this.poison = null;
    if (poison === null || hosting === null) return;
    if (!(await hosting.take())) {
      if (!poison.inLog) await keepEvent(this.database, poison, null);
      return;
    }
    this.logger.error(
      {
        seq: poison.event.seq,
        kind: poison.event.kind,
        code: (poison.why as { code?: string }).code,
        calls: poison.named.callIds,
      },
      'an event was set aside',
    );
    this.leftOver = await setAside(this.database, poison);
    this.after = poison.after;
  }

  private async connect(): Promise<void> {
    const client = await dedicatedClient(this.database);
    client.on('error', () => void this.stepDown());
    client.on('end', () => void (this.client === client ? this.stepDown() : undefined));
    client.on('notification', ({ channel, payload = '' }) => {
      if (this.told.hear(channel, payload)) return;
      if (channel === 'night_bell_inbox') void this.host?.readInbox();
      else if (this.host === null) void this.follow();
    });
    await client.query('listen night_bell_inbox');
    await client.query('listen night_bell_log');
    for (const channel of toldChannels) await client.query(`listen ${channel}`);
    this.client = client;
    this.hosting = new Hosting(this.database, client);
  }

  private async load(): Promise<void> {
    const last = await lastSeq(this.database);
    const progress = (seq: number) => void (this.catchingUp = { done: seq, last: Math.max(last, seq) });
    progress(0);
    const said = (sentence: string) => this.logger.error(sentence);
    this.replica = await Replica.load(this.database, { progress, said });
    this.catchingUp = null;
    this.beside.reset();
    for (const reset of this.resets) reset();
  }

  private async follow(): Promise<void> {
    this.working = this.working
      .then(() => this.catchUp())
      .catch((error: unknown) => {
        this.logger.warn({ error: String(error) }, 'the log could not be followed');
        return this.stepDown();
      });
    await this.working;
    await this.checkOutcomes();
  }

  private async catchUp(): Promise<void> {
    if (this.host !== null || this.replica === null) return;
    const applied = await this.replica.catchUp(this.database);
    if (applied.length > 0) this.tell(applied);
  }

  /** One who listens and breaks must not keep the others, or the exchange, from going on. */
  private tell(applied: Applied[]): void {
    const last = applied.at(-1);
    if (last !== undefined) this.beside.committed(last.event.seq, this.host !== null);
    for (const listener of this.listeners) {
      try {
        listener(applied);
      } catch (error) {
        this.logger.error(
          { error: (error as Error).stack ?? String(error) },
          'a listener of the exchange broke',
        );
      }
    }
  }

  private async tryToHost(): Promise<void> {
    const { replica, hosting, client } = this;
    if (replica === null || hosting === null || client === null || !(await hosting.take())) return;
    // The one before may have written until it lost the lock.
    await this.catchUp();
    const broken = brokenInvariants(replica.exchange.view());
    if (broken.length > 0) this.logger.error({ broken }, 'the rebuilt state breaks an invariant');
    const callbacks = {
      carryOut: (name: string, effect: Effect) => this.devices.carryOut(name, effect),
      committed: (applied: Applied[]) => this.tell(applied),
      commandsDone: () => void this.checkOutcomes(),
      timed: (ms: number, events: number) => this.measured(ms, events),
      failed: (error: unknown) => {
        this.logger.error({ error: String(error) }, 'the log could not be written; the exchange is rebuilt');
        void this.stepDown();
      },
      poisoned: (poison: Poison) => {
        this.poison = poison;
        void this.stepDown().then(() => this.look());
      },
    };
    const host = new Host(this.database, client, replica, this.beside, callbacks, this.logger);
    this.host = host;
    // The first number taken: who hosted before and does not know it yet can write no more.
    // Nobody was rung while nobody hosted: nobody is blamed for it.
    host.submit({ kind: 'clock', unattended: true });
    for (const body of this.after.splice(0)) host.submit(body);
    this.logger.info({ seq: replica.exchange.seq }, 'hosting the exchange');
    await this.database('exchange_inbox').insert({ body: JSON.stringify({ kind: 'recompile' }) });
    await host.readInbox();
    await this.devices.hosting(host);
    const { leftOver } = this;
    this.leftOver = null;
    leftOver?.handled.effects.forEach((effect, n) =>
      callbacks.carryOut(`${leftOver.event.seq}.${n}`, effect),
    );
  }

  /** Drops state and lock. The next look connects and rebuilds. */
  private async stepDown(): Promise<void> {
    const client = this.client;
    this.host?.stop();
    if (this.host !== null) this.devices.notHosting();
    this.host = null;
    this.client = null;
    this.hosting?.stop();
    this.hosting = null;
    this.replica = null;
    if (!this.closed) for (const reset of this.resets) reset();
    await client?.end().catch(() => undefined);
  }
}
