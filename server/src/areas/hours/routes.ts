import Joi from 'joi';
import { objectSchema } from '@night-bell/core/contracts/item';
import { openingHours, stormCall } from '@night-bell/core/contracts/opening-hours';
import { operators } from '@night-bell/core/model/roles';
import { itemRoutes } from '../../http/item-routes.ts';
import { Problem } from '../../http/problems.ts';
import { route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { callStorm, hoursItem } from './store.ts';

/** A storm that is never called off would close for good: a fortnight is the longest. */
const longestStormMs = 14 * 86_400_000;

export function hoursRoutes(services: Services): Route[] {
  const { database } = services;
  return [
    ...itemRoutes(services, hoursItem),
    route({
      method: 'POST',
      path: '/api/storm',
      area: openingHours.area,
      summary: 'Close sets of opening hours until an instant, whatever they say; or open them again',
      who: operators,
      body: objectSchema(stormCall),
      reply: Joi.array().items(objectSchema(openingHours.view).optional()),
      errors: ['notFound'],
      handle: async ({ body: { ids, until }, caller }) => {
        const now = Date.now();
        if (until !== null && until <= now) throw Problem.field('/until', 'A storm ends later than now.');
        if (until !== null && until > now + longestStormMs)
          throw Problem.field('/until', 'A storm ends within a fortnight. Close longer by an unusual day.');
        const { personId } = signedIn(caller);
        await database.transaction(async (trx) => {
          const known = await trx('opening_hours').whereIn('id', ids).pluck<string[]>('id');
          if (known.length < new Set(ids).size)
            throw new Problem('notFound', 'One of these sets does not exist any more. Look again.');
          await callStorm(trx, known, until, personId);
        });
        return (await hoursItem.list(database)).filter(({ id }) => ids.includes(id));
      },
    }),
  ];
}
