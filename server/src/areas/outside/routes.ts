import Joi from 'joi';
import { outsideDraft } from '@night-bell/core/model/outside.schema';
import { itemRoutes } from '../../http/item-routes.ts';
import type { Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { outsideStore, type OutsideView } from './store.ts';

const outsideView = Joi.object<OutsideView, true>({
  id: Joi.string().required(),
  version: Joi.number().integer().required(),
  retired: Joi.boolean().required(),
  name: Joi.string().required(),
  extension: Joi.string().allow(null).required(),
  e164: Joi.string().required(),
  trunkId: Joi.string().allow(null).required(),
  ringSeconds: Joi.number().integer().required(),
});

export function outsideRoutes(services: Services): Route[] {
  return itemRoutes(services, {
    area: 'Outside numbers',
    path: '/api/outside-numbers',
    one: 'an outside number',
    many: 'outside numbers',
    draft: outsideDraft,
    view: outsideView,
    store: outsideStore,
  });
}
