import type { Knex } from 'knex';

/** The teams a supervisor looks after; none named means all of them (core/model/roles.ts). */
export function looksAfterOf(database: Knex, personId: string): Promise<string[]> {
  return database('supervised_team')
    .where({ person_id: personId })
    .orderBy('team_id')
    .pluck<string[]>('team_id');
}
