import type { Knex } from 'knex';
import type { PrefixPrice } from '@night-bell/core/dialling/price';
import { isWeakSecret } from '@night-bell/core/model/secrets';
import type { TrunkDraft } from '@night-bell/core/model/trunks.schema';
import { Problem } from '../../http/problems.ts';
import type { SecretBox } from '../../security/secret-box.ts';
import { itemStore } from '../../spine/item-store.ts';
import { checkInUse, insertAll } from '../../spine/items.ts';
import { certificateFacts, type CertificateFacts } from './certificate.ts';

export interface TrunkView extends TrunkDraft {
  id: string;
  version: number;
  retired: boolean;
  hasSecret: boolean;
  /** Short or easily guessed; or the same as another trunk's or phone's. */
  secretWeak: boolean;
  secretShared: boolean;
  /** The number always shown, when there is one. */
  callerId: string | null;
  certificate: CertificateFacts | null;
}

type TrunkRow = Omit<TrunkView, 'certificate'> & { certificate: string | null };

export async function listTrunks(database: Knex, id?: string): Promise<TrunkView[]> {
  const rows = await database('trunk as t')
    .join('item as i', 'i.id', 't.id')
    .leftJoin('number as n', 'n.id', 't.number_id')
    .modify((query) => {
      if (id !== undefined) void query.where('t.id', id);
    })
    .orderBy([{ column: 'i.name' }, { column: 't.id' }])
    .select<TrunkRow[]>(
      't.id',
      'i.version',
      database.raw('i.retired_at is not null as retired'),
      'i.name',
      't.host',
      't.port',
      't.transport',
      't.account',
      't.registers',
      't.channels',
      't.codecs',
      't.behind_router as behindRouter',
      't.number_id as numberId',
      'n.e164 as callerId',
      't.certificate',
      database.raw('t.secret_sealed is not null as "hasSecret"'),
      't.secret_weak as secretWeak',
      database.raw(
        `(exists (select 1 from trunk o where o.secret_mark = t.secret_mark and o.id <> t.id)
          or exists (select 1 from phone f where f.secret_mark = t.secret_mark)) as "secretShared"`,
      ),
      database.raw(
        `coalesce((select json_agg(json_build_object('prefix', p.prefix, 'perMinute', trim_scale(p.per_minute)::text)
          order by p.prefix) from trunk_price p where p.trunk_id = t.id), '[]') as prices`,
      ),
    );
  return rows.map(({ certificate, ...row }) => ({
    ...row,
    certificate: certificate === null ? null : certificateFacts(certificate),
  }));
}

export const trunkStore = itemStore<TrunkDraft, TrunkView>({
  kind: 'trunk',
  word: 'trunk',
  list: listTrunks,
  snapshot: (trunk) => {
    const { name, host, port, transport, account, registers, channels } = trunk;
    const { codecs, behindRouter, numberId, prices } = trunk;
    return {
      ...{ name, host, port, transport, account, registers, channels },
      ...{ codecs, behindRouter, numberId, prices },
    };
  },
  references: ({ numberId }) => (numberId === null ? [] : [{ to: numberId, how: 'caller ID' }]),
  check: (trx, draft) => checkInUse(trx, draft.numberId, 'number', '/numberId'),
  insert: async (trx, id, draft) => {
    await trx('trunk').insert({ id, ...columnsOf(draft) });
    await writePrices(trx, id, draft.prices);
  },
  update: async (trx, id, draft) => {
    await trx('trunk').where({ id }).update(columnsOf(draft));
    await writePrices(trx, id, draft.prices);
  },
  refuseRetiring: refuseWhileReachedOver,
});

/** Keeps a secret that somebody brought, sealed, with what may be said of it. */
export async function setTrunkSecret(
  trx: Knex.Transaction,
  seal: SecretBox,
  id: string,
  secret: string,
): Promise<void> {
  const { account } = await trunkStore.get(trx, id);
  await trx('trunk')
    .where({ id })
    .update({
      secret_sealed: seal.seal(secret),
      secret_mark: seal.hash(secret),
      secret_weak: isWeakSecret(secret, account),
    });
}

function columnsOf(draft: TrunkDraft) {
  return {
    host: draft.host,
    port: draft.port,
    transport: draft.transport,
    account: draft.account,
    registers: draft.registers,
    channels: draft.channels,
    codecs: draft.codecs,
    behind_router: draft.behindRouter,
    number_id: draft.numberId,
  };
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
