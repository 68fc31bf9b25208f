import Joi from 'joi';
import { day } from '@night-bell/core/model/fields.schema';
import { DateTime } from 'luxon';
import { amountOf, centsOf } from '@night-bell/core/model/money';
import { readers } from '@night-bell/core/model/roles';
import { sources } from '@night-bell/core/contracts/sources';
import { costBetween, daysFromCivil } from '@night-bell/core/sources/cost';
import { itemRoutes } from '../../http/item-routes.ts';
import { Problem } from '../../http/problems.ts';
import { idParams, route, type Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { daysOf } from '../../spine/days.ts';
import { installation } from '../session/store.ts';
import { countBySource, trendOfSource, type TrendStep } from './report.queries.ts';
import { sourceItem } from './store.ts';

const { area } = sources;
/** Points of a trend at once. */
const mostSteps = 400;

const count = Joi.number().integer().required();
export function sourceRoutes(services: Services): Route[] {
  const { database } = services;
  return [
    route({
      method: 'GET',
      path: '/api/source-report',
      area,
      summary:
        'Calls, answered, lost, first-time callers, good calls and cost of each source, from day to day',
      who: readers,
      query: Joi.object<{ from: string; to: string }>({ from: day.required(), to: day.required() }),
      reply: Joi.object({
        goodCallSeconds: count,
        rows: Joi.array()
          .items(
            Joi.object({
              sourceId: Joi.string().allow(null).required(),
              calls: count,
              answered: count,
              lost: count,
              firstTime: count,
              good: count,
              cost: Joi.string().allow(null).required(),
              costPerGood: Joi.string().allow(null).required(),
            }),
          )
          .required(),
      }),
      errors: [],
      handle: async ({ query }) => {
        const here = await installation(database);
        const { from, to } = daysOf(query.from, query.to, here.time_zone);
        const counted = await countBySource(database, from, to);
        const none = { calls: 0, answered: 0, lost: 0, firstTime: 0, good: 0 };
        const rows = (await sourceItem.list(database))
          .filter((source) => !source.retired || counted.some((each) => each.sourceId === source.id))
          .map((source) => {
            const counts = counted.find((each) => each.sourceId === source.id) ?? none;
            const cents = costBetween(
              { cents: centsOf(source.cost), per: source.costPer, fromDay: dayNumber(source.fromDay) },
              dayNumber(query.from),
              dayNumber(query.to) + 1,
            );
            return {
              ...counts,
              sourceId: source.id,
              cost: amountOf(cents),
              costPerGood: counts.good === 0 ? null : amountOf(Math.round(cents / counts.good)),
            };
          });
        const others = counted.find((each) => each.sourceId === null);
        return {
          goodCallSeconds: here.good_call_seconds,
          rows: others === undefined ? rows : [...rows, { ...others, cost: null, costPerGood: null }],
        };
      },
    }),
    route({
      method: 'GET',
      path: '/api/sources/:id/trend',
      area,
      summary: 'Calls, answered, good and cost per good call of a source, by days or weeks of the company',
      who: readers,
      params: idParams,
      query: Joi.object<{ from: string; to: string; by: TrendStep }>({
        from: day.required(),
        to: day.required(),
        by: Joi.string().valid('day', 'week').default('day'),
      }),
      reply: Joi.array().items(
        Joi.object({
          day: Joi.string().required(),
          calls: count,
          answered: count,
          good: count,
          cost: Joi.string().required(),
          costPerGood: Joi.string().allow(null).required(),
        }),
      ),
      errors: ['notFound'],
      handle: async ({ params, query }) => {
        const source = await sourceItem.get(database, params.id);
        const zone = (await installation(database)).time_zone;
        const from = DateTime.fromISO(query.from, { zone }).startOf(query.by);
        const to = DateTime.fromISO(query.to, { zone }).startOf('day').plus({ days: 1 });
        if (to.diff(from, query.by).as(query.by) > mostSteps)
          throw Problem.field('from', `At most ${mostSteps} ${query.by}s at once. Choose fewer, or weeks.`);
        const counts = new Map(
          (
            await trendOfSource(database, {
              ...{ sourceId: params.id, from: from.toJSDate(), to: to.toJSDate(), by: query.by, zone },
            })
          ).map((each) => [each.day, each]),
        );
        const steps = [];
        for (let at = from; at < to; at = at.plus({ [query.by]: 1 })) {
          const named = at.toISODate()!;
          const { calls, answered, good } = counts.get(named) ?? { calls: 0, answered: 0, good: 0 };
          const end = DateTime.min(at.plus({ [query.by]: 1 }), to);
          const cents = costBetween(
            { cents: centsOf(source.cost), per: source.costPer, fromDay: dayNumber(source.fromDay) },
            dayNumber(named),
            dayNumber(end.toISODate()!),
          );
          const costPerGood = good === 0 ? null : amountOf(Math.round(cents / good));
          steps.push({ day: named, calls, answered, good, cost: amountOf(cents), costPerGood });
        }
        return steps;
      },
    }),
    ...itemRoutes(services, sourceItem),
  ];
}

function dayNumber(text: string): number {
  const [year = 0, month = 1, date = 1] = text.split('-').map(Number);
  return daysFromCivil(year, month, date);
}
