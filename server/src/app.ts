import { randomUUID } from 'node:crypto';
import { constants } from 'node:zlib';
import compress from '@fastify/compress';
import cookie from '@fastify/cookie';
import websocket from '@fastify/websocket';
import Fastify, { type FastifyBaseLogger, type FastifyInstance, LogController } from 'fastify';
import type { Logger } from 'pino';
import { longestMessage } from '@night-bell/core/devices/read';
import { callShares } from './areas/calls/calls.queries.ts';
import { keepFax } from './areas/fax-boxes/store.ts';
import { lacksSound, takeRecording, waitingMessages } from './areas/voicemail/for-devices.ts';
import { heldByBox } from './areas/voicemail/reconcile.ts';
import { deleteWhatIsOver } from './areas/voicemail/retention.ts';
import type { Beside } from './beside/beside.ts';
import { importContactsJob } from './areas/campaigns/import-job.ts';
import { speakMany } from './areas/prompts/speak-many.ts';
import { Jobs } from './jobs/jobs.ts';
import { saveListJob } from './lists/save-job.ts';
import { JobQueue } from './jobs/queue.ts';
import { Sounds } from './sound/sounds.ts';
import { espeak } from './sound/voice.ts';
import { besideHere } from './beside/here.ts';
import { HomePush } from './areas/home/home-push.ts';
import { linesNow } from './areas/home/lines-now.ts';
import { Shop, type ShopConnection } from './areas/number-shop/shop.ts';
import { chargeRent } from './areas/number-shop/store.ts';
import { allowedAddresses } from './areas/records/allowed-addresses.ts';
import { sendOutbox } from './areas/records/outbox.ts';
import { Calendars } from './areas/hours/calendars.ts';
import { askBot } from './areas/bots/ask-bot.ts';
import { botDoor } from './areas/bots/store.ts';
import type { RecordingFiles } from './areas/recordings/files.ts';
import { lacksTalkSound } from './areas/recordings/recordings.queries.ts';
import { forgetOldTalks } from './areas/recordings/retention.ts';
import { takeTalk } from './areas/recordings/take-talk.ts';
import { keepGreeting, messagesFor } from './areas/voicemail/from-phone.ts';
import { lookUpRecord } from './areas/records/look-up.ts';
import { HostAnswers } from './live/host-answers.ts';
import { importRegionsJob } from './areas/regions/import-job.ts';
import { recordByNumber } from './areas/records/store.ts';
import { publishPlansInTime } from './areas/plans/schedule.ts';
import { installation } from './areas/session/store.ts';
import { keepText, takeWaiting, textIsLost, textIsSent } from './areas/texts/store.ts';
import { trunkAccess } from './areas/trunks/access.ts';
import type { GoingOn } from './crash.ts';
import type { Database } from './database/connection.ts';
import { answerFailures } from './http/failures.ts';
import { securityHeaders } from './http/headers.ts';
import { limitRequests } from './http/limits.ts';
import { forgetOldReplays, Replays } from './http/replays.ts';
import { registerRoutes } from './http/register.ts';
import type { Route } from './http/route.ts';
import { PageSockets, registerSockets } from './http/sockets.ts';
import { watchRequests } from './http/watch.ts';
import { serveWebClient } from './http/web-client.ts';
import { RecordSync } from './jobs/record-sync.ts';
import { forgetTouches } from './live/compile.ts';
import { BrowserPhones } from './live/browser-phones.ts';
import { ContactSupply } from './live/contact-supply.ts';
import { itemsChannel, textsChannel } from './live/channels.ts';
import { type GatewayBooks, Gateways } from './live/gateways.ts';
import { type Devices, Live } from './live/live.ts';
import { Metrics } from './live/metrics.ts';
import { Pages } from './live/pages.ts';
import { OpenTexts } from './live/open-texts.ts';
import { type Room, StorageWatch } from './live/storage-watch.ts';
import { Registrar } from './live/registrar.ts';
import { type Mail, noMail } from './mail/mail.ts';
import { sendLetters } from './mail/outbox.ts';
import { Outgoing } from './outgoing/outgoing.ts';
import { declaredRoutes } from './routes.ts';
import { LoginThrottle } from './security/login-throttle.ts';
import type { SecretBox } from './security/secret-box.ts';
import { Sessions } from './security/sessions.ts';

