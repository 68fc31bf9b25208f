import Joi from 'joi';
import { readAmount, writeAmount } from '@night-bell/core/model/amount';
import { editors, readers } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
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
