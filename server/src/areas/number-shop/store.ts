import type { Knex } from 'knex';
import { readAmount, writeAmount } from '@night-bell/core/model/amount';
import { formatNumber } from '@night-bell/core/numbers/format';
import { Problem } from '../../http/problems.ts';
import { type Author } from '../../spine/items.ts';
import { addEntries, balanceForSpending } from '../balance/store.ts';
import { createNumber } from '../numbers/store.ts';
import type { Shop, ShopOffer } from './shop.ts';

export interface HoldView {
  number: string;
  offer: ShopOffer;
  until: string;
  by: string;
}

/** What is held at the shop and not over. */
export async function holds(database: Knex): Promise<HoldView[]> {
  const rows = await database('number_hold as h')
    .join('item as p', 'p.id', 'h.by_person')
    .where('h.until', '>', database.fn.now())
    .orderBy('h.e164')
    .select<{ e164: string; offer: ShopOffer; until: Date; by: string }[]>(
      'h.e164',
      'h.offer',
      'h.until',
      'p.name as by',
    );
  return rows.map(({ e164, offer, until, by }) => ({ number: e164, offer, until: until.toISOString(), by }));
}

export async function holdNumbers(
  database: Knex,
  shop: Shop,
  numbers: string[],
  personId: string,
): Promise<void> {
  const { until, offers } = await shop.hold(numbers);
  await database('number_hold')
    .insert(
      offers.map((offer) => ({
        e164: offer.number,
        offer: JSON.stringify(offer),
        until: new Date(until),
        by_person: personId,
      })),
    )
    .onConflict('e164')
    .merge();
}

export async function releaseNumbers(database: Knex, shop: Shop, numbers: string[]): Promise<void> {
  await shop.release(numbers);
  await database('number_hold').whereIn('e164', numbers).delete();
}

/**
 * Rents what is held, once: who asks again is told that it is ours already. The first month is paid at once; without
 * money for it nothing is asked of the shop.
 */
export async function rentNumbers(
  trx: Knex.Transaction,
  shop: Shop,
  numbers: string[],
  author: Author,
): Promise<string[]> {
  const now = await balanceForSpending(trx);
  const ours = await trx('number').whereIn('e164', numbers).pluck<string[]>('e164');
  if (ours.length > 0)
    throw new Problem('taken', `${formatNumber(ours[0]!)} is ours already. Nothing was rented twice.`);
  const held = await trx('number_hold')
    .whereIn('e164', numbers)
    .andWhere('until', '>', trx.fn.now())
    .select<{ e164: string; offer: ShopOffer }[]>('e164', 'offer');
  if (held.length < numbers.length)
    throw new Problem(
      'notNow',
      'The hold has run out. Hold the numbers again; if nobody was faster they are still free.',
    );
  const price = held.reduce((sum, { offer }) => sum + readAmount(offer.monthly)!, 0n);
  if (now < price)
    throw new Problem(
      'notNow',
      `The first month costs $ ${writeAmount(price)} and the balance is $ ${writeAmount(now)}. Pay in first; the hold goes on meanwhile.`,
    );
  await shop.rent(numbers);
  const ids: string[] = [];
  for (const { e164, offer } of held) {
    const draft = {
      e164,
      label: offer.place,
      destination: null,
      sourceId: null,
      textsTo: null,
      dialTeams: [],
      ...{ mostCalls: null, priority: 0 },
    };
    const id = await createNumber(trx, draft, author);
    ids.push(id);
    await trx('number')
      .where({ id })
      .update({
        rented_at: trx.fn.now(),
        paid_until: trx.raw(`now() + interval '1 month'`),
        monthly: offer.monthly,
        can_text: offer.text,
        reports: JSON.stringify(offer.reports),
      });
    await addEntries(trx, [
      {
        kind: 'rent',
        amount: -readAmount(offer.monthly)!,
        what: `Rent of ${formatNumber(e164)}, first month`,
        numberId: id,
        ...(author.personId === null ? {} : { byPerson: author.personId }),
        once: `rent ${id} 0`,
      },
    ]);
  }
  await trx('number_hold').whereIn('e164', numbers).delete();
  return ids;
}

/** Rent of the months that have begun since, for every number rented. Safe to repeat, and from several servers. */
export async function chargeRent(database: Knex): Promise<void> {
  await database.transaction(async (trx) => {
    const due = await trx('number as n')
      .whereNotNull('n.e164')
      .andWhere('n.paid_until', '<=', trx.fn.now())
      .forUpdate()
      .skipLocked()
      .select<{ id: string; e164: string; monthly: string; month: string }[]>(
        'n.id',
        'n.e164',
        trx.raw('n.monthly::text as monthly'),
        trx.raw(`to_char(n.paid_until, 'YYYY-MM-DD') as month`),
      );
    for (const { id, e164, monthly, month } of due) {
      const what = `Rent of ${formatNumber(e164)}, from ${month}`;
      const entry = { kind: 'rent' as const, amount: -readAmount(monthly)!, what, numberId: id };
      await addEntries(trx, [{ ...entry, once: `rent ${id} ${month}` }]);
      await trx('number')
        .where({ id })
        .update({ paid_until: trx.raw(`paid_until + interval '1 month'`) });
    }
  });
}