export interface AppOptions {
  database: Database;
  seal: SecretBox;
  /** What a gateway of phones and lines shows to be let in. */
  gatewayKey: string;
  /** The built web client; none in tests of the API. */
  webFolder: string | null;
  logger: Logger;
  /** Whether replies are held against their schemas; costs time, so only outside production. */
  checkReplies: boolean;
  /** Requests a minute of one sign-in, and of one address without any. */
  requestsPerMinute?: { session: number; address: number };
  /** Where numbers are rented; none is connected when left out. */
  shop?: ShopConnection;
  /** Where what is not live is computed; in this thread when it is left out. */
  beside?: Beside;
  /** Makes sounds ready and speaks words; in this thread when it is left out. */
  sounds?: Sounds;
  /** Brings long lists; in this thread when it is left out. */
  importThread?: URL | null;
  /** Reads calendars; in this thread when it is left out. */
  calendarThread?: URL | null;
  /** The thread that saves lists as files; without one it is done here. */
  saveThread?: URL | null;
  /** The post office; letters wait while none is named. */
  mail?: Mail;
  /** The folder in which recordings of talks are kept; none are kept when left out. */
  recordings?: RecordingFiles | null;
  /** Room for recordings, looked at now and then; none is looked at when left out. */
  storage?: Room;
  tls?: { cert: Buffer; key: Buffer };
  trustedProxies?: string[];
  /** `host:port` on this machine or a private network that may be asked. */
  allowedAddresses?: string[];
  metricsKey?: string | null;
}

export interface NightBell {
  app: FastifyInstance;
  live: Live;
  routes: Route[];
  /** Every path Fastify was given, declared or not. */
  paths: string[];
  /** What is being done at this moment, for the last words of a process. */
  goingOn: GoingOn;
  close: () => Promise<void>;
}

const bodyLimit = 2 * 1024 * 1024;
/** A whole office may sign in from one address at eight in the morning. */
const usualLimits = { session: 1_200, address: 600 };

