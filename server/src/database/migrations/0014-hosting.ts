import type { Knex } from 'knex';

/** Which server hosts the exchange, and when it last said so. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    create table exchange_host (
      one boolean primary key default true check (one),
      server text not null,
      renewed_at timestamptz not null default now()
    );
  `);
}
