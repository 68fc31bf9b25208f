import Joi from 'joi';
import { objectSchema } from '@night-bell/core/contracts/item';
import { plans, planVersion } from '@night-bell/core/contracts/plans';
import { readers } from '@night-bell/core/model/roles';
import { itemRoutes } from '../../http/item-routes.ts';
import { publishRoute } from '../../http/publish-route.ts';
import { idParams, route, type Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { planItem, planVersions, publishPlan } from './store.ts';

export function planRoutes(services: Services): Route[] {
  const { database } = services;
  return [
    ...itemRoutes(services, {
      ...plans,
      draft: objectSchema(plans.draft),
      view: objectSchema(plans.view),
      store: planItem,
    }),
    publishRoute(services, plans, planItem.get, publishPlan),
    route({
      method: 'GET',
      path: `${plans.path}/:id/versions`,
      area: plans.area,
      summary: 'What callers met, newest first',
      who: readers,
      params: idParams,
      reply: Joi.array().items(objectSchema(planVersion)),
      errors: [],
      handle: ({ params }) => planVersions(database, params.id),
    }),
  ];
}
