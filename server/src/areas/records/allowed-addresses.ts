import type { Knex } from 'knex';

export interface AllowedAddress {
  /** `host:port`. */
  address: string;
  by: string | null;
  at: string | null;
  /** Set by whoever runs this server, in its environment: it cannot be taken back here. */
  byOperator: boolean;
}

/** `host:port` on this machine or a private network that may be asked. */
export async function allowedAddresses(database: Knex, byOperator: string[]): Promise<ReadonlySet<string>> {
  return new Set([...byOperator, ...(await database('allowed_address').pluck<string[]>('address'))]);
}

export async function listAllowed(database: Knex, byOperator: string[]): Promise<AllowedAddress[]> {
  const rows = await database('allowed_address as a')
    .leftJoin('item as p', 'p.id', 'a.by_person')
    .orderBy('a.address')
    .select<{ address: string; by: string | null; at: Date }[]>('a.address', 'p.name as by', 'a.at');
  return [
    ...byOperator.map((address) => ({ address, by: null, at: null, byOperator: true })),
    ...rows.map(({ address, by, at }) => ({ address, by, at: at.toISOString(), byOperator: false })),
  ];
}

export async function allowAddress(trx: Knex, address: string, personId: string): Promise<void> {
  await trx('allowed_address').insert({ address, by_person: personId }).onConflict('address').ignore();
}

/** False when it was not allowed. */
export async function disallowAddress(trx: Knex, address: string): Promise<boolean> {
  return (await trx('allowed_address').where({ address }).delete()) === 1;
}
