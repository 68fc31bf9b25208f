import Joi from 'joi';
import { scriptKeys } from '@night-bell/core/contracts/script-keys';
import { editors } from '@night-bell/core/model/roles';
import { itemRoutes } from '../../http/item-routes.ts';
import { idParams, route, type Route, signedIn } from '../../http/route.ts';
import { closedToScripts } from '../../security/script-callers.ts';
import type { Services } from '../../services.ts';
import { authorOf } from '../../spine/items.ts';
import { makeSecret, scriptKeyItem } from './store.ts';

/** `all` is every declared route: keys are kept to their headings. */
export function scriptKeyRoutes(services: Services, all: () => Route[]): Route[] {
  const { database, seal } = services;
  return [
    route({
      method: 'GET',
      path: `${scriptKeys.path}/areas`,
      area: scriptKeys.area,
      summary: 'Headings of the API document that a key can be kept to',
      who: editors,
      reply: Joi.array().items(Joi.string()),
      errors: [],
      handle: () =>
        Promise.resolve(
          [...new Set(all().map(({ area }) => area))].filter((area) => !closedToScripts.has(area)).sort(),
        ),
    }),
    ...itemRoutes(services, scriptKeyItem),
    route({
      method: 'POST',
      path: `${scriptKeys.path}/:id/secret`,
      area: scriptKeys.area,
      summary: 'Make the secret of a key, given this once; the one before ends',
      who: editors,
      perMinute: 30,
      params: idParams,
      reply: Joi.object({ secret: Joi.string().required() }),
      errors: ['notFound'],
      handle: async ({ params, caller }) => {
        const author = authorOf(signedIn(caller).personId);
        const secret = await database.transaction((trx) => makeSecret(trx, seal, params.id, author));
        return { secret };
      },
    }),
  ];
}
