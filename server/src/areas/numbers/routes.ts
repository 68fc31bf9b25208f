import Joi from 'joi';
import type { Destination } from '@night-bell/core/model/destination';
import { destinationOrNull } from '@night-bell/core/model/fields.schema';
import { numberDraft, type TextReader, textsTo } from '@night-bell/core/model/numbers.schema';
import { editors, readers } from '@night-bell/core/model/roles';
import { destinationViewOrNull } from '../../http/destination-view.ts';
import { usedByView } from '../../http/used-by-view.ts';
import { idParams, nothing, route, type Route, signedIn } from '../../http/route.ts';
import { Problem } from '../../http/problems.ts';
import type { Services } from '../../services.ts';
import { authorOf, usedBy } from '../../spine/items.ts';
import type { Shop } from '../number-shop/shop.ts';
import { bringNumbers, type CheckedNumber } from './list.ts';
import {
  changeNumber,
  createNumber,
  getNumber,
  giveUpNumber,
  numberSnapshot,
  type NumberView,
} from './store.ts';
import { numbersNarrowing, type NumbersQuery, pageOfNumbers } from './numbers.queries.ts';
import { answerPage, pageQuery } from '../../http/paging.ts';

const area = 'Numbers';

interface NumberBulk {
  destination?: Destination | null;
  sourceId?: string | null;
  textsTo?: TextReader | null;
  dialTeams?: string[];
}

const numberView = Joi.object<NumberView, true>({
  id: Joi.string().required(),
  version: Joi.number().integer().required(),
  e164: Joi.string().required(),
  label: Joi.string().required(),
  destination: destinationViewOrNull.required(),
  destinationName: Joi.string().allow(null).required(),
  sourceId: Joi.string().allow(null).required(),
  mostCalls: Joi.number().integer().allow(null).required(),
  priority: Joi.number().integer().required(),
  sourceName: Joi.string().allow(null).required(),
  dialTeams: Joi.array().items(Joi.string()).required(),
  textsTo: Joi.object({ kind: Joi.string().valid('person', 'queue').required(), id: Joi.string().required() })
    .allow(null)
    .required(),
  textsName: Joi.string().allow(null).required(),
  rentedAt: Joi.string().allow(null).required(),
  paidUntil: Joi.string().allow(null).required(),
  monthly: Joi.string().allow(null).required(),
  canText: Joi.boolean().required(),
  reports: Joi.array()
    .items(Joi.object({ by: Joi.string().required(), on: Joi.string().required() }))
    .required(),
  callsToday: Joi.number().integer().required(),
});

const numbersQuery = Joi.object<NumbersQuery>({ ...pageQuery, ...numbersNarrowing });

