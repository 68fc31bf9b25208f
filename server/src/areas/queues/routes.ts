import { objectSchema } from '@night-bell/core/contracts/item';
import { queueFitPath, queueHoursPath, queueMeasuredPath } from '@night-bell/core/model/api-paths';
import { queueFit, queueFitAsked, queues } from '@night-bell/core/contracts/queues';
import { hourAsked, hoursPlayed, queueMeasured } from '@night-bell/core/contracts/queue-hours';
import { readers } from '@night-bell/core/model/roles';
import { itemRoutes } from '../../http/item-routes.ts';
import { idParams, route, type Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { whoFits } from './fit.ts';
import { playHours } from './hours.ts';
import { measuredOf } from './measured.ts';
import { getQueue, queueItem } from './store.ts';

export const queueRoutes = (services: Services): Route[] => [
  ...itemRoutes(services, queueItem),
  route({
    method: 'POST',
    path: queueFitPath,
    example: { members: [] },
    area: queues.area,
    summary: 'How many of these members may be rung as a caller waits on, by the skills asked for',
    who: readers,
    body: objectSchema(queueFitAsked),
    reply: objectSchema(queueFit),
    errors: [],
    handle: ({ body }) => whoFits(services.database, services.live, body),
  }),
  route({
    method: 'GET',
    path: queueMeasuredPath,
    area: queues.area,
    summary: 'The busiest hour of a queue over the last four weeks, and how many people would take its calls',
    who: readers,
    params: idParams,
    reply: objectSchema(queueMeasured),
    errors: ['notFound'],
    handle: async ({ params }) => {
      await getQueue(services.database, params.id);
      return measuredOf(services.database, services.live, params.id);
    },
  }),
  route({
    method: 'POST',
    path: queueHoursPath,
    example: {
      ...{ distribution: 'longestIdle', calls: 120, talkSeconds: 200, patienceSeconds: 240 },
      ...{ people: 'all', seeds: [1, 2, 3] },
    },
    area: queues.area,
    summary:
      'Play a made-up hour of a queue once for each seed, ringing in one way; the same seed has the same callers',
    who: readers,
    perMinute: 120,
    params: idParams,
    body: objectSchema(hourAsked),
    reply: objectSchema(hoursPlayed),
    errors: ['notFound', 'notNow', 'exchangeAway'],
    handle: async ({ params, body }) => {
      const { goalSeconds } = await getQueue(services.database, params.id);
      return playHours(services, params.id, body, goalSeconds);
    },
  }),
];
