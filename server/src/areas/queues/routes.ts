import Joi from 'joi';
import { queueRequest } from '@night-bell/core/model/queues.schema';
import { editors, readers } from '@night-bell/core/model/roles';
import { destinationView, destinationViewOrNull } from '../../http/destination-view.ts';
import { idParams, route, type Route, signedIn } from '../../http/route.ts';
import type { Services } from '../../services.ts';
import { authorOf, usedBy } from '../../spine/items.ts';
import { outcomesView } from '../desk/schemas.ts';
import { usedByView } from '../../http/used-by-view.ts';
import {
  changeQueue,
  createQueue,
  getQueue,
  listQueues,
  type QueueView,
  reactivateQueue,
  retireQueue,
} from './store.ts';

const area = 'Queues';

const queueView = Joi.object<QueueView, true>({
  id: Joi.string().required(),
  version: Joi.number().integer().required(),
  retired: Joi.boolean().required(),
  name: Joi.string().required(),
  extension: Joi.string().allow(null).required(),
  priority: Joi.number().integer().required(),
  ringSeconds: Joi.number().integer().required(),
  wrapUpSeconds: Joi.number().integer().required(),
  members: Joi.array().items(Joi.string()).required(),
  skills: Joi.array()
    .items(Joi.object({ skillId: Joi.string().required(), minimum: Joi.number().integer().required() }))
    .required(),
  maxWaiting: Joi.number().integer().allow(null).required(),
  whenFull: destinationView.required(),
  maxWaitSeconds: Joi.number().integer().allow(null).required(),
  whenTooLong: destinationView.required(),
  whenNobody: destinationViewOrNull.required(),
  hoursId: Joi.string().allow(null).required(),
  whenClosed: destinationViewOrNull.required(),
  atClosing: Joi.string().valid('serve', 'sendOn').required(),
  preferOwner: Joi.boolean().required(),
  script: Joi.string().allow('').required(),
  outcomes: outcomesView.required(),
  voicemailBoxId: Joi.string().allow(null).required(),
  peopleCount: Joi.number().integer().required(),
});

export function queueRoutes({ database }: Services): Route[] {
  return [
    route({
      method: 'GET',
      path: '/api/queues',
      area,
      summary: 'All queues; who waits in them is on the floor',
      who: readers,
      reply: Joi.array().items(queueView),
      errors: [],
      handle: () => listQueues(database),
    }),
    route({
      method: 'POST',
      path: '/api/queues',
      example: { name: 'Bookings' },
      area,
      summary: 'Make a queue, with a voicemail box of its own',
      who: editors,
      body: queueRequest,
      reply: queueView,
      errors: ['taken'],
      handle: async ({ body, caller }) => {
        const id = await database.transaction((trx) =>
          createQueue(trx, body, authorOf(signedIn(caller).personId)),
        );
        return getQueue(database, id);
      },
    }),
    route({
      method: 'GET',
      path: '/api/queues/:id',
      area,
      summary: 'One queue, and what leads to it',
      who: readers,
      params: idParams,
      reply: Joi.object({ queue: queueView.required(), usedBy: usedByView.required() }),
      errors: ['notFound'],
      handle: async ({ params }) => ({
        queue: await getQueue(database, params.id),
        usedBy: await usedBy(database, params.id),
      }),
    }),
    route({
      method: 'PUT',
      path: '/api/queues/:id',
      area,
      summary: 'Change a queue',
      who: editors,
      params: idParams,
      body: queueRequest,
      ifMatch: true,
      reply: queueView,
      errors: ['notFound', 'taken', 'changedMeanwhile', 'versionNeeded'],
      handle: async ({ params, body, version, caller }) => {
        await database.transaction((trx) =>
          changeQueue(trx, params.id, version, body, authorOf(signedIn(caller).personId)),
        );
        return getQueue(database, params.id);
      },
    }),
    route({
      method: 'POST',
      path: '/api/queues/:id/retire',
      area,
      summary: 'Deactivate a queue that nothing leads to',
      who: editors,
      params: idParams,
      ifMatch: true,
      reply: queueView,
      errors: ['notFound', 'inUse', 'changedMeanwhile', 'versionNeeded'],
      handle: async ({ params, version, caller }) => {
        await database.transaction((trx) =>
          retireQueue(trx, params.id, version, authorOf(signedIn(caller).personId)),
        );
        return getQueue(database, params.id);
      },
    }),
    route({
      method: 'POST',
      path: '/api/queues/:id/reactivate',
      area,
      summary: 'Bring a deactivated queue back',
      who: editors,
      params: idParams,
      ifMatch: true,
      reply: queueView,
      errors: ['notFound', 'changedMeanwhile', 'versionNeeded'],
      handle: async ({ params, version, caller }) => {
        await database.transaction((trx) =>
          reactivateQueue(trx, params.id, version, authorOf(signedIn(caller).personId)),
        );
        return getQueue(database, params.id);
      },
    }),
  ];
}
