import { join } from 'node:path';
import pino from 'pino';
import { buildApp } from './app.ts';
import { existsSync } from 'node:fs';
import type { Logger } from 'pino';
import type { Beside } from './beside/beside.ts';
import { besideHere } from './beside/here.ts';
import { Sounds } from './sound/sounds.ts';
import { espeak } from './sound/voice.ts';
import { twoThreads } from './beside/two-threads.ts';
import { Shop } from './areas/number-shop/shop.ts';
import { installation } from './areas/session/store.ts';
import { endOnUncaught } from './crash.ts';
import { upgrade } from './database/backup.ts';
import { connect, type Database } from './database/connection.ts';
import { RecordingFiles } from './areas/recordings/files.ts';
import { ensureDemo } from './demo/load.ts';
import { roomOf } from './live/storage-watch.ts';
import { smtpMail } from './mail/mail.ts';
import { firstAdministratorCode } from './security/first-administrator.ts';
import { SecretBox } from './security/secret-box.ts';
import { BrokenInstallation, brokenInstallation, readSettings, type Settings } from './settings.ts';

/** Started by scripts/run.mjs, or by whatever runs it in a real installation (deploy/). */
const megabyte = 1024 * 1024;
const beatEvery = 1_000;
const databasePatienceMs = 120_000;

try {
  await run(readSettings(process.env));
} catch (error) {
  if (!(error instanceof BrokenInstallation)) throw error;
  process.stderr.write(`\n${error.message}\n`);
  process.exit(brokenInstallation);
}

async function run(settings: Settings): Promise<void> {
  const logger = pino({ base: null, level: settings.logLevel }, pino.destination({ sync: true }));
  const database = connect(settings.database);
  await untilThere(database);
  await upgrade(database, { url: settings.database, backups: settings.backups, logger });
  const seal = SecretBox.fromFile(settings.keyFile);
  const sounds = new Sounds(espeak, threadFile('sound.mjs'));
  const { demo, shop, storage } = settings;
  const recordings = storage === null ? null : new RecordingFiles(join(storage.folder, 'recordings'));
  const numberShop = async () => (shop === null ? null : new Shop(shop, (await installation(database)).id));
  const phones =
    demo === null
      ? { enrol: [], typed: [] }
      : await ensureDemo(database, seal, demo.folder, demo, await numberShop(), sounds, recordings);
  const code = await firstAdministratorCode(database, seal);

  const night = await buildApp({
    database,
    seal,
    logger,
    beside: besideThe(logger, database, settings.database),
    sounds,
    importThread: threadFile('import.mjs'),
    calendarThread: threadFile('calendar.mjs'),
    saveThread: threadFile('save.mjs'),
    gatewayKey: settings.gatewayKey,
    webFolder: settings.webFolder,
    trustedProxies: settings.trustedProxies,
    allowedAddresses: settings.allowedAddresses,
    metricsKey: settings.metricsKey,
    ...(settings.tls === null ? {} : { tls: settings.tls }),
    ...(shop === null ? {} : { shop }),
    ...(settings.mail === null ? {} : { mail: smtpMail(settings.mail.address, settings.mail.from) }),
    ...(settings.storage === null
      ? {}
      : {
          storage: roomOf(settings.storage.folder, settings.storage.leastFree * megabyte),
        }),
    recordings,
    checkReplies: !settings.production,
  });
  endOnUncaught(logger, night.goingOn);
  // Answering first: while the exchange reads its log again, pages hear how far it is.
  await night.app.listen(settings.listen);
  void night.live.start();
  const { name } = await installation(database);
  process.send?.({ ready: true, name, firstAdministratorCode: code, phones });
  const beat = setInterval(() => {
    if (process.connected) process.send?.({ beat: true });
  }, beatEvery);

  let closing = false;
  const close = async (): Promise<void> => {
    if (closing) return;
    closing = true;
    clearInterval(beat);
    await night.close();
    await database.destroy();
    process.exit(0);
  };
  process.on('SIGTERM', () => void close());
  process.on('SIGINT', () => void close());
  // The starter is gone, however it went: nobody would stop this server any more.
  process.on('disconnect', () => void close());
}

/** The database may be starting too. */
async function untilThere(database: Database): Promise<void> {
  const until = Date.now() + databasePatienceMs;
  for (let said = false; ; said = true) {
    try {
      await database.raw('select 1');
      return;
    } catch (error) {
      if (Date.now() > until)
        throw new Error(
          'The database does not answer. Check that PostgreSQL runs, and NIGHT_BELL_DATABASE.',
          {
            cause: error,
          },
        );
      if (!said) process.stderr.write('Waiting for the database.\n');
      await new Promise((resolve) => setTimeout(resolve, 300));
    }
  }
}

/** A thread's file beside this one; null for a server that runs from its sources. */
function threadFile(name: string): URL | null {
  const file = new URL(name, import.meta.url);
  return existsSync(file) ? file : null;
}

/** In threads of its own, as it is built; a server that runs from its sources has none. */
function besideThe(logger: Logger, database: Database, url: string): Beside {
  const file = threadFile('beside.mjs');
  if (file !== null) return twoThreads(file, { database: url }, logger);
  logger.warn('what is not live is computed in the live loop: there is no thread for it beside this file');
  return besideHere(database);
}
