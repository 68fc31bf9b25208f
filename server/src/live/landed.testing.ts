import { readFile } from 'node:fs/promises';
import type { Database } from '../database/connection.ts';
import { migrate } from '../database/migrate.ts';
import { freshDatabase } from '../server.testing.ts';

/**
 * An installation as engine version 6 left it when its server was killed in the middle of ten calls, dumped with
 * pg_dump (server/fixtures/engine-6.sql), and what was going on (engine-6.json). It has a checkpoint from an orderly
 * stop before, with five of the calls, and the log behind it. The sealing key is that of the tests.
 */
export interface Landed {
  /** Engine time of the last event, and its number. */
  at: number;
  seq: number;
  calls: {
    id: string;
    stage: string;
    talking: string | null;
    ringing: string | null;
    announcedTo: string | null;
    legs: string[];
  }[];
  agents: { name: string; presence: string; awayReason: string | null; wrapUp: boolean; calls: number }[];
  /** Calls that were over. */
  gone: string[];
  by: Record<string, { id: string; login: string; account: string; secret: string }>;
}

const folder = new URL('../../fixtures/', import.meta.url);

/** The landed installation in a database of its own; its tables are brought to those of today unless told otherwise. */
export async function landedInstallation({ migrated = true } = {}): Promise<
  Awaited<ReturnType<typeof freshDatabase>> & { landed: Landed }
> {
  const landed = JSON.parse(await readFile(new URL('engine-6.json', folder), 'utf8')) as Landed;
  const dump = await readFile(new URL('engine-6.sql', folder), 'utf8');
  const fresh = await freshDatabase(async (database: Database) => {
    // A dump empties the search path of its connection, and a question mark in it is no placeholder.
    const client = (await database.client.acquireConnection()) as {
      query: (sql: string) => Promise<unknown>;
    };
    await client.query(`${dump}; reset all;`);
    database.client.releaseConnection(client);
    if (migrated) await migrate(database);
  });
  return { ...fresh, landed };
}
