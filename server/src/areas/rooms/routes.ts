import { itemRoutes } from '../../http/item-routes.ts';
import type { Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { roomItem, setPin } from './store.ts';

export const roomRoutes = (services: Services): Route[] =>
  itemRoutes(services, roomItem, {
    written: async (trx, id, { pin }) => {
      if (pin !== undefined) await setPin(trx, id, pin);
    },
  });