export function numberRoutes({ database }: Services, shop: Shop | null): Route[] {
  return [
    route({
      method: 'GET',
      path: '/api/numbers',
      area,
      summary: 'Numbers held that fit, and where they lead, a stretch at a time',
      who: readers,
      query: numbersQuery,
      pages: true,
      reply: Joi.array().items(numberView),
      errors: [],
      handle: async ({ query, http, reply }) => answerPage(http, reply, await pageOfNumbers(database, query)),
    }),
    route({
      method: 'POST',
      path: '/api/numbers',
      example: { e164: '+12065550140', label: 'Main line', destination: { kind: 'end' } },
      area,
      summary: 'Enter a number, routed or not',
      who: editors,
      body: numberDraft,
      reply: numberView,
      errors: ['taken'],
      handle: async ({ body, caller }) => {
        const id = await database.transaction((trx) =>
          createNumber(trx, body, authorOf(signedIn(caller).personId)),
        );
        return getNumber(database, id);
      },
    }),
    route({
      method: 'GET',
      path: '/api/numbers/:id',
      area,
      summary: 'One number, and what uses it',
      who: readers,
      params: idParams,
      reply: Joi.object({ number: numberView.required(), usedBy: usedByView.required() }),
      errors: ['notFound'],
      handle: async ({ params }) => ({
        number: await getNumber(database, params.id),
        usedBy: await usedBy(database, params.id),
      }),
    }),
    route({
      method: 'PUT',
      path: '/api/numbers/:id',
      area,
      summary: 'Change the label of a number, or where it leads',
      who: editors,
      params: idParams,
      body: numberDraft,
      ifMatch: true,
      reply: numberView,
      errors: ['notFound', 'taken', 'changedMeanwhile', 'versionNeeded'],
      handle: async ({ params, body, version, caller }) => {
        await database.transaction((trx) =>
          changeNumber(trx, params.id, version, body, authorOf(signedIn(caller).personId)),
        );
        return getNumber(database, params.id);
      },
    }),
    route({
      method: 'POST',
      path: '/api/numbers/:id/give-up',
      area,
      summary: 'Give a number up; its calls stay on record',
      who: editors,
      params: idParams,
      ifMatch: true,
      reply: nothing.allow(null),
      errors: ['notFound', 'inUse', 'notNow', 'changedMeanwhile', 'versionNeeded'],
      handle: async ({ params, version, caller }) => {
        const author = authorOf(signedIn(caller).personId);
        await database.transaction(async (trx) => {
          const number = await giveUpNumber(trx, params.id, version, author);
          if (number.rentedAt === null) return;
          if (shop === null)
            throw new Problem('notNow', 'The number shop is not connected. Nothing was given up.');
          await shop.giveBack([number.e164]);
        });
        return null;
      },
    }),
    route({
      method: 'POST',
      path: '/api/numbers/bulk',
      area,
      summary: 'Send several numbers to one destination, or give them one source: all of them or none',
      who: editors,
      body: Joi.object<{ ids: string[]; change: NumberBulk }>({
        ids: Joi.array()
          .items(Joi.string().guid())
          .min(1)
          .max(2_000)
          .unique()
          .required()
          .messages({ 'array.min': 'Choose a number first.' }),
        change: Joi.object<NumberBulk>({
          destination: destinationOrNull,
          sourceId: Joi.string().guid().allow(null),
          textsTo,
          dialTeams: Joi.array().items(Joi.string().guid()).unique(),
        })
          .min(1)
          .required()
          .messages({ 'object.min': 'Say what is to change.' }),
      }),
      reply: Joi.object({ batch: Joi.string().required() }),
      errors: ['notFound', 'taken'],
      handle: async ({ body, caller }) => {
        const author = authorOf(signedIn(caller).personId);
        await database.transaction(async (trx) => {
          for (const id of body.ids) {
            const number = await getNumber(trx, id);
            await changeNumber(
              trx,
              id,
              number.version,
              { ...numberSnapshot(number), ...body.change },
              author,
            );
          }
        });
        return { batch: author.batch };
      },
    }),
    route({
      method: 'POST',
      path: '/api/numbers/list',
      area,
      summary:
        'Bring numbers held elsewhere, as CSV: number, label, destination, source, texts; all of them or none',
      who: editors,
      bodyLimit: 4 * 1024 * 1024,
      perMinute: 30,
      body: Joi.object<{ text: string; dryRun: boolean }>({
        text: Joi.string().required().messages({ 'string.empty': 'There is nothing to read.' }),
        dryRun: Joi.boolean().default(false),
      }),
      reply: Joi.object({
        rows: Joi.array()
          .items(
            Joi.object<CheckedNumber, true>({
              number: Joi.string().allow('').required(),
              label: Joi.string().allow('').required(),
              destination: Joi.string().allow('').required(),
              source: Joi.string().allow('').required(),
              texts: Joi.string().allow('').required(),
              atOnce: Joi.string().allow('').required(),
              faults: Joi.object().pattern(Joi.string(), Joi.string()).required(),
            }),
          )
          .required(),
        made: Joi.number().integer().required(),
      }),
      errors: ['taken'],
      handle: ({ body, caller }) =>
        database.transaction((trx) =>
          bringNumbers(trx, body.text, body.dryRun, authorOf(signedIn(caller).personId)),
        ),
    }),
  ];
}
