import knex, { type Knex } from 'knex';
import pg from 'pg';

export type Database = Knex;

// Engine time and sequence numbers are bigint columns well below 2^53.
pg.types.setTypeParser(pg.types.builtins.INT8, Number);

export function connect(url: string): Database {
  return knex({
    client: 'pg',
    connection: { connectionString: url },
    pool: { min: 0, max: 12 },
    acquireConnectionTimeout: 10_000,
  });
}

/** A connection of its own for LISTEN and advisory locks, outside the pool. */
export async function dedicatedClient(database: Database): Promise<pg.Client> {
  const client = new pg.Client(database.client.config.connection as pg.ClientConfig);
  await client.connect();
  return client;
}
