import type pg from 'pg';
import { type Database, serverName } from '../database/connection.ts';

/** Any number that no other program on this database takes. */
const lockKey = 4_380_001;
const renewEvery = 1_000;
/** A host that has not been heard of for so long hangs; others look every second, so it is replaced within five. */
const hangsAfterMs = 3_300;

/** Whether a host has said lately that it lives. */
export async function hostIsHeardOf(database: Database): Promise<boolean> {
  const row = await database('exchange_host')
    .whereRaw('renewed_at > now() - make_interval(secs => ?)', [hangsAfterMs / 1_000])
    .first('server');
  return row !== undefined;
}

/**
 * Who may host. The lock falls free the moment a host's connection is gone; a host that hangs keeps its connections, so
 * it also says every second that it lives, and who finds it silent ends all its connections. What it still believes to
 * be able to write when it wakes up is refused by the log's key: whoever takes over writes an event at once.
 */
export class Hosting {
  private readonly database: Database;
  private readonly client: pg.Client;
  private timer: NodeJS.Timeout | null = null;

  constructor(database: Database, client: pg.Client) {
    this.database = database;
    this.client = client;
  }

  /** Takes the lock when it is free. A host that hangs is ended, so that the next try succeeds. */
  async take(): Promise<boolean> {
    if (this.timer !== null) return true;
    const { rows } = await this.client.query<{ got: boolean }>('select pg_try_advisory_lock($1) as got', [
      lockKey,
    ]);
    if (rows[0]?.got !== true) {
      await this.endHanging();
      return false;
    }
    await this.client.query(
      `insert into exchange_host (server) values ($1)
       on conflict (one) do update set server = excluded.server, renewed_at = now()`,
      [serverName(this.database)],
    );
    this.timer = setInterval(() => void this.renew(), renewEvery);
    return true;
  }

  stop(): void {
    if (this.timer !== null) clearInterval(this.timer);
    this.timer = null;
  }

  private async renew(): Promise<void> {
    // A connection that is gone is noticed by whoever owns it.
    await this.client
      .query('update exchange_host set renewed_at = now() where server = $1', [serverName(this.database)])
      .catch(() => undefined);
  }

  private async endHanging(): Promise<void> {
    await this.client.query(
      `select pg_terminate_backend(a.pid) from pg_stat_activity a join exchange_host h on h.server = a.application_name
       where h.renewed_at < now() - make_interval(secs => $1) and a.application_name <> $2`,
      [hangsAfterMs / 1_000, serverName(this.database)],
    );
  }
}
