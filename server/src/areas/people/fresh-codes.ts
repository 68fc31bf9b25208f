import type { Knex } from 'knex';
import { Problem } from '../../http/problems.ts';
import { oneTimeCode, type SecretBox } from '../../security/secret-box.ts';
import { insertCodes } from '../phones/codes.ts';
import type { NewPerson } from './create.ts';

/**
 * New sign-in codes for these people, all or nobody: codes given before no longer work, nor do their passwords. Who asks
 * ends their sign-ins once this is committed.
 */
export async function freshCodes(
  trx: Knex.Transaction,
  seal: SecretBox,
  ids: string[],
): Promise<NewPerson[]> {
  const people = await trx('person as p')
    .join('item as i', 'i.id', 'p.id')
    .leftJoin('extension as e', 'e.item_id', 'p.id')
    .whereRaw('p.id = any(?::uuid[])', [ids])
    .orderBy([{ column: 'i.name' }, { column: 'p.id' }])
    .select<{ id: string; name: string; login: string; extension: string | null; retired: boolean }[]>(
      ...['p.id', 'i.name', 'p.login', 'e.digits as extension'],
      trx.raw('i.retired_at is not null as retired'),
    );
  if (people.length < new Set(ids).size)
    throw new Problem('notNow', 'Somebody of them is not there any more.');
  const gone = people.find(({ retired }) => retired);
  if (gone !== undefined) throw new Problem('notNow', `${gone.name} is deactivated. Reactivate first.`);
  const made = people.map(({ retired: _retired, extension, ...person }) => ({
    ...person,
    extension: extension ?? '',
    signInCode: oneTimeCode(),
    phone: null,
    sentTo: null,
  }));
  await trx('one_time_code')
    .whereRaw('person_id = any(?::uuid[])', [ids])
    .where({ purpose: 'sign-in' })
    .whereNull('used_at')
    .update({ used_at: trx.fn.now() });
  await trx('credential').whereRaw('person_id = any(?::uuid[])', [ids]).delete();
  await insertCodes(
    trx,
    seal,
    made.map(({ id, signInCode }) => ({ purpose: 'sign-in' as const, code: signInCode, personId: id })),
  );
  return made;
}
