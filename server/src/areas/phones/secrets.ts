import type { Knex } from 'knex';
import { digestSecret } from '@night-bell/core/sip/digest';
import { realm } from '../../live/registrar.ts';
import { oneTimeCode, registrationSecret, type SecretBox } from '../../security/secret-box.ts';
import { insertCodes } from './codes.ts';

/** Shown once, to whoever made the set-up. */
export interface PhoneSecret {
  account: string;
  registrationSecret: string;
  enrolmentCode: string;
}

/** Fresh registration secrets, each with the enrolment code that fetches it. Earlier ones stop working. */
export async function newSecrets(
  trx: Knex.Transaction,
  seal: SecretBox,
  phones: { id: string; personId: string; account: string }[],
): Promise<PhoneSecret[]> {
  const made = phones.map((phone) => ({
    ...phone,
    secret: registrationSecret(),
    enrolmentCode: oneTimeCode(),
  }));
  const rows = made.map(({ id, account, secret }) => ({
    id,
    ha1: seal.seal(JSON.stringify(digestSecret(account, realm, secret))),
    mark: seal.hash(secret),
  }));
  // One statement however many they are.
  await trx.raw(
    `update phone set ha1_sealed = given.ha1, secret_mark = given.mark, secret_at = now()
     from json_to_recordset(?) as given (id uuid, ha1 text, mark text) where phone.id = given.id`,
    [JSON.stringify(rows)],
  );
  await trx('one_time_code')
    .whereIn(
      'phone_id',
      phones.map(({ id }) => id),
    )
    .andWhere({ purpose: 'enrolment' })
    .whereNull('used_at')
    .update({ expires_at: trx.fn.now(), sealed: null });
  await insertCodes(
    trx,
    seal,
    made.map(({ id, personId, secret, enrolmentCode }) => ({
      purpose: 'enrolment',
      code: enrolmentCode,
      personId,
      phoneId: id,
      secret,
    })),
  );
  return made.map(({ account, secret, enrolmentCode }) => ({
    account,
    registrationSecret: secret,
    enrolmentCode,
  }));
}
