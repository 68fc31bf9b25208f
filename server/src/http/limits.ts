import rateLimit from '@fastify/rate-limit';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import type { Sessions } from '../security/sessions.ts';
import { Problem } from './problems.ts';

/** Addresses and sign-ins counted at once; the one not heard of for longest is forgotten first. */
const mostCounted = 20_000;

/**
 * Requests a minute. Who is signed in is counted by that sign-in, so that an office behind one address shares nothing;
 * who is not, by address. Pages and their files are not counted.
 */
export async function limitRequests(
  app: FastifyInstance,
  sessions: Sessions,
  perMinute: { session: number; address: number },
): Promise<void> {
  await app.register(rateLimit, {
    max: async (request: FastifyRequest) =>
      (await sessions.find(request)) === null ? perMinute.address : perMinute.session,
    keyGenerator: async (request: FastifyRequest) => {
      const session = await sessions.find(request);
      return session === null ? `address ${request.ip}` : `sign-in ${session.sessionHash}`;
    },
    timeWindow: 60_000,
    cache: mostCounted,
    allowList: (request: FastifyRequest) => !request.url.startsWith('/api/'),
    errorResponseBuilder: (_request: FastifyRequest, context: { ttl: number }) => {
      const wait = Math.ceil(context.ttl / 1000);
      return new Problem('tooMany', `Too many requests. Wait ${wait} s, then go on.`, [], {
        retryAfter: wait,
      });
    },
  });
}
