import Joi from 'joi';
import { codes } from '@night-bell/core/contracts/codes';
import { pin } from '@night-bell/core/model/fields.schema';
import { editors } from '@night-bell/core/model/roles';
import { itemRoutes } from '../../http/item-routes.ts';
import { idParams, nothing, route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { authorOf } from '../../spine/items.ts';
import { codeItem, setCodePin } from './store.ts';

export function codeRoutes(services: Services): Route[] {
  const { database } = services;
  return [
    ...itemRoutes(services, codeItem),
    route({
      method: 'POST',
      path: `${codes.path}/:id/pin`,
      area: codes.area,
      summary: 'Set the PIN that is asked for when the code is dialled. It is never shown',
      who: editors,
      perMinute: 30,
      params: idParams,
      body: Joi.object<{ pin: string }>({ pin: pin.required() }),
      reply: nothing.allow(null),
      errors: ['notFound'],
      handle: async ({ params, body, caller }) => {
        await codeItem.get(database, params.id);
        const author = authorOf(signedIn(caller).personId);
        await database.transaction((trx) => setCodePin(trx, params.id, body.pin, author));
        return null;
      },
    }),
  ];
}
