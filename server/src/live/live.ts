import type pg from 'pg';
import type { Logger } from 'pino';
import type { Effect } from '@night-bell/core/exchange/effects';
import type { ExchangeEventBody, Refusal } from '@night-bell/core/exchange/events';
import type { Exchange } from '@night-bell/core/exchange/exchange';
import { brokenInvariants } from '@night-bell/core/exchange/invariants';
import type { StoryRecord } from '@night-bell/core/exchange/records';
import { type Database, dedicatedClient } from '../database/connection.ts';
import { Problem } from '../http/problems.ts';
import { textsChannel } from './channels.ts';
import { Host } from './host.ts';
import { commandOutcomes } from './log.queries.ts';
import { type Applied, Replica } from './replica.ts';

/** Any number that no other program on this database takes. */
const lockKey = 4_380_001;

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
  private readonly logger: Logger;
  private replica: Replica | null = null;
  private host: Host | null = null;
  private client: pg.Client | null = null;
  private lookTimer: NodeJS.Timeout | null = null;
  private working: Promise<void> = Promise.resolve();
  private readonly listeners = new Set<Listener>();
  private readonly resets = new Set<() => void>();
  private readonly textListeners = new Set<() => void>();
  private readonly waiting = new Map<number, (refusal: string | null) => void>();
  private closed = false;

  constructor(database: Database, devices: Devices, logger: Logger) {
    this.database = database;
    this.devices = devices;
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
    await this.client?.end().catch(() => undefined);
    this.client = null;
  }

  get isHost(): boolean {
    return this.host !== null;
  }

  /** The exchange as this server knows it. Throws a problem while it is being rebuilt. */
  get exchange(): Exchange {
    if (this.replica === null)
      throw new Problem('exchangeAway', 'The exchange is being rebuilt. Try again in a moment.');
    return this.replica.exchange;
  }

  get ready(): boolean {
    return this.replica !== null;
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

  /** Calls `heard` when texts came, went out or were written, on whichever server; returns how to stop. */
  listenForTexts(heard: () => void): () => void {
    this.textListeners.add(heard);
    return () => void this.textListeners.delete(heard);
  }

  /** An event from a device of this host; null when this server is not the host. */
  submit(body: ExchangeEventBody): Refusal | null {
    return this.host?.submit(body) ?? null;
  }

  /** Has the host carry out a command, whichever server that is, and waits until it is committed. */
  async command(body: ExchangeEventBody, byPerson: string | null): Promise<void> {
    const refusal = await this.send(body, byPerson);
    if (refusal !== null) throw new Problem('notNow', refusalSentence(refusal as Refusal));
  }

  /** Waits until every change of the set-up committed before has reached the exchange. */
  async settled(): Promise<void> {
    const { rows } = await this.database.raw<{ rows: { max: number | null }[] }>(
      'select max(id) as max from exchange_inbox where done_seq is null and refusal is null',
    );
    const last = rows[0]?.max;
    if (last == null) return;
    await this.outcome(last);
    await this.catchUp();
  }

  /** Waits until what this server's exchange knows is in the database too. */
  async committed(): Promise<void> {
    await this.host?.committed();
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
        if (this.host === null) {
          await this.catchUp();
          await this.tryToHost();
        } else await this.host.readInbox();
        await this.checkOutcomes();
      } catch (error) {
        this.logger.warn({ error: String(error) }, 'the exchange is rebuilt');
        await this.stepDown();
      }
    });
    return this.working;
  }

  private async connect(): Promise<void> {
    const client = await dedicatedClient(this.database);
    client.on('error', () => void this.stepDown());
    client.on('end', () => void (this.client === client ? this.stepDown() : undefined));
    client.on('notification', ({ channel }) => {
      if (channel === textsChannel) for (const heard of this.textListeners) heard();
      else if (channel === 'night_bell_inbox') void this.host?.readInbox();
      else if (this.host === null) void this.follow();
    });
    await client.query('listen night_bell_inbox');
    await client.query('listen night_bell_log');
    await client.query(`listen ${textsChannel}`);
    this.client = client;
    this.replica = await Replica.load(this.database);
    for (const reset of this.resets) reset();
  }

  private async follow(): Promise<void> {
    this.working = this.working.then(() => this.catchUp()).catch(() => this.stepDown());
    await this.working;
    await this.checkOutcomes();
  }

  private async catchUp(): Promise<void> {
    if (this.host !== null || this.replica === null) return;
    const applied = await this.replica.catchUp(this.database);
    if (applied.length > 0) for (const listener of this.listeners) listener(applied);
  }

  private async tryToHost(): Promise<void> {
    const client = this.client;
    const replica = this.replica;
    if (client === null || replica === null) return;
    const { rows } = await client.query<{ got: boolean }>('select pg_try_advisory_lock($1) as got', [
      lockKey,
    ]);
    if (rows[0]?.got !== true) return;
    // The one before may have written until it lost the lock.
    await this.catchUp();
    const broken = brokenInvariants(replica.exchange.view());
    if (broken.length > 0) this.logger.error({ broken }, 'the rebuilt state breaks an invariant');
    const host = new Host(this.database, replica, {
      carryOut: (name, effect) => this.devices.carryOut(name, effect),
      committed: (applied) => {
        for (const listener of this.listeners) listener(applied);
      },
      commandsDone: () => void this.checkOutcomes(),
      failed: (error) => {
        this.logger.error({ error: String(error) }, 'the log could not be written; the exchange is rebuilt');
        void this.stepDown();
      },
    });
    this.host = host;
    this.logger.info({ seq: replica.exchange.seq }, 'hosting the exchange');
    await this.database('exchange_inbox').insert({ body: JSON.stringify({ kind: 'recompile' }) });
    await host.readInbox();
    await this.devices.hosting(host);
  }

  /** Drops state and lock. The next look connects and rebuilds. */
  private async stepDown(): Promise<void> {
    const client = this.client;
    this.host?.stop();
    if (this.host !== null) this.devices.notHosting();
    this.host = null;
    this.client = null;
    this.replica = null;
    if (!this.closed) for (const reset of this.resets) reset();
    await client?.end().catch(() => undefined);
  }
}

/** Why the exchange did not take a command, for the person who gave it. */
export function refusalSentence(refusal: Refusal): string {
  switch (refusal) {
    case 'notSignedIn':
      return 'This agent is signed out. Sign them in first.';
    case 'noSeat':
      return 'All rented seats are in use. Sign somebody out, or rent more seats under People, Agent settings.';
    case 'atLimit':
      return 'The phone rings or is in a call. Hang up first.';
    case 'notWrappingUp':
      return 'This agent is not wrapping up.';
    case 'unknownPerson':
      return 'The exchange does not know this person. A deactivated person takes no calls.';
    case 'unknownPhone':
      return 'The exchange does not know this phone.';
    case 'unknownCall':
    case 'unknownLeg':
    case 'legNotRinging':
    case 'legNotConnected':
      return 'That call has moved on meanwhile.';
    case 'callExists':
      return 'That call is already known.';
    case 'unknownCampaign':
      return 'The exchange does not know this campaign.';
    case 'notExpected':
      return 'That does nothing at this moment.';
    case 'notReachable':
      return 'That phone is not registered.';
    case 'cannotBeRung':
      return 'They cannot be rung now: their phone is not there, rings, or is in a call. The caller stays with you.';
    case 'noOutsideNumber':
      return 'This person has no outside number that can be dialled.';
    case 'trunkFull':
      return 'The trunk has no channel free. Try again when a call has ended.';
    case 'lineOpen':
      return 'A line is open already, or the phone is ringing.';
  }
}
