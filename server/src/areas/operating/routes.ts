import { timingSafeEqual } from 'node:crypto';
import Joi from 'joi';
import { pendingMigrations } from '../../database/migrate.ts';
import { Problem } from '../../http/problems.ts';
import { nothing, route, type Route } from '../../http/route.ts';
import { lastSeq } from '../../live/log.queries.ts';
import type { Metrics } from '../../live/metrics.ts';
import type { Services } from '../../services.ts';

const area = 'Operating';

/** For whatever watches over a server: whether it lives, whether calls can come, and figures. */
export function operatingRoutes(
  { database, live }: Services,
  metrics: Metrics,
  metricsKey: string | null,
): Route[] {
  return [
    route({
      method: 'GET',
      path: '/api/health',
      area,
      summary: 'Whether the process lives; asks nobody else',
      who: 'anybody',
      perMinute: 6_000,
      reply: Joi.object({ ok: Joi.boolean().required() }),
      errors: [],
      handle: () => Promise.resolve({ ok: true }),
    }),
    route({
      method: 'GET',
      path: '/api/ready',
      area,
      summary:
        'Whether the database answers, has the right shape, and the exchange knows all of its log; else 503',
      who: 'anybody',
      perMinute: 6_000,
      reply: Joi.object({
        hosting: Joi.boolean().required(),
        hostedSomewhere: Joi.boolean().required(),
        logPosition: Joi.number().integer().required(),
        lag: Joi.number().integer().required(),
      }),
      errors: ['exchangeAway', 'databaseAway'],
      handle: async () => {
        const { pending } = await pendingMigrations(database);
        if (pending.length > 0)
          throw new Problem(
            'databaseAway',
            `The database lacks ${pending.join(', ')}. Restart the server to upgrade.`,
            [],
            {
              retryAfter: 5,
            },
          );
        const logPosition = live.exchange.seq;
        const lag = Math.max(0, (await lastSeq(database)) - logPosition);
        const hostedSomewhere = live.isHost || (await live.hostIsHeardOf());
        if (!hostedSomewhere)
          throw new Problem(
            'exchangeAway',
            'No server hosts the exchange at this moment. One will within seconds.',
            [],
            {
              retryAfter: 1,
            },
          );
        return { hosting: live.isHost, hostedSomewhere, logPosition, lag };
      },
    }),
    route({
      method: 'GET',
      path: '/metrics',
      area,
      summary: 'Figures in OpenMetrics, for who shows the metrics key as a bearer',
      who: 'anybody',
      reply: nothing.allow(null),
      errors: ['notSignedIn', 'notFound'],
      handle: async ({ http, reply }) => {
        if (metricsKey === null)
          throw new Problem('notFound', 'No key for metrics is set (NIGHT_BELL_METRICS_KEY).');
        const sent = Buffer.from(String(http.headers.authorization ?? ''));
        const expected = Buffer.from(`Bearer ${metricsKey}`);
        if (sent.length !== expected.length || !timingSafeEqual(sent, expected))
          throw new Problem('notSignedIn', 'Show the metrics key as Authorization: Bearer.');
        await reply.type(metrics.contentType).send(await metrics.text());
        return null;
      },
    }),
  ];
}
