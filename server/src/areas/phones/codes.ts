import type { Knex } from 'knex';
import type { Seal } from '../../security/seal.ts';

const codeDays = { 'sign-in': 14, enrolment: 14 } as const;

/** Stores a one-time code under its keyed hash. */
export async function insertCode(
  trx: Knex,
  seal: Seal,
  code: {
    purpose: 'sign-in' | 'enrolment';
    code: string;
    personId: string;
    phoneId?: string;
    secret?: string;
  },
): Promise<void> {
  await trx('one_time_code').insert({
    purpose: code.purpose,
    person_id: code.personId,
    phone_id: code.phoneId ?? null,
    sealed: code.secret === undefined ? null : seal.seal(code.secret),
    hash: seal.hash(code.code),
    expires_at: trx.raw(`now() + interval '${codeDays[code.purpose]} days'`),
  });
}
