import Joi from 'joi';
import { objectSchema } from '@night-bell/core/contracts/item';
import {
  planRights,
  plans,
  planScheduling,
  planVersion,
  rulesAsked,
  rulesCaught,
} from '@night-bell/core/contracts/plans';
import { editors, readers } from '@night-bell/core/model/roles';
import { itemRoutes } from '../../http/item-routes.ts';
import { publishRoute } from '../../http/publish-route.ts';
import { idParams, route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { authorOf } from '../../spine/items.ts';
import { editing, publishing, setRights } from './rights.ts';
import { caughtByRules } from './past-rules.ts';
import { lookThen, schedule, unschedule } from './schedule.ts';
import { planItem, planVersions, publishPlan } from './store.ts';

export function planRoutes(services: Services): Route[] {
  const { database, queue } = services;
  return [
    ...itemRoutes(services, planItem, { changing: editing }),
    publishRoute(services, plans, planItem.get, publishPlan, publishing),
    route({
      method: 'POST',
      path: `${plans.path}/:id/rights`,
      area: plans.area,
      summary: 'Say which supervisors may work at a plan, and whether they may publish it',
      who: editors,
      params: idParams,
      body: objectSchema(planRights),
      reply: objectSchema(plans.view),
      errors: ['notFound'],
      handle: async ({ params, body, caller }) => {
        const author = authorOf(signedIn(caller).personId);
        await database.transaction((trx) => setRights(trx, params.id, body, author));
        return planItem.get(database, params.id);
      },
    }),
    route({
      method: 'POST',
      path: `${plans.path}/:id/schedule`,
      area: plans.area,
      summary: 'Publish the draft as it is now at an instant, and go back to what is met now at another',
      who: publishing.who,
      params: idParams,
      body: objectSchema(planScheduling),
      reply: objectSchema(plans.view),
      errors: ['notFound', 'notNow'],
      handle: async ({ params, body, caller }) => {
        const me = signedIn(caller);
        await publishing.check(database, me, params.id);
        await database.transaction((trx) => schedule(trx, params.id, body, authorOf(me.personId)));
        await lookThen(queue, [body.publishAt, body.backAt]);
        return planItem.get(database, params.id);
      },
    }),
    route({
      method: 'POST',
      path: `${plans.path}/:id/unschedule`,
      area: plans.area,
      summary: 'Leave a plan as it is: nothing is published by itself, and nothing goes back',
      who: publishing.who,
      params: idParams,
      reply: objectSchema(plans.view),
      errors: ['notFound'],
      handle: async ({ params, caller }) => {
        const me = signedIn(caller);
        await publishing.check(database, me, params.id);
        await database.transaction((trx) => unschedule(trx, params.id, authorOf(me.personId)));
        return planItem.get(database, params.id);
      },
    }),
    route({
      method: 'POST',
      path: `${plans.path}/rules/caught`,
      example: { rules: [], planId: null },
      area: plans.area,
      summary: 'How many callers of the last month each of these rules would have taken',
      who: readers,
      perMinute: 60,
      body: objectSchema(rulesAsked),
      reply: objectSchema(rulesCaught),
      errors: [],
      handle: async ({ body: { rules, planId } }) => {
        const plan = planId === null ? undefined : (await planItem.list(database, [planId]))[0];
        const numberIds = plan?.numbers.map(({ id }) => id) ?? [];
        return caughtByRules(database, rules, numberIds);
      },
    }),
    route({
      method: 'GET',
      path: `${plans.path}/:id/versions`,
      area: plans.area,
      summary: 'What callers met, newest first',
      who: readers,
      params: idParams,
      reply: Joi.array().items(objectSchema(planVersion).optional()),
      errors: [],
      handle: ({ params }) => planVersions(database, params.id),
    }),
  ];
}
