import { randomUUID } from 'node:crypto';
import knex, { type Knex } from 'knex';
import pg from 'pg';

export type Database = Knex;

// Engine time and sequence numbers are bigint columns well below 2^53.
pg.types.setTypeParser(pg.types.builtins.INT8, Number);

/** All connections of one server bear one name, by which another that takes its place can end them. */
export function connect(url: string): Database {
  const application_name = `night-bell ${randomUUID()}`;
  return knex({
    client: 'pg',
    // Compiling a statement to machine code takes longer (0.1 to 0.7 s) than any of ours takes without.
    connection: { connectionString: url, application_name, options: '-c jit=off' },
    pool: { min: 0, max: 12 },
    acquireConnectionTimeout: 10_000,
  });
}

/** The name all connections of this server bear. */
export function serverName(database: Database): string {
  return (database.client.config.connection as { application_name: string }).application_name;
}

/** A connection of its own for LISTEN and advisory locks, outside the pool. */
export async function dedicatedClient(database: Database): Promise<pg.Client> {
  const client = new pg.Client(database.client.config.connection as pg.ClientConfig);
  await client.connect();
  return client;
}

/** Work on a connection of the pool, or on that of a transaction, for what Knex has no words for. */
export async function onConnection<T>(database: Knex, work: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = database.client as Knex.Client;
  const connection = (await client.acquireConnection()) as pg.Client;
  try {
    return await work(connection);
  } finally {
    await client.releaseConnection(connection);
  }
}

/**
 * A statement that every call needs, planned once for each connection: making the plan costs several times what carrying
 * it out does. Not within a transaction.
 */
export async function prepared<Row extends object>(
  database: Knex,
  name: string,
  text: string,
  values: unknown[],
): Promise<Row[]> {
  const { rows } = await onConnection(database, (client) => client.query<Row>({ name, text, values }));
  return rows;
}
