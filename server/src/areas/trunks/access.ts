import type { Knex } from 'knex';
import type { TrunkAccess } from '../../live/trunk-lines.ts';
import type { SecretBox } from '../../security/secret-box.ts';

type AccessRow = Omit<TrunkAccess, 'secret'> & { sealed: string | null };

/** What it takes to register over each trunk in use, secrets opened. Never leaves the server but as digests. */
export async function trunkAccess(database: Knex, seal: SecretBox): Promise<TrunkAccess[]> {
  const rows = await database('trunk as t')
    .join('item as i', 'i.id', 't.id')
    .whereNull('i.retired_at')
    .orderBy('t.id')
    .select<AccessRow[]>(
      't.id',
      't.host',
      't.account',
      't.transport',
      't.registers',
      't.secret_sealed as sealed',
      't.certificate',
    );
  return rows.map(({ sealed, ...row }) => ({ ...row, secret: sealed === null ? null : seal.open(sealed) }));
}
