import Joi from 'joi';
import { editors, readers } from '@night-bell/core/model/roles';
import { answerPage, pageQuery } from '../../http/paging.ts';
import { Problem } from '../../http/problems.ts';
import { idParams, nothing, route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { authorOf } from '../../spine/items.ts';
import { type ChangesQuery, changesNarrowing, type ChangeView, pageOfChanges } from './changes.queries.ts';
import { takeBack } from './take-back.ts';

const changeView = Joi.object<ChangeView, true>({
  id: Joi.number().integer().required(),
  what: Joi.string().required(),
  by: Joi.string().allow(null).required(),
  byId: Joi.string().allow(null).required(),
  at: Joi.string().required(),
  itemId: Joi.string().required(),
  itemKind: Joi.string().required(),
  itemName: Joi.string().required(),
  fields: Joi.array()
    .items(Joi.object({ field: Joi.string().required(), before: Joi.any(), after: Joi.any() }))
    .required(),
  about: Joi.string().allow(null).required(),
  takesBack: Joi.number().integer().allow(null).required(),
  canBeTakenBack: Joi.boolean().required(),
});

export function historyRoutes({ database }: Services): Route[] {
  return [
    route({
      method: 'GET',
      path: '/api/items/:id/history',
      area: 'History',
      summary: 'Who changed what about an item, newest first',
      who: readers,
      params: idParams,
      reply: Joi.array().items(changeView),
      errors: [],
      handle: async ({ params }) =>
        (await pageOfChanges(database, { itemId: params.id, limit: 100, total: false })).rows,
    }),
    route({
      method: 'GET',
      path: '/api/changes',
      area: 'History',
      summary: 'Who changed what, of all items, newest first, a stretch at a time',
      who: readers,
      query: Joi.object<ChangesQuery>({ ...pageQuery, ...changesNarrowing }),
      pages: true,
      reply: Joi.array().items(changeView),
      errors: [],
      handle: async ({ query, http, reply }) => answerPage(http, reply, await pageOfChanges(database, query)),
    }),
    route({
      method: 'POST',
      path: '/api/changes/:id/take-back',
      area: 'History',
      summary: 'Put the fields of one change back to what they were',
      who: editors,
      params: Joi.object<{ id: number }>({ id: Joi.number().integer().required() }),
      reply: nothing.allow(null),
      errors: ['notFound', 'notNow', 'taken'],
      handle: async ({ params, caller }) => {
        await database.transaction((trx) => takeBack(trx, params.id, authorOf(signedIn(caller).personId)));
        return null;
      },
    }),
    route({
      method: 'POST',
      path: '/api/batches/:id/take-back',
      area: 'History',
      summary: 'Put everything back that was changed in one go, or nothing of it',
      who: editors,
      params: idParams,
      reply: nothing.allow(null),
      errors: ['notFound', 'notNow', 'taken'],
      handle: async ({ params, caller }) => {
        const author = authorOf(signedIn(caller).personId);
        await database.transaction(async (trx) => {
          // Latest first: a later change of the same item stands on the earlier one.
          const ids = await trx('change')
            .where({ batch: params.id, what: 'changed' })
            .orderBy('id', 'desc')
            .pluck<number[]>('id');
          if (ids.length === 0) throw new Problem('notFound', 'Nothing was changed in that go.');
          for (const id of ids) await takeBack(trx, id, author);
        });
        return null;
      },
    }),
  ];
}
