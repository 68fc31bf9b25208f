import type { Knex } from 'knex';

/** Which ring group's phones rang for a call, so that its calls are found. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table call add ring_group_id uuid references item (id);
    create index call_by_ring_group on call (ring_group_id, arrived_at desc) where ring_group_id is not null;
  `);
}
