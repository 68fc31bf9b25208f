import cookie from '@fastify/cookie';
import helmet from '@fastify/helmet';
import rateLimit from '@fastify/rate-limit';
import fastifyStatic from '@fastify/static';
import websocket from '@fastify/websocket';
import Fastify, { type FastifyBaseLogger, type FastifyError, type FastifyInstance } from 'fastify';
import type { Logger } from 'pino';
import { longestMessage } from '@night-bell/core/devices/read';
import { callShares } from './areas/calls/calls.queries.ts';
import { trunkAccess } from './areas/trunks/access.ts';
import { Shop, type ShopDoor } from './areas/number-shop/shop.ts';
import { chargeRent } from './areas/number-shop/store.ts';
import { keepFax } from './areas/fax-boxes/store.ts';
import { recordByNumber } from './areas/records/store.ts';
import { installation } from './areas/session/store.ts';
import type { Database } from './database/connection.ts';
import { Problem } from './http/problems.ts';
import { registerRoutes } from './http/register.ts';
import type { Route } from './http/route.ts';
import { PageSockets, registerSockets } from './http/sockets.ts';
import { declaredRoutes } from './routes.ts';
import { RecordSync } from './jobs/record-sync.ts';
import { BrowserPhones } from './live/browser-phones.ts';
import { ContactSupply } from './live/contact-supply.ts';
import { Gateways } from './live/gateways.ts';
import { type Devices, Live } from './live/live.ts';
import { Pages } from './live/pages.ts';
import { Registrar } from './live/registrar.ts';
import { Guesses } from './security/guesses.ts';
import type { Seal } from './security/seal.ts';
import { keepText, takeWaiting, textIsLost, textIsSent } from './areas/texts/store.ts';
import { Sessions } from './security/sessions.ts';

export interface AppOptions {
  database: Database;
  seal: Seal;
  /** What a gateway of phones and lines shows to be let in. */
  gatewayKey: string;
  /** The built web client; none in tests of the API. */
  webFolder: string | null;
  logger: Logger;
  /** Whether replies are held against their schemas; costs time, so only outside production. */
  checkReplies: boolean;
  /** Requests a minute from one address. */
  requestsPerMinute?: number;
  /** Where numbers are rented; none is connected when left out. */
  shop?: ShopDoor;
}

export interface NightBell {
  app: FastifyInstance;
  live: Live;
  routes: Route[];
  /** Every path Fastify was given, declared or not. */
  paths: string[];
  close: () => Promise<void>;
}

const rentEveryMs = 3_600_000;
const bodyLimit = 2 * 1024 * 1024;

