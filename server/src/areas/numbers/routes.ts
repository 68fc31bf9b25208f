import Joi from 'joi';
import { numberDraft } from '@night-bell/core/model/numbers.schema';
import { editors, readers } from '@night-bell/core/model/roles';
import { destinationViewOrNull } from '../../http/destination-view.ts';
import { usedByView } from '../../http/used-by-view.ts';
import { idParams, nothing, route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { authorOf, usedBy } from '../../spine/items.ts';
import {
  changeNumber,
  createNumber,
  getNumber,
  giveUpNumber,
  listNumbers,
  type NumberView,
} from './store.ts';

const area = 'Numbers';

const numberView = Joi.object<NumberView, true>({
  id: Joi.string().required(),
  version: Joi.number().integer().required(),
  e164: Joi.string().required(),
  label: Joi.string().required(),
  destination: destinationViewOrNull.required(),
  destinationName: Joi.string().allow(null).required(),
  sourceId: Joi.string().allow(null).required(),
  sourceName: Joi.string().allow(null).required(),
});

export function numberRoutes({ database }: Services): Route[] {
  return [
    route({
      method: 'GET',
      path: '/api/numbers',
      area,
      summary: 'All numbers held, and where they lead',
      who: readers,
      reply: Joi.array().items(numberView),
      errors: [],
      handle: () => listNumbers(database),
    }),
    route({
      method: 'POST',
      path: '/api/numbers',
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
      errors: ['notFound', 'changedMeanwhile', 'versionNeeded'],
      handle: async ({ params, version, caller }) => {
        await database.transaction((trx) =>
          giveUpNumber(trx, params.id, version, authorOf(signedIn(caller).personId)),
        );
        return null;
      },
    }),
  ];
}
