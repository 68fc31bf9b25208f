import type { Knex } from 'knex';
import { type BotDraft, bots, type BotView } from '@night-bell/core/contracts/bots';
import type { BotItem } from '@night-bell/core/model/bots';
import type { SecretBox } from '../../security/secret-box.ts';
import { defineItem, usesOf } from '../../spine/define-item.ts';

export const botItem = defineItem<typeof bots.path, BotDraft, BotView>({
  kind: 'bot',
  contract: bots,
  word: 'bot',
  table: 'bot',
  columns: { address: 'address', limitSeconds: 'limit_seconds', mostTurns: 'most_turns' },
  more: { hasKey: 't.key_sealed is not null', uses: usesOf },
  references: () => [],
});

export async function setBotKey(trx: Knex, seal: SecretBox, id: string, key: string): Promise<void> {
  await trx('bot')
    .where({ id })
    .update({ key_sealed: seal.seal(key) });
}

/** As the exchange reads them. */
export async function compiledBots(database: Knex): Promise<BotItem[]> {
  return database('bot as b')
    .join('item as i', 'i.id', 'b.id')
    .whereNull('i.retired_at')
    .orderBy('b.id')
    .select<BotItem[]>('b.id', 'i.name', 'b.limit_seconds as limitSeconds', 'b.most_turns as mostTurns');
}

/** What a bot is asked with; null when it is not in use. */
export async function botDoor(
  database: Knex,
  seal: SecretBox,
  id: string,
): Promise<{ address: string; key: string | null } | null> {
  const row = await database('bot as b')
    .join('item as i', 'i.id', 'b.id')
    .where('b.id', id)
    .whereNull('i.retired_at')
    .first<{ address: string; key_sealed: string | null } | undefined>('b.address', 'b.key_sealed');
  if (row === undefined) return null;
  return { address: row.address, key: row.key_sealed === null ? null : seal.open(row.key_sealed) };
}
