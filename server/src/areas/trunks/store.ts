import type { Knex } from 'knex';
import type { PrefixPrice } from '@night-bell/core/dialling/price';
import { isWeakSecret } from '@night-bell/core/model/secrets';
import { type TrunkDraft, trunks, type TrunkView } from '@night-bell/core/contracts/trunks';
import { Problem } from '../../http/problems.ts';
import type { SecretBox } from '../../security/secret-box.ts';
import { defineItem } from '../../spine/define-item.ts';
import { checkInUse, insertAll } from '../../spine/items.ts';
import { certificateFacts } from './certificate.ts';

type TrunkRow = Omit<TrunkView, 'certificate'> & { certificate: string | null };

export const trunkItem = defineItem<typeof trunks.path, TrunkDraft, TrunkView, TrunkRow>({
  kind: 'trunk',
  contract: trunks,
  word: 'trunk',
  table: 'trunk',
  columns: {
    ...{ host: 'host', port: 'port', transport: 'transport', account: 'account', registers: 'registers' },
    ...{ channels: 'channels', codecs: 'codecs', behindRouter: 'behind_router', numberId: 'number_id' },
  },
  joins: 'left join number n on n.id = t.number_id',
  more: {
    callerId: 'n.e164',
    certificate: 't.certificate',
    hasSecret: 't.secret_sealed is not null',
    secretWeak: 't.secret_weak',
    secretShared: `(exists (select 1 from trunk o where o.secret_mark = t.secret_mark and o.id <> t.id)
      or exists (select 1 from phone f where f.secret_mark = t.secret_mark))`,
    prices: `coalesce((select json_agg(json_build_object('prefix', p.prefix, 'perMinute', trim_scale(p.per_minute)::text)
      order by p.prefix) from trunk_price p where p.trunk_id = t.id), '[]')`,
  },
  view: ({ certificate, ...row }) => ({
    ...row,
    certificate: certificate === null ? null : certificateFacts(certificate),
  }),
  references: ({ numberId }) => (numberId === null ? [] : [{ to: numberId, how: 'caller ID' }]),
  check: (trx, draft) => checkInUse(trx, draft.numberId, 'number', '/numberId'),
  parts: { fields: ['prices'], write: (trx, id, { prices }) => writePrices(trx, id, prices) },
  refuseRetiring: refuseWhileReachedOver,
});

/** Keeps a secret that somebody brought, sealed, with what may be said of it. */
export async function setTrunkSecret(
  trx: Knex.Transaction,
  seal: SecretBox,
  id: string,
  secret: string,
): Promise<void> {
  const { account } = await trunkItem.get(trx, id);
  await trx('trunk')
    .where({ id })
    .update({
      secret_sealed: seal.seal(secret),
      secret_mark: seal.hash(secret),
      secret_weak: isWeakSecret(secret, account),
    });
}

async function writePrices(trx: Knex.Transaction, id: string, prices: PrefixPrice[]): Promise<void> {
  await trx('trunk_price').where({ trunk_id: id }).delete();
  await insertAll(
    trx,
    'trunk_price',
    prices.map(({ prefix, perMinute }) => ({ trunk_id: id, prefix, per_minute: perMinute })),
  );
}

async function refuseWhileReachedOver(trx: Knex.Transaction, { id, name }: TrunkView): Promise<void> {
  const reached = await trx('phone as f')
    .join('item as p', 'p.id', 'f.person_id')
    .join('item as i', 'i.id', 'f.id')
    .where('f.trunk_id', id)
    .whereNull('i.retired_at')
    .whereNull('p.retired_at')
    .orderBy('p.name')
    .pluck<string[]>('p.name');
  if (reached.length > 0)
    throw new Problem(
      'inUse',
      `${reached.slice(0, 3).join(', ')}${reached.length > 3 ? ' and more' : ''} are reached over ${name}. Choose another trunk for them first.`,
    );
}
