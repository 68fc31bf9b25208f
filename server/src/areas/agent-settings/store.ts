import type { Knex } from 'knex';
import type { AgentSettings } from '@night-bell/core/model/agent-settings.schema';
import { announceChange } from '../../spine/items.ts';
import { installation } from '../session/store.ts';

export async function readAgentSettings(database: Knex): Promise<AgentSettings> {
  const { seats } = await installation(database);
  return { seats, awayReasons: await database('away_reason').orderBy('position').pluck<string[]>('name') };
}

/** Fewer seats than are used signs nobody out: nobody more gets in. */
export async function writeAgentSettings(
  trx: Knex.Transaction,
  { seats, awayReasons }: AgentSettings,
): Promise<void> {
  await trx('installation').update({ seats });
  await trx('away_reason').delete();
  await trx('away_reason').insert(awayReasons.map((name, position) => ({ position, name })));
  await announceChange(trx);
}
