import type { Knex } from 'knex';
import type { SecretBox } from '../../security/secret-box.ts';
import { insertAll } from '../../spine/items.ts';

const codeDays = { 'sign-in': 14, enrolment: 14 } as const;

export interface NewCode {
  purpose: 'sign-in' | 'enrolment';
  code: string;
  personId: string;
  phoneId?: string;
  secret?: string;
}

/** Stores one-time codes under their keyed hashes. */
export function insertCodes(trx: Knex.Transaction, seal: SecretBox, codes: NewCode[]): Promise<void> {
  return insertAll(
    trx,
    'one_time_code',
    codes.map((code) => ({
      purpose: code.purpose,
      person_id: code.personId,
      phone_id: code.phoneId ?? null,
      sealed: code.secret === undefined ? null : seal.seal(code.secret),
      hash: seal.hash(code.code),
      expires_at: trx.raw(`now() + interval '${codeDays[code.purpose]} days'`),
    })),
  );
}
