import { objectSchema } from '@night-bell/core/contracts/item';
import { queueFit, queueFitAsked, queueFitPath, queues } from '@night-bell/core/contracts/queues';
import { readers } from '@night-bell/core/model/roles';
import { itemRoutes } from '../../http/item-routes.ts';
import { route, type Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { whoFits } from './fit.ts';
import { queueItem } from './store.ts';

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
];
