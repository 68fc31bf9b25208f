import type { Database } from '../database/connection.ts';
import { hasAdministrator } from '../areas/session/store.ts';
import { oneTimeCode, type SecretBox } from './secret-box.ts';

/** A fresh code for the first visit of an empty installation, for the terminal; null when there is an administrator. */
export async function firstAdministratorCode(database: Database, seal: SecretBox): Promise<string | null> {
  if (await hasAdministrator(database)) return null;
  const code = oneTimeCode();
  await database.transaction(async (trx) => {
    await trx('one_time_code').where({ purpose: 'first-administrator' }).delete();
    await trx('one_time_code').insert({
      purpose: 'first-administrator',
      hash: seal.hash(code),
      expires_at: trx.raw(`now() + interval '7 days'`),
    });
  });
  return code;
}
