import { itemRoutes } from '../../http/item-routes.ts';
import type { Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { skillItem } from './store.ts';

export const skillRoutes = (services: Services): Route[] => itemRoutes(services, skillItem);
