import Joi from 'joi';
import { editors, readers } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { nothing, route, type Route, signedIn } from '../../http/route.ts';
import { listSetAside, markSeen, type SetAsideView } from '../../live/set-aside.queries.ts';
import type { Services } from '../../services.ts';

const area = 'Set aside';
const mostShown = 200;

const view = Joi.object<SetAsideView, true>({
  id: Joi.number().integer().required(),
  at: Joi.string().required(),
  what: Joi.string().valid('event', 'fact', 'effect').required(),
  kind: Joi.string().required(),
  seq: Joi.number().integer().allow(null).required(),
  callIds: Joi.array().items(Joi.string()).required(),
  why: Joi.string().allow('').required(),
  content: Joi.string().required(),
  seen: Joi.boolean().required(),
  seenBy: Joi.string().allow(null).required(),
});

export function setAsideRoutes({ database }: Services): Route[] {
  return [
    route({
      method: 'GET',
      path: '/api/set-aside',
      area,
      summary: `What the exchange could not take, write or carry out, latest first, at most ${mostShown}`,
      who: readers,
      reply: Joi.array().items(view),
      errors: [],
      handle: () => listSetAside(database, mostShown),
    }),
    route({
      method: 'POST',
      path: '/api/set-aside/:id/seen',
      area,
      summary: 'Say that somebody has looked at it: it is no finding any more',
      who: editors,
      params: Joi.object<{ id: number }>({ id: Joi.number().integer().positive().required() }),
      reply: nothing.allow(null),
      errors: ['notFound'],
      handle: async ({ params, caller }) => {
        if (!(await markSeen(database, params.id, signedIn(caller).personId)))
          throw new Problem('notFound', 'There is nothing of this number.');
        return null;
      },
    }),
  ];
}
