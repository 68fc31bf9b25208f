import type { FastifyInstance } from 'fastify';
import type { Metrics } from '../live/metrics.ts';

/** Counts and times every request, logs one line for each at debug, and knows those under way. */
export function watchRequests(app: FastifyInstance, metrics: Metrics): () => string[] {
  const under = new Map<string, string>();
  app.addHook('onRequest', (request, _reply, done) => {
    // Without the query: what is looked for may be a caller. A socket is no request that is answered.
    if (request.headers.upgrade === undefined)
      under.set(request.id, `${request.id} ${request.method} ${request.url.split('?')[0]!}`);
    done();
  });
  app.addHook('onResponse', (request, reply, done) => {
    under.delete(request.id);
    const route = request.routeOptions.url ?? 'none';
    metrics.requested(request.method, route, reply.statusCode, reply.elapsedTime);
    request.log.debug(
      { method: request.method, route, status: reply.statusCode, ms: Math.round(reply.elapsedTime) },
      'request',
    );
    done();
  });
  app.addHook('onRequestAbort', (request, done) => {
    under.delete(request.id);
    done();
  });
  return () => [...under.values()];
}
