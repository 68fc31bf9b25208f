import Joi from 'joi';
import { trunkDraft } from '@night-bell/core/model/trunks.schema';
import { itemRoutes } from '../../http/item-routes.ts';
import type { Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { trunkStore, type TrunkView } from './store.ts';

const trunkView = Joi.object<TrunkView, true>({
  id: Joi.string().required(),
  version: Joi.number().integer().required(),
  retired: Joi.boolean().required(),
  name: Joi.string().required(),
  host: Joi.string().required(),
  account: Joi.string().required(),
  channels: Joi.number().integer().required(),
});

export function trunkRoutes(services: Services): Route[] {
  return itemRoutes(services, {
    area: 'Trunks',
    path: '/api/trunks',
    one: 'a trunk',
    many: 'trunks',
    draft: trunkDraft,
    view: trunkView,
    store: trunkStore,
  });
}
