import Joi from 'joi';
import { type RoomRequest, roomRequest } from '@night-bell/core/model/places.schema';
import { itemRoutes } from '../../http/item-routes.ts';
import type { Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { roomStore, type RoomView, setPin } from './store.ts';

const roomView = Joi.object<RoomView, true>({
  id: Joi.string().required(),
  version: Joi.number().integer().required(),
  retired: Joi.boolean().required(),
  name: Joi.string().required(),
  extension: Joi.string().allow(null).required(),
  joinTone: Joi.boolean().required(),
  hasPin: Joi.boolean().required(),
});

export function roomRoutes(services: Services): Route[] {
  return itemRoutes(services, {
    area: 'Conference rooms',
    path: '/api/rooms',
    one: 'a conference room',
    many: 'conference rooms',
    draft: roomRequest,
    view: roomView,
    // A request may bring a PIN: it is kept apart from what history keeps.
    store: {
      ...roomStore,
      create: async (...[trx, draft, author]: Parameters<typeof roomStore.create>) => {
        const id = await roomStore.create(trx, draft, author);
        const { pin } = draft as RoomRequest;
        if (pin !== undefined) await setPin(trx, id, pin);
        return id;
      },
      change: async (
        ...[trx, id, version, draft, author, takesBack]: Parameters<typeof roomStore.change>
      ) => {
        await roomStore.change(trx, id, version, draft, author, takesBack);
        const { pin } = draft as RoomRequest;
        if (pin !== undefined) await setPin(trx, id, pin);
      },
    } as never,
  });
}
