import { randomBytes } from 'node:crypto';
import type { Knex } from 'knex';
import { type ScriptKeyDraft, scriptKeys, type ScriptKeyView } from '@night-bell/core/contracts/script-keys';
import type { SecretBox } from '../../security/secret-box.ts';
import { defineItem } from '../../spine/define-item.ts';
import { type Author, recordChange, tellPages } from '../../spine/items.ts';

interface Row extends Omit<ScriptKeyView, 'lastUsedAt'> {
  lastUsedAt: Date | null;
}

export const scriptKeyItem = defineItem<typeof scriptKeys.path, ScriptKeyDraft, ScriptKeyView, Row>({
  kind: 'scriptKey',
  contract: scriptKeys,
  word: 'key',
  table: 'script_key',
  columns: { role: { column: 'role' }, areas: { column: 'areas', json: true } },
  more: {
    ...{ hasSecret: 't.secret_hash is not null', begins: 't.begins', lastUsedAt: 't.last_used_at' },
    madeBy: '(select m.name from item m where m.id = t.made_by)',
  },
  view: ({ lastUsedAt, ...row }) => ({ ...row, lastUsedAt: lastUsedAt?.getTime() ?? null }),
  references: () => [],
});

/** A secret that takes the place of the one before, and is given this once: only its keyed hash is kept. */
export async function makeSecret(
  trx: Knex.Transaction,
  seal: SecretBox,
  id: string,
  author: Author,
): Promise<string> {
  await scriptKeyItem.get(trx, id);
  const secret = `bell_${randomBytes(32).toString('base64url')}`;
  await trx('script_key')
    .where({ id })
    .update({
      ...{ secret_hash: seal.hash(secret), begins: secret.slice(0, 10), made_by: author.personId },
      last_used_at: null,
    });
  await recordChange(trx, { item_id: id, what: 'secretMade', before: null, after: null }, author);
  await tellPages(trx, 'scriptKey', id);
  return secret;
}
