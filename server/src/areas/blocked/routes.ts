import Joi from 'joi';
import { blocked } from '@night-bell/core/contracts/blocked';
import { objectSchema } from '@night-bell/core/contracts/item';
import { operators } from '@night-bell/core/model/roles';
import { formatNumber } from '@night-bell/core/numbers/format';
import { Problem } from '../../http/problems.ts';
import { itemRoutes } from '../../http/item-routes.ts';
import { idParams, route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { authorOf } from '../../spine/items.ts';
import { blockedItem } from './store.ts';

const dayMs = 86_400_000;
const fromCallDays = 90;

export function blockedRoutes(services: Services): Route[] {
  const { database } = services;
  const view = objectSchema(blocked.view);
  return [
    ...itemRoutes(services, blockedItem),
    route({
      method: 'POST',
      path: '/api/calls/:id/block',
      area: blocked.area,
      summary: `Turn the caller of this call away for ${fromCallDays} days`,
      who: operators,
      params: idParams,
      body: Joi.object<{ why: string }>({ why: Joi.string().trim().allow('').max(300).default('') }),
      reply: view,
      errors: ['notFound', 'taken', 'notNow'],
      handle: async ({ params, body, caller }) => {
        const call = await database('call')
          .where({ id: params.id })
          .first<{ caller: string; caller_name: string | null; direction: string } | undefined>();
        if (call === undefined)
          throw new Problem('notFound', 'There is no such call, or it is not over yet.');
        if (call.direction !== 'inbound') throw new Problem('notNow', 'We made this call ourselves.');
        const withheld = !/^\+\d/.test(call.caller);
        const draft = {
          name: withheld ? 'Withheld numbers' : formatNumber(call.caller),
          ...(withheld
            ? ({ kind: 'withheld', digits: '' } as const)
            : ({ kind: 'number', digits: call.caller } as const)),
          ...{ until: Date.now() + fromCallDays * dayMs, why: body.why },
        };
        const author = authorOf(signedIn(caller).personId);
        const id = await database.transaction((trx) => blockedItem.create(trx, draft, author));
        return blockedItem.get(database, id);
      },
    }),
  ];
}
