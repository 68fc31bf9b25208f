import type { Effect } from '@night-bell/core/exchange/kernel/effects';
import type { ExchangeEvent, ExchangeEventBody, Refusal } from '@night-bell/core/exchange/kernel/events';
import type pg from 'pg';
import type { Logger } from 'pino';
import { appendPlain, type Command, isPlain } from './log-writer.ts';
import type { Beside } from '../beside/beside.ts';
import type { Database } from '../database/connection.ts';
import { writeConsequences, writeWhatCanBe } from './consequences.ts';
import { isDataFault, type Poison, poisonOf } from './faults.ts';
import {
  appendEvents,
  closeCommands,
  type InboxRow,
  openCommands,
  openSetUpChanges,
  writeCheckpoint,
} from './log.queries.ts';
import type { Applied, Replica } from './replica.ts';
import { keepSetAside } from './set-aside.queries.ts';

/** Milliseconds during which events gather before they are written together. */
const commitEvery = 4;
/** Events that may wait to be written, some minutes of a busy day: with a database that hangs everything begins anew. */
const mostUnwritten = 20_000;

export interface HostCallbacks {
  /** Carries out the effects of committed events. `name` is `seq.n`, the same after a replay. */
  carryOut: (name: string, effect: Effect) => void;
  /** Committed events, for pages. */
  committed: (applied: Applied[]) => void;
  /** Commands that are done, for those who wait for them. */
  commandsDone: (ids: number[]) => void;
  /** How long a commit took, and how many events it wrote. */
  timed: (ms: number, events: number) => void;
  /** The host cannot go on: state and lock must go, everything is rebuilt. */
  failed: (reason: unknown) => void;
  /** Nor can it here: everything is rebuilt without this event, which is set aside. */
  poisoned: (poison: Poison) => void;
}

/** An event that was handled and is not written yet, with the command that brought it. */
type Handled = Applied & { commandId: number | null };

/**
 * Hosts the exchange on the wall clock. Events are handled in memory at once; their effects wait until the events
 * are committed. When a commit fails the host is dead and says so: its memory is ahead of the log.
 */
export class Host {
  private readonly database: Database;
  private readonly client: pg.Client;
  private readonly replica: Replica;
  private readonly beside: Beside;
  private readonly callbacks: HostCallbacks;
  private readonly logger: Logger;
  private batch: Handled[] = [];
  private commands: Command[] = [];
  private flushTimer: NodeJS.Timeout | null = null;
  private clockTimer: NodeJS.Timeout | null = null;
  private flushing: Promise<void> = Promise.resolve();
  private reading = false;
  private readAgain = false;
  private compiling: Promise<void> | null = null;
  private alive = true;
  /** An event broke the engine: nothing is taken in any more, what was handled before it is still written. */
  private broken = false;

  /** `client` is the connection that holds the lock. */
  constructor(
    database: Database,
    client: pg.Client,
    replica: Replica,
    beside: Beside,
    callbacks: HostCallbacks,
    logger: Logger,
  ) {
    this.database = database;
    this.client = client;
    this.replica = replica;
    this.beside = beside;
    this.callbacks = callbacks;
    this.logger = logger;
    this.armClock();
  }

  get exchange() {
    return this.replica.exchange;
  }

  /** Takes an event in now. The refusal, if any, is known at once; effects follow the commit. */
  submit(body: ExchangeEventBody, commandId: number | null = null): Refusal | null {
    if (!this.alive || this.broken) return null;
    if (this.batch.length >= mostUnwritten) {
      this.fail(new Error(`${mostUnwritten} events wait and the database takes none`));
      return null;
    }
    const event: ExchangeEvent = {
      seq: this.exchange.seq + 1,
      at: Math.max(Date.now(), this.exchange.now),
      ...body,
    };
    try {
      const applied = this.replica.apply(event);
      this.batch.push({ ...applied, commandId });
      this.armFlush();
      this.armClock();
      return applied.handled.refusal;
    } catch (error) {
      this.broken = true;
      void this.flush().then(() => this.poison({ ...poisonOf(event, error), commandId, after: [] }));
      return null;
    }
  }

