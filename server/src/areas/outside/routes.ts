import { itemRoutes } from '../../http/item-routes.ts';
import type { Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { outsideItem } from './store.ts';

export const outsideRoutes = (services: Services): Route[] => itemRoutes(services, outsideItem);
