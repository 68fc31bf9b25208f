import Joi from 'joi';
import type { HidingPair } from '@night-bell/core/plan/check';
import { readers } from '@night-bell/core/model/roles';
import { someIds } from '../../http/paging.ts';
import { route, type Route } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { hidingExtensions } from '../../spine/extensions.ts';
import { type DirectoryEntry, type DirectoryQuery, lookUp, namedKinds } from './directory.ts';

export function directoryRoutes({ database }: Services): Route[] {
  return [
    route({
      method: 'GET',
      path: '/api/directory',
      area: 'Directory',
      summary: 'What things are called: by id, by digits, or those in use that a search finds',
      who: readers,
      query: Joi.object<DirectoryQuery>({
        ids: someIds,
        digits: Joi.array()
          .items(Joi.string().pattern(/^\+?\d{2,15}$/))
          .single()
          .max(200),
        search: Joi.string().allow('').max(80),
        kinds: Joi.array()
          .items(Joi.string().valid(...namedKinds))
          .single()
          .default(namedKinds),
        limit: Joi.number().integer().min(1).max(100).default(20),
      }),
      reply: Joi.array().items(
        Joi.object<DirectoryEntry, true>({
          id: Joi.string().required(),
          kind: Joi.string().required(),
          name: Joi.string().required(),
          extension: Joi.string().allow(null).required(),
          second: Joi.string().allow(null).required(),
          retired: Joi.boolean().required(),
        }),
      ),
      errors: [],
      handle: ({ query }) => lookUp(database, query),
    }),
    route({
      method: 'GET',
      path: '/api/hiding-extensions',
      area: 'Directory',
      summary: 'Extensions of which the shorter begins the longer',
      who: readers,
      reply: Joi.array().items(
        Joi.object<HidingPair, true>({ shorter: Joi.string().required(), longer: Joi.string().required() }),
      ),
      errors: [],
      handle: () => hidingExtensions(database),
    }),
  ];
}