/** The whole server, ready to listen. The database must be migrated. */
export async function buildApp(options: AppOptions): Promise<NightBell> {
  const { database, seal, logger } = options;
  const here = await installation(database);
  const sessions = new Sessions(database, seal, here.id);
  const gateways = new Gateways(
    new Registrar(database, seal),
    () => trunkAccess(database, seal),
    () => callShares(database),
    (from) => recordByNumber(database, from),
    (fax) => keepFax(database, fax),
    {
      keep: (text) => database.transaction((trx) => keepText(trx, text)),
      takeWaiting: () => takeWaiting(database),
      sent: (id, price) => database.transaction((trx) => textIsSent(trx, id, price)),
      lost: (id, why) => textIsLost(database, id, why),
    },
    logger,
  );
  const supply = new ContactSupply(database, logger);
  const live = new Live(database, doors(gateways, supply), logger);
  const pages = new Pages(live);
  const pageSockets = new PageSockets(sessions, logger);
  const browserPhones = new BrowserPhones(database, live, logger);
  const recordSync = new RecordSync(database, seal, () => live.isHost, logger);
  const services = { database, seal, sessions, guesses: new Guesses(database), live };

  const app = Fastify({ loggerInstance: logger as FastifyBaseLogger, bodyLimit, trustProxy: false });
  const paths: string[] = [];
  app.addHook('onRoute', ({ url }) => void paths.push(url));
  await app.register(cookie);
  await app.register(helmet, {
    contentSecurityPolicy: { directives: contentPolicy },
    strictTransportSecurity: false,
  });
  await app.register(rateLimit, {
    max: options.requestsPerMinute ?? 1_200,
    timeWindow: 60_000,
    errorResponseBuilder: (_request, context) =>
      new Problem('tooMany', `Too many requests. Wait ${Math.ceil(context.ttl / 1000)} s, then go on.`),
  });
  await app.register(websocket, { options: { maxPayload: longestMessage } });
  app.setErrorHandler((error: FastifyError, _request, reply) => {
    const problem = asProblem(error, logger);
    return reply.code(problem.status).type('application/problem+json').send(problem.body());
  });

  const shop = options.shop === undefined ? null : new Shop(options.shop, (await installation(database)).id);
  const rent = setInterval(
    () =>
      void chargeRent(database).catch((error: unknown) =>
        logger.warn({ error: String(error) }, 'rent not charged'),
      ),
    rentEveryMs,
  );
  const routes = declaredRoutes(services, gateways, recordSync, shop);
  registerRoutes(app, routes, sessions, options.checkReplies);

  const { gatewayKey } = options;
  registerSockets(app, { pageSockets, pages, browserPhones, gateways, gatewayKey });

  if (options.webFolder !== null) {
    await app.register(fastifyStatic, { root: options.webFolder, maxAge: '1h' });
  }
  app.setNotFoundHandler((request, reply) => {
    if (request.method === 'GET' && !/^\/(api|assets)\//.test(request.url) && options.webFolder !== null) {
      return reply.header('cache-control', 'no-cache').sendFile('index.html', { maxAge: 0 });
    }
    const problem = new Problem('notFound', `There is no ${request.method} ${request.url.split('?')[0]}.`);
    return reply.code(404).type('application/problem+json').send(problem.body());
  });

  live.listen(
    (applied) => {
      if (live.isHost && applied.some(({ event }) => event.kind === 'configurationChanged')) {
        gateways.phones.tellUnheard();
        void gateways.standIns.numbersChanged();
        void gateways.lookAtTrunks();
      }
    },
    () => undefined,
  );
  live.listenForTexts(() => void gateways.texts.sendWaiting());
  const close = async () => {
    pageSockets.close();
    pages.close();
    browserPhones.close();
    clearInterval(rent);
    gateways.close();
    await recordSync.close();
    await live.close();
    await app.close();
  };
  return { app, live, routes, paths, close };
}

/** What the host carries effects out with: devices, and the supply of contacts. */
function doors(gateways: Gateways, supply: ContactSupply): Devices {
  return {
    carryOut: (name, effect) => {
      gateways.carryOut(name, effect);
      supply.carryOut(effect);
    },
    hosting: async (host) => {
      gateways.hosting(host);
      await supply.hosting(host);
    },
    notHosting: () => {
      gateways.notHosting();
      supply.notHosting();
    },
  };
}

const contentPolicy = {
  defaultSrc: ["'self'"],
  scriptSrc: ["'self'"],
  // Vuetify sets inline styles.
  styleSrc: ["'self'", "'unsafe-inline'"],
  imgSrc: ["'self'", 'data:'],
  fontSrc: ["'self'"],
  connectSrc: ["'self'"],
  objectSrc: ["'none'"],
  baseUri: ["'none'"],
  frameAncestors: ["'none'"],
  formAction: ["'self'"],
  upgradeInsecureRequests: null,
};

function asProblem(error: FastifyError, logger: Logger): Problem {
  if (error instanceof Problem) return error;
  if (error.statusCode === 413)
    return new Problem('tooLarge', 'More was sent than is taken at once. Split it and send the parts.');
  if (error.statusCode !== undefined && error.statusCode < 500)
    return new Problem('malformed', error.message);
  if (isDatabaseAway(error)) {
    return new Problem(
      'databaseAway',
      'The database is not answering. Nothing was saved; try again in a moment.',
    );
  }
  logger.error({ error: error.stack ?? String(error) }, 'a request failed');
  return new Problem(
    'broken',
    'Something went wrong inside Night Bell. Nothing was saved. The log says more.',
  );
}

/** Connection refused, reset or shut down; class 57 and 08 of PostgreSQL's error codes. */
function isDatabaseAway(error: FastifyError): boolean {
  return (
    /^(ECONN|57P|08)/.test(error.code ?? '') ||
    /Connection terminated|Timeout acquiring a connection|Client has encountered a connection error/.test(
      error.message,
    )
  );
}
