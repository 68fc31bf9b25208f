import type { Knex } from 'knex';

/** How a queue chooses who rings, in which turn a member is, and how many ring at once. */
export async function up(database: Knex): Promise<void> {
  await database.raw(`
    alter table queue
      add distribution text not null default 'longestIdle' check (distribution in
        ('longestIdle', 'roundRobin', 'inOrder', 'allAtOnce', 'random', 'fewestCalls', 'bestSkill')),
      add rings_at_most integer not null default 10 check (rings_at_most between 1 and 50);
    alter table queue_member add turn integer not null default 1 check (turn between 1 and 9);
  `);
}
