import { itemRoutes } from '../../http/item-routes.ts';
import type { Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { queueItem } from './store.ts';

export const queueRoutes = (services: Services): Route[] => itemRoutes(services, queueItem);
