import Joi from 'joi';
import { objectSchema } from '@night-bell/core/contracts/item';
import { job } from '@night-bell/core/contracts/jobs';
import { readers } from '@night-bell/core/model/roles';
import { Problem } from '../../http/problems.ts';
import { idParams, route, type Route, signedIn } from '../../http/route.ts';
import { jobById, latestJobs } from '../../jobs/jobs.ts';
import type { Services } from '../../services.ts';

const area = 'Jobs';
const mostListed = 100;

/** What is done behind a page: how far it is, and stopping it. */
export function jobRoutes({ database, jobs }: Services): Route[] {
  return [
    route({
      method: 'GET',
      path: '/api/jobs',
      area,
      summary: `The latest ${mostListed} jobs, newest first: everybody's for administrators, one's own for others`,
      who: readers,
      reply: Joi.array().items(objectSchema(job).optional()),
      errors: [],
      handle: ({ caller }) => {
        const { personId, role } = signedIn(caller);
        return latestJobs(database, role === 'administrator' ? null : personId, mostListed);
      },
    }),
    route({
      method: 'GET',
      path: '/api/jobs/:id',
      area,
      summary: 'How far a job is, and what became of it',
      who: readers,
      perMinute: 1_200,
      params: idParams,
      reply: objectSchema(job),
      errors: ['notFound'],
      handle: ({ params }) => jobById(database, params.id),
    }),
    route({
      method: 'POST',
      path: '/api/jobs/:id/stop',
      area,
      summary: 'Stop a job; what it has done by then stays done',
      who: readers,
      params: idParams,
      reply: objectSchema(job),
      errors: ['notFound', 'notAllowed'],
      handle: async ({ params, caller }) => {
        const { personId, role } = signedIn(caller);
        const { byId } = await jobById(database, params.id);
        if (role !== 'administrator' && byId !== personId)
          throw new Problem('notAllowed', 'Whoever began a job stops it, or an administrator.');
        return jobs.stop(params.id);
      },
    }),
  ];
}