  /** Carries out the commands of the inbox, in order; then, with nobody waiting behind it, hears of the set-up. */
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
        for (const row of open) await this.carryOutCommand(row);
        this.compiling ??= this.hearOfSetUp();
      } while (this.readAgain && this.alive);
    } catch (error) {
      this.fail(error);
    } finally {
      this.reading = false;
    }
  }

  private async carryOutCommand({ id, body }: InboxRow): Promise<void> {
    if (!this.alive || this.broken) return;
    // It may be about somebody who was made a moment ago.
    if (!this.knows(body)) await this.hearOfSetUpNow();
    const refusal = this.submit(body as ExchangeEventBody, id);
    if (this.broken) return;
    this.commands.push({ id, seq: this.exchange.seq, refusal });
    this.armFlush();
  }

  private knows(body: {
    kind: string;
    personId?: string;
    phoneId?: string;
    campaignId?: string;
    boxId?: string;
  }): boolean {
    const state = this.exchange.view();
    return (
      (body.personId === undefined || state.agents.has(body.personId)) &&
      (body.phoneId === undefined || body.phoneId === null || state.phones.has(body.phoneId)) &&
      (body.campaignId === undefined || state.campaigns.has(body.campaignId)) &&
      (body.boxId === undefined || state.boxes.has(body.boxId))
    );
  }

  private async hearOfSetUpNow(): Promise<void> {
    await this.compiling;
    await (this.compiling ??= this.hearOfSetUp());
  }

  /** All changes of the set-up so far, however many, in one compilation beside the calls. Announces them as done. */
  private async hearOfSetUp(): Promise<void> {
    try {
      for (;;) {
        await this.flushing;
        const changes = await openSetUpChanges(this.database);
        const written = new Set(this.commands.map((command) => command.id));
        const ids = changes.filter((id) => !written.has(id));
        if (ids.length === 0 || !this.alive || this.broken) return;
        // What was handled is in the log before it is compared with what the log says.
        await this.flush();
        const difference = await this.beside.setUpDifference(this.exchange.seq);
        if (difference !== null) this.submit({ kind: 'configurationChanged', changes: difference });
        if (this.broken) return;
        for (const id of ids) this.commands.push({ id, seq: this.exchange.seq, refusal: null });
        await this.flush();
      }
    } catch (error) {
      this.fail(error);
    } finally {
      this.compiling = null;
    }
  }

  /** Resolves when everything handled so far is committed. */
  committed(): Promise<void> {
    return this.flush();
  }

  /** Writes what has gathered, leaves a checkpoint, and stops. */
  async close(): Promise<void> {
    await this.compiling;
    await this.flush();
    const whole = this.alive && !this.broken;
    this.stop();
    if (whole && this.exchange.seq > 0)
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
    try {
      await this.write(batch, commands);
    } catch (error) {
      if (!isDataFault(error)) this.fail(error);
      else await this.commitOneByOne(batch, commands).catch((other: unknown) => this.fail(other));
      return;
    }
    this.done(batch, commands);
  }

  private async write(batch: Handled[], commands: Command[]): Promise<void> {
    const began = performance.now();
    if (isPlain(batch)) await appendPlain(this.client, batch, commands);
    else await this.writeWithConsequences(batch, commands);
    this.callbacks.timed(performance.now() - began, batch.length);
  }

  private async writeWithConsequences(batch: Handled[], commands: Command[]): Promise<void> {
    await this.database.transaction(async (trx) => {
      if (batch.length > 0)
        await appendEvents(
          trx,
          batch.map((each) => each.event),
        );
      // What ends as lost may be what could not be written.
      const [aside, usual] = [batch.filter(isSetAside), batch.filter((each) => !isSetAside(each))];
      await writeConsequences(trx, usual);
      for (const each of aside) await writeWhatCanBe(trx, each);
      await closeCommands(trx, commands);
      await trx.raw(`select pg_notify('night_bell_log', ?)`, [String(batch.at(-1)?.event.seq ?? '')]);
    });
  }

  /** Something in the batch cannot be written: all before it is, and it is found by being the first that fails alone. */
  private async commitOneByOne(batch: Handled[], commands: Command[]): Promise<void> {
    for (const [index, each] of batch.entries()) {
      const own = commands.filter((command) => command.id === each.commandId);
      try {
        await this.write([each], own);
      } catch (error) {
        if (!isDataFault(error)) throw error;
        this.broken = true;
        const later = [...batch.slice(index + 1), ...this.batch];
        // Commands are still in the inbox and are read again from there.
        const after = later.filter(({ commandId }) => commandId === null).map(({ event }) => bodyOf(event));
        return this.poison({ ...poisonOf(each.event, error), commandId: each.commandId, after });
      }
      this.done([each], own);
    }
    const rest = commands.filter((command) => !batch.some((each) => each.commandId === command.id));
    if (rest.length > 0) {
      await this.write([], rest);
      this.done([], rest);
    }
  }

  private done(batch: Handled[], commands: Command[]): void {
    for (const { event, handled } of batch)
      handled.effects.forEach((effect, n) => this.carryOut(`${event.seq}.${n}`, effect));
    this.callbacks.committed(batch);
    this.callbacks.commandsDone(commands.map((command) => command.id));
  }

  /** An effect that cannot be carried out is set aside, and its call ends: devices no longer agree with us about it. */
  private carryOut(name: string, effect: Effect): void {
    try {
      this.callbacks.carryOut(name, effect);
    } catch (why) {
      this.logger.error({ why: String(why), effect: name, kind: effect.kind }, 'an effect was set aside');
      const callIds = 'callId' in effect ? [effect.callId] : [];
      void this.database
        .transaction((trx) =>
          keepSetAside(trx, { what: 'effect', kind: effect.kind, seq: null, callIds, why, content: effect }),
        )
        .catch((error: unknown) => this.logger.error({ error: String(error) }, 'an effect was not kept'));
      if (callIds.length > 0) this.submit({ kind: 'setAside', what: effect.kind, callIds, personIds: [] });
    }
  }

  private poison(poison: Omit<Poison, 'inLog'>): void {
    if (!this.alive) return;
    this.stop();
    this.callbacks.poisoned({ ...poison, inLog: false });
  }

  private fail(error: unknown): void {
    if (!this.alive) return;
    this.stop();
    this.callbacks.failed(error);
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

function isSetAside({ event }: Applied): boolean {
  return event.kind === 'setAside';
}

function bodyOf({ seq: _seq, at: _at, ...body }: ExchangeEvent): ExchangeEventBody {
  return body;
}