/** The whole server, ready to listen; the exchange starts with `live.start()`. The database must be migrated. */
export async function buildApp(options: AppOptions): Promise<NightBell> {
  const { database, seal, logger } = options;
  const here = await installation(database);
  const sessions = new Sessions(database, seal, here.id);
  const sounds = options.sounds ?? new Sounds(espeak, null);
  const recordings = options.recordings ?? null;
  const books: GatewayBooks = {
    trunks: () => trunkAccess(database, seal),
    callable: () => callShares(database),
    recognise: (from) => recordByNumber(database, from),
    keepFax: (fax) => keepFax(database, fax),
    voicemail: {
      lacksSound: (callId) => lacksSound(database, callId),
      keep: (callId, _part, file) => takeRecording(database, sounds, callId, file),
      waiting: (whose) => waitingMessages(database, whose),
    },
    talks: {
      lacksSound: (callId, part) => lacksTalkSound(database, callId, part),
      keep: (callId, part, file) => takeTalk({ database, sounds, files: recordings }, { callId, part, file }),
    },
    keepGreeting: (boxId, file) => keepGreeting(database, sounds, boxId, file),
    texts: {
      keep: (text) => database.transaction((trx) => keepText(trx, text)),
      takeWaiting: () => takeWaiting(database),
      sent: (id, price) => database.transaction((trx) => textIsSent(trx, id, price)),
      lost: (id, why) => textIsLost(database, id, why),
    },
  };
  const gateways = new Gateways(new Registrar(database, seal), books, logger);
  const supply = new ContactSupply(database, logger);
  const beside = options.beside ?? besideHere(database);
  const allowedByOperator = options.allowedAddresses ?? [];
  const outgoing = new Outgoing(() => allowedAddresses(database, allowedByOperator));
  const calendars = new Calendars(database, outgoing, logger, options.calendarThread ?? null);
  const answers = new HostAnswers(
    {
      lookUp: (digits, field, withinMs) =>
        lookUpRecord({ database, seal, outgoing }, { digits, field, withinMs }),
      bot: async (turn) => {
        const door = await botDoor(database, seal, turn.botId);
        return door === null ? { answer: null, why: 'fault' } : askBot(outgoing, door, turn);
      },
      box: (boxId) => messagesFor(database, boxId),
    },
    logger,
  );
  const live = new Live(database, callbacks(database, gateways, supply, answers), beside, logger);
  const metrics = new Metrics(database, live);
  live.measure((ms, events) => metrics.committed(ms, events));
  const pages = new Pages(live);
  const homePush = new HomePush(live, beside, pages, () => linesNow(live, gateways));
  const pageSockets = new PageSockets(sessions, logger);
  const browserPhones = new BrowserPhones(database, live, logger);
  const recordSync = new RecordSync(database, seal, outgoing, logger);
  const throttle = new LoginThrottle(database, seal, here.id);
  const mail = options.mail ?? noMail;
  const queue = new JobQueue(database, logger);
  const jobs = new Jobs(database, queue);
  jobs.define('speakPrompts', speakMany(database, sounds));
  jobs.define('saveList', saveListJob(database, options.saveThread ?? null));
  jobs.define('importRegions', importRegionsJob(database));
  jobs.define('importContacts', importContactsJob(database, options.importThread ?? null));
  const storage = new StorageWatch(options.storage ?? null, live);
  const conversations = new OpenTexts(database, live, logger);
  const services = {
    database,
    seal,
    sessions,
    throttle,
    live,
    beside,
    outgoing,
    calendars,
    sounds,
    recordings,
    queue,
    jobs,
    mail,
    allowedByOperator,
  };

  const { tls, trustedProxies = [] } = options;
  const app = Fastify({
    ...(tls === undefined ? {} : { https: tls }),
    loggerInstance: logger as FastifyBaseLogger,
    logController: new LogController({ disableRequestLogging: true }),
    genReqId: () => randomUUID(),
    bodyLimit,
    trustProxy: trustedProxies.length === 0 ? false : trustedProxies,
  }) as unknown as FastifyInstance;
  await queue.start();
  await jobs.start();
  await publishPlansInTime(database, queue);
  await queue.workAgain('calendarReading', 300, () => calendars.readDue());
  await queue.workAgain('recordReading', 30, () => recordSync.readAll());
  await queue.workAgain('callWriteBack', 2, () => sendOutbox(database, seal, outgoing));
  const post = options.mail;
  if (post !== undefined) await queue.workAgain('letters', 2, () => sendLetters(database, post, seal));
  await queue.workEvery('numberRent', '11 * * * *', () => chargeRent(database));
  await queue.workEvery('oldReplays', '23 * * * *', () => forgetOldReplays(database));
  await queue.workEvery('oldTouches', '41 * * * *', () => forgetTouches(database));
  await queue.workEvery('recordingRetention', '17 * * * *', () => forgetOldTalks(database, recordings));
  await queue.workEvery('voicemailRetention', '*/10 * * * *', () => deleteWhatIsOver(database));

  const paths: string[] = [];
  app.addHook('onRoute', ({ url }) => void paths.push(url));
  await app.register(cookie);
  // The answer that holds a session's token is shorter than this: its length tells nothing of it.
  await app.register(compress, {
    threshold: 1_500,
    encodings: ['br', 'gzip'],
    brotliOptions: { params: { [constants.BROTLI_PARAM_QUALITY]: 4 } },
  });
  await securityHeaders(app);
  answerFailures(app);
  const requests = watchRequests(app, metrics);
  await limitRequests(app, sessions, options.requestsPerMinute ?? usualLimits);
  await app.register(websocket, { options: { maxPayload: longestMessage } });

  const shop = options.shop === undefined ? null : new Shop(options.shop, here.id);
  const { gatewayKey, metricsKey = null } = options;
  const routes = declaredRoutes(services, gateways, recordSync, shop, { metrics, metricsKey });
  registerRoutes(app, routes, sessions, options.checkReplies, new Replays(database, seal));
  registerSockets(app, { pageSockets, pages, browserPhones, gateways, gatewayKey });
  await serveWebClient(app, options.webFolder, ({ cookies }) => cookies[sessions.cookieName] !== undefined);

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
  live.told.listenOn(itemsChannel, (said) => {
    const [kind, id = ''] = said.split(' ');
    if (kind === 'voicemail' && live.isHost) gateways.lamps.boxChanged(id);
  });
  live.told.listenOn(textsChannel, () => {
    void gateways.texts.sendWaiting();
    void conversations.look();
  });
  const close = async () => {
    pageSockets.close();
    pages.close();
    homePush.close();
    browserPhones.close();
    gateways.close();
    storage.close();
    conversations.close();
    jobs.close();
    await queue.close();
    await recordSync.close();
    await live.close();
    await beside.close();
    await sounds.close();
    await app.close();
    metrics.close();
  };
  const goingOn = { requests, seq: () => (live.ready ? live.exchange.seq : null) };
  return { app, live, routes, paths, goingOn, close };
}

/** What the host carries effects out with: devices, the supply of contacts, what customer systems and bots are asked. */
function callbacks(
  database: Database,
  gateways: Gateways,
  supply: ContactSupply,
  answers: HostAnswers,
): Devices {
  return {
    carryOut: (name, effect) => {
      gateways.carryOut(name, effect);
      supply.carryOut(effect);
      answers.carryOut(effect);
    },
    hosting: async (host) => {
      // A state that was begun anew counts no messages; what was just taken from the inbox is counted.
      await host.committed();
      const { messages } = host.exchange.view();
      for (const [boxId, held] of await heldByBox(database))
        if (held !== (messages.get(boxId) ?? 0))
          host.submit({ kind: 'messagesChanged', boxId, by: held - (messages.get(boxId) ?? 0) });
      gateways.hosting(host);
      answers.hosting(host);
      await supply.hosting(host);
    },
    notHosting: () => {
      gateways.notHosting();
      supply.notHosting();
      answers.notHosting();
    },
  };
}
