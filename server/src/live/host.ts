import type { Effect } from '@night-bell/core/exchange/effects';
import type { ExchangeEvent, ExchangeEventBody, Refusal } from '@night-bell/core/exchange/events';
import { configurationDifference } from '@night-bell/core/model/configuration';
import type { Database } from '../database/connection.ts';
import { compileConfiguration } from './compile.ts';
import { configurationOf } from './configuration-of.ts';
import { writeConsequences } from './consequences.ts';
import { appendEvents, closeCommands, openCommands, writeCheckpoint } from './log.queries.ts';
import type { Applied, Replica } from './replica.ts';

/** Milliseconds during which events gather before they are written together. */
const commitEvery = 4;
const checkpointEvery = 5_000;

export interface HostDoors {
  /** Carries out the effects of committed events. `name` is `seq.n`, the same after a replay. */
  carryOut: (name: string, effect: Effect) => void;
  /** Committed events, for pages. */
  committed: (applied: Applied[]) => void;
  /** Commands that are done, for those who wait for them. */
  commandsDone: (ids: number[]) => void;
  /** The host cannot go on: state and lock must go, everything is rebuilt. */
  failed: (reason: unknown) => void;
}

interface Command {
  id: number;
  seq: number;
  refusal: string | null;
}

/**
 * Hosts the exchange on the wall clock. Events are handled in memory at once; their effects wait until the events
 * are committed. When a commit fails the host is dead and says so: its memory is ahead of the log.
 */
export class Host {
  private readonly database: Database;
  private readonly replica: Replica;
  private readonly doors: HostDoors;
  private batch: Applied[] = [];
  private commands: Command[] = [];
  private flushTimer: NodeJS.Timeout | null = null;
  private clockTimer: NodeJS.Timeout | null = null;
  private flushing: Promise<void> = Promise.resolve();
  private sinceCheckpoint = 0;
  private reading = false;
  private readAgain = false;
  private alive = true;

  constructor(database: Database, replica: Replica, doors: HostDoors) {
    this.database = database;
    this.replica = replica;
    this.doors = doors;
    this.armClock();
  }

  get exchange() {
    return this.replica.exchange;
  }

  /** Takes an event in now. The refusal, if any, is known at once; effects follow the commit. */
  submit(body: ExchangeEventBody): Refusal | null {
    if (!this.alive) return null;
    const event: ExchangeEvent = {
      seq: this.exchange.seq + 1,
      at: Math.max(Date.now(), this.exchange.now),
      ...body,
    };
    const applied = this.replica.apply(event);
    this.batch.push(applied);
    this.armFlush();
    this.armClock();
    return applied.handled.refusal;
  }

  /** Carries out the commands of the inbox, in order. */
  async readInbox(): Promise<void> {
    if (this.reading) {
      this.readAgain = true;
      return;
    }
    this.reading = true;
    try {
      do {
        this.readAgain = false;
        await this.flushing;
        const taken = new Set(this.commands.map((command) => command.id));
        const open = (await openCommands(this.database)).filter((row) => !taken.has(row.id));
        for (const row of open) if (this.alive) await this.carryOutCommand(row);
      } while (this.readAgain && this.alive);
    } catch (error) {
      this.fail(error);
    } finally {
      this.reading = false;
    }
  }

  private async carryOutCommand(row: { id: number; body: { kind: string } }): Promise<void> {
    let refusal: Refusal | null = null;
    if (row.body.kind === 'recompile') {
      const after = await compileConfiguration(this.database);
      const changes = configurationDifference(configurationOf(this.exchange.view()), after);
      if (changes !== null) this.submit({ kind: 'configurationChanged', changes });
    } else {
      refusal = this.submit(row.body as ExchangeEventBody);
    }
    this.commands.push({ id: row.id, seq: this.exchange.seq, refusal });
    this.armFlush();
  }

  /** Resolves when everything handled so far is committed. */
  committed(): Promise<void> {
    return this.flush();
  }

  /** Writes what has gathered, leaves a checkpoint, and stops. */
  async close(): Promise<void> {
    await this.flush();
    this.stop();
    if (this.exchange.seq > 0)
      await this.database.transaction((trx) => writeCheckpoint(trx, this.replica.checkpoint()));
  }

  /** Stops without another word to the database. */
  stop(): void {
    this.alive = false;
    if (this.flushTimer !== null) clearTimeout(this.flushTimer);
    if (this.clockTimer !== null) clearTimeout(this.clockTimer);
  }

  private armFlush(): void {
    this.flushTimer ??= setTimeout(() => void this.flush(), commitEvery);
  }

  private flush(): Promise<void> {
    if (this.flushTimer !== null) clearTimeout(this.flushTimer);
    this.flushTimer = null;
    this.flushing = this.flushing.then(() => this.commit());
    return this.flushing;
  }

  private async commit(): Promise<void> {
    const batch = this.batch;
    const commands = this.commands;
    if (!this.alive || (batch.length === 0 && commands.length === 0)) return;
    this.batch = [];
    this.commands = [];
    this.sinceCheckpoint += batch.length;
    const checkpoint = this.sinceCheckpoint >= checkpointEvery ? this.replica.checkpoint() : null;
    try {
      await this.database.transaction(async (trx) => {
        if (batch.length > 0)
          await appendEvents(
            trx,
            batch.map((each) => each.event),
          );
        await writeConsequences(trx, batch);
        await closeCommands(trx, commands);
        if (checkpoint !== null && batch.length > 0) await writeCheckpoint(trx, checkpoint);
        await trx.raw(`select pg_notify('night_bell_log', ?)`, [String(this.exchange.seq)]);
      });
    } catch (error) {
      this.fail(error);
      return;
    }
    if (checkpoint !== null) this.sinceCheckpoint = 0;
    for (const { event, handled } of batch) {
      handled.effects.forEach((effect, n) => this.doors.carryOut(`${event.seq}.${n}`, effect));
    }
    this.doors.committed(batch);
    this.doors.commandsDone(commands.map((command) => command.id));
  }

  private fail(error: unknown): void {
    if (!this.alive) return;
    this.stop();
    this.doors.failed(error);
  }

  /** Wakes up for the next timer of the exchange; a long way off, it looks again in an hour. */
  private armClock(): void {
    if (this.clockTimer !== null) clearTimeout(this.clockTimer);
    this.clockTimer = null;
    const next = this.exchange.nextTimerAt();
    if (next === null || !this.alive) return;
    const wait = Math.min(Math.max(next - Date.now(), 0), 3_600_000);
    this.clockTimer = setTimeout(() => {
      const due = this.exchange.nextTimerAt();
      if (due !== null && due <= Date.now()) this.submit({ kind: 'clock' });
      else this.armClock();
    }, wait);
  }
}
