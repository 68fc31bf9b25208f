import type { Knex } from 'knex';

/** Decimal amounts as text, exact. */
export interface BalanceDay {
  day: string;
  /** At its end. */
  balance: string;
  paidIn: string;
  spent: string;
}

/** Each day of [from, to) by the clock of `zone`, days without a movement too, up to today. */
export async function balanceDays(
  database: Knex,
  { from, to, zone }: { from: Date; to: Date; zone: string },
): Promise<BalanceDay[]> {
  const { rows } = await database.raw<{ rows: BalanceDay[] }>(
    `with days as (
       select generate_series(
         date_trunc('day', ?::timestamptz at time zone ?),
         least(date_trunc('day', ?::timestamptz at time zone ? - interval '1 second'), date_trunc('day', now() at time zone ?)),
         interval '1 day') as day),
     moved as (
       select date_trunc('day', at at time zone ?) as day, sum(amount) as amount,
         coalesce(sum(amount) filter (where amount > 0), 0) as paid_in,
         coalesce(-sum(amount) filter (where amount < 0), 0) as spent
       from ledger_entry where at >= ? and at < ? group by 1)
     select to_char(days.day, 'YYYY-MM-DD') as day,
       ((select coalesce(sum(amount), 0) from ledger_entry where at < ?)
         + sum(coalesce(moved.amount, 0)) over (order by days.day))::text as balance,
       coalesce(moved.paid_in, 0)::text as "paidIn", coalesce(moved.spent, 0)::text as spent
     from days left join moved using (day) order by days.day`,
    [from, zone, to, zone, zone, zone, from, to, from],
  );
  return rows;
}
