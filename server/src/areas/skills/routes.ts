import Joi from 'joi';
import { skillDraft } from '@night-bell/core/model/skills.schema';
import { itemRoutes } from '../../http/item-routes.ts';
import type { Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { skillStore, type SkillView } from './store.ts';

const skillView = Joi.object<SkillView, true>({
  id: Joi.string().required(),
  version: Joi.number().integer().required(),
  retired: Joi.boolean().required(),
  name: Joi.string().required(),
  people: Joi.number().integer().required(),
});

export function skillRoutes(services: Services): Route[] {
  return itemRoutes(services, {
    area: 'Skills',
    path: '/api/skills',
    one: 'a skill',
    many: 'skills',
    draft: skillDraft,
    view: skillView,
    store: skillStore,
  });
}
