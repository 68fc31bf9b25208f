import Joi from 'joi';
import { readAmount, writeAmount } from '@night-bell/core/model/amount';
import { day } from '@night-bell/core/model/fields.schema';
import { editors, readers } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { daysOf } from '../../spine/days.ts';
import { installation } from '../session/store.ts';
import { type BalanceDay, balanceDays } from './days.queries.ts';
import { addEntries, balanceState, ledger, type LedgerEntry, lowBalance } from './store.ts';

const area = 'Balance';

const amount = Joi.string()
  .trim()
  .required()
  .custom((value: string, helpers) =>
    readAmount(value) === null ? helpers.message({ custom: 'Write an amount like 50 or 12.50.' }) : value,
  )
  .messages({ 'string.empty': 'Write an amount like 50 or 12.50.' });

const balanceView = Joi.object({
  balance: Joi.string().required(),
  low: Joi.string().required(),
  isLow: Joi.boolean().required(),
  entries: Joi.array()
    .items(
      Joi.object<LedgerEntry, true>({
        id: Joi.number().integer().required(),
        at: Joi.string().required(),
        kind: Joi.string().valid('topUp', 'rent', 'call', 'text').required(),
        amount: Joi.string().required(),
        what: Joi.string().required(),
        numberId: Joi.string().allow(null).required(),
        callId: Joi.string().allow(null).required(),
        by: Joi.string().allow(null).required(),
      }),
    )
    .required(),
});

/** Points of a chart at once. */
const mostDays = 400;
const mostTopUp = 1_000_000n * 10_000n;

export function balanceRoutes({ database }: Services): Route[] {
  const view = async (before: number | null) => {
    const { now, isLow } = await balanceState(database);
    return {
      balance: now,
      low: writeAmount(await lowBalance(database)),
      isLow,
      entries: await ledger(database, before),
    };
  };
  return [
    route({
      method: 'GET',
      path: '/api/balance',
      area,
      summary: 'The prepaid balance and its movements, latest first',
      who: readers,
      query: Joi.object<{ before?: number }>({ before: Joi.number().integer() }),
      reply: balanceView,
      errors: [],
      handle: ({ query }) => view(query.before ?? null),
    }),
    route({
      method: 'GET',
      path: '/api/balance/days',
      area,
      summary: 'The balance at the end of each day of the company, what was paid in and what was spent',
      who: readers,
      query: Joi.object<{ from: string; to: string }>({ from: day.required(), to: day.required() }),
      reply: Joi.array().items(
        Joi.object<BalanceDay, true>({
          day: Joi.string().required(),
          balance: Joi.string().required(),
          paidIn: Joi.string().required(),
          spent: Joi.string().required(),
        }),
      ),
      errors: [],
      handle: async ({ query: { from, to } }) => {
        const zone = (await installation(database)).time_zone;
        const asked = daysOf(from, to, zone);
        if (asked.to.getTime() - asked.from.getTime() > mostDays * 86_400_000)
          throw Problem.field('from', `At most ${mostDays} days at once.`);
        return balanceDays(database, { ...asked, zone });
      },
    }),
    route({
      method: 'POST',
      path: '/api/balance/top-ups',
      area,
      summary: 'Pay in at the stand-in cashier',
      who: editors,
      perMinute: 30,
      body: Joi.object<{ amount: string }>({ amount }),
      reply: balanceView,
      errors: [],
      handle: async ({ body, caller }) => {
        const value = readAmount(body.amount)!;
        if (value <= 0n || value > mostTopUp)
          throw Problem.field('/amount', 'Pay in from 0.01 to 10,000.00 at once.');
        await addEntries(database, [
          { kind: 'topUp', amount: value, what: 'Paid in', byPerson: signedIn(caller).personId },
        ]);
        return view(null);
      },
    }),
    route({
      method: 'PUT',
      path: '/api/balance/low',
      area,
      summary: 'Below which balance a finding says so',
      who: editors,
      body: Joi.object<{ low: string }>({ low: amount }),
      reply: balanceView,
      errors: [],
      handle: async ({ body }) => {
        await database('installation').update({ low_balance: writeAmount(readAmount(body.low)!) });
        return view(null);
      },
    }),
  ];
}
