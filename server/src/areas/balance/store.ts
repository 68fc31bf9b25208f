import type { Knex } from 'knex';
import { readAmount, writeAmount } from '@night-bell/core/model/amount';

export interface LedgerEntry {
  id: number;
  at: string;
  kind: 'topUp' | 'rent' | 'call' | 'text';
  /** Decimal; what is spent is negative. */
  amount: string;
  what: string;
  numberId: string | null;
  callId: string | null;
  by: string | null;
}

export interface NewEntry {
  kind: LedgerEntry['kind'];
  amount: bigint;
  what: string;
  numberId?: string;
  callId?: string;
  byPerson?: string;
  /** Names what it is for: the same again changes nothing. */
  once?: string;
}

/** The present balance, exact. */
export async function balance(database: Knex): Promise<bigint> {
  const { rows } = await database.raw<{ rows: { sum: string }[] }>(
    'select coalesce(sum(amount), 0)::text as sum from ledger_entry',
  );
  return readAmount(rows[0]!.sum)!;
}

/** The balance, and whether it is below what somebody said is low. Nothing paid in yet is not low. */
export async function balanceState(database: Knex): Promise<{ now: string; isLow: boolean }> {
  const now = await balance(database);
  const low = await lowBalance(database);
  const used = (await database('ledger_entry').first('id')) !== undefined;
  return { now: writeAmount(now), isLow: used && now < low };
}

export async function lowBalance(database: Knex): Promise<bigint> {
  const row = await database('installation').first<{ low: string }>(database.raw('low_balance::text as low'));
  return readAmount(row.low)!;
}

/**
 * The balance with nobody else spending meanwhile: two who rent at once are served one after the other. The lock ends
 * with the transaction.
 */
export async function balanceForSpending(trx: Knex.Transaction): Promise<bigint> {
  await trx.raw(`select pg_advisory_xact_lock(hashtext('night-bell balance'))`);
  return balance(trx);
}

export async function addEntries(trx: Knex, entries: NewEntry[]): Promise<void> {
  if (entries.length === 0) return;
  await trx('ledger_entry')
    .insert(
      entries.map((entry) => ({
        kind: entry.kind,
        amount: writeAmount(entry.amount),
        what: entry.what,
        number_id: entry.numberId ?? null,
        call_id: entry.callId ?? null,
        by_person: entry.byPerson ?? null,
        once: entry.once ?? null,
      })),
    )
    .onConflict('once')
    .ignore();
}

const pageSize = 200;

export async function ledger(database: Knex, before: number | null): Promise<LedgerEntry[]> {
  const rows = await database('ledger_entry as l')
    .leftJoin('item as p', 'p.id', 'l.by_person')
    .modify((query) => {
      if (before !== null) void query.where('l.id', '<', before);
    })
    .orderBy('l.id', 'desc')
    .limit(pageSize)
    .select<(Omit<LedgerEntry, 'at'> & { at: Date })[]>(
      'l.id',
      'l.at',
      'l.kind',
      database.raw('l.amount::text as amount'),
      'l.what',
      'l.number_id as numberId',
      'l.call_id as callId',
      'p.name as by',
    );
  return rows.map((row) => ({
    ...row,
    at: row.at.toISOString(),
    amount: writeAmount(readAmount(row.amount)!),
  }));
}

/** What calls cost that were out over trunks, as their prices stand; written with the calls. */
export async function chargeCalls(
  trx: Knex,
  calls: { callId: string; trunkId: string; digits: string; seconds: number }[],
): Promise<void> {
  if (calls.length === 0) return;
  // Longest prefix, exact decimals, to the second and rounded up to a millionth: all in one statement.
  await trx.raw(
    `with given as (
       -- Who had the caller twice was on the line twice.
       select call_id, trunk_id, digits, sum(seconds)::int as seconds
       from json_to_recordset(?) as g (call_id uuid, trunk_id uuid, digits text, seconds int)
       group by call_id, trunk_id, digits
     ), priced as (
       select g.*, p.per_minute, ceil(p.per_minute * 1000000 * g.seconds / 60) / 1000000 as cost from given g
       cross join lateral (
         select per_minute from trunk_price p
         where p.trunk_id = g.trunk_id and ltrim(g.digits, '+') like ltrim(p.prefix, '+') || '%'
         order by length(ltrim(p.prefix, '+')) desc limit 1
       ) p
     ), charged as (
       insert into ledger_entry (kind, amount, what, call_id, once)
       select 'call', -cost, digits || ', ' || seconds || ' s', call_id, 'call ' || call_id || ' ' || trunk_id || ' ' || digits
       from priced where cost > 0
       on conflict (once) do nothing returning call_id, amount
     ), sums as (select call_id, sum(amount) as amount from charged group by call_id)
     update call set cost = coalesce(call.cost, 0) - sums.amount from sums where call.id = sums.call_id`,
    [
      JSON.stringify(
        calls.map(({ callId, trunkId, digits, seconds }) => ({
          call_id: callId,
          trunk_id: trunkId,
          digits,
          seconds,
        })),
      ),
    ],
  );
}
