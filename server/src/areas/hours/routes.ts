import Joi from 'joi';
import { objectSchema } from '@night-bell/core/contracts/item';
import { openingHours, stormCall } from '@night-bell/core/contracts/opening-hours';
import { calendarAddress, calendarTaking, calendarView } from '@night-bell/core/contracts/calendars';
import { editors, operators, readers } from '@night-bell/core/model/roles';
import { authorOf } from '../../spine/items.ts';
import { itemRoutes } from '../../http/item-routes.ts';
import { Problem } from '../../http/problems.ts';
import { idParams, nothing, route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { callStorm, hoursItem } from './store.ts';

/** A storm that is never called off would close for good: a fortnight is the longest. */
const longestStormMs = 14 * 86_400_000;

export function hoursRoutes(services: Services): Route[] {
  const { database, calendars } = services;
  const calendarOf = `${openingHours.path}/:id/calendar`;
  const view = objectSchema(calendarView).allow(null);
  return [
    ...itemRoutes(services, hoursItem),
    route({
      method: 'GET',
      path: calendarOf,
      area: openingHours.area,
      summary:
        'The calendar a set of opening hours follows, and what it says that the set does not; null for none',
      who: readers,
      params: idParams,
      reply: view,
      errors: ['notFound'],
      handle: async ({ params }) => {
        await hoursItem.get(database, params.id);
        return calendars.of(params.id);
      },
    }),
    route({
      method: 'PUT',
      path: calendarOf,
      area: openingHours.area,
      summary:
        'Follow the calendar at a web address. It is read at once, and some times a day; nothing of it holds before it is taken',
      who: editors,
      perMinute: 20,
      params: idParams,
      body: objectSchema(calendarAddress),
      reply: view,
      errors: ['notFound'],
      handle: async ({ params, body, caller }) => {
        await calendars.follow(params.id, body.address.trim(), signedIn(caller).personId);
        return calendars.of(params.id);
      },
    }),
    route({
      method: 'POST',
      path: `${calendarOf}/read`,
      area: openingHours.area,
      summary: 'Read the followed calendar now',
      who: editors,
      perMinute: 20,
      params: idParams,
      reply: view,
      errors: ['notFound'],
      handle: async ({ params }) => {
        await calendars.readAgain(params.id);
        return calendars.of(params.id);
      },
    }),
    route({
      method: 'POST',
      path: `${calendarOf}/take`,
      area: openingHours.area,
      summary:
        'Take days of the followed calendar over, as they were shown; refused when they are other meanwhile',
      who: editors,
      params: idParams,
      body: objectSchema(calendarTaking),
      reply: view,
      errors: ['notFound', 'changedMeanwhile'],
      handle: async ({ params, body, caller }) => {
        const author = authorOf(signedIn(caller).personId);
        await database.transaction((trx) => calendars.take(trx, params.id, body.changes, author));
        return calendars.of(params.id);
      },
    }),
    route({
      method: 'DELETE',
      path: calendarOf,
      area: openingHours.area,
      summary: 'Follow no calendar any more. Days that were taken stay',
      who: editors,
      params: idParams,
      reply: nothing.allow(null),
      errors: [],
      handle: async ({ params }) => {
        await calendars.leave(params.id);
        return null;
      },
    }),
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
