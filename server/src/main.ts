import pino from 'pino';
import { buildApp } from './app.ts';
import { Shop } from './areas/number-shop/shop.ts';
import { installation } from './areas/session/store.ts';
import { connect } from './database/connection.ts';
import { migrate } from './database/migrate.ts';
import { ensureDemo } from './demo/load.ts';
import { firstAdministratorCode } from './security/first-administrator.ts';
import { Seal } from './security/seal.ts';

/** Started by scripts/run.mjs, which says where everything is. */
const { NIGHT_BELL_DATABASE: url, NIGHT_BELL_KEY: keyFile, NIGHT_BELL_GATEWAY_KEY: gatewayKey } = process.env;
if (url === undefined || keyFile === undefined || gatewayKey === undefined) {
  throw new Error('Start Night Bell with npm start or npm run demo.');
}

const logger = pino({ base: null, level: process.env.NIGHT_BELL_LOG ?? 'warn' });
const database = connect(url);
const seal = Seal.fromFile(keyFile);
await migrate(database);
const demoFolder = process.env.NIGHT_BELL_DEMO;
const { NIGHT_BELL_HARBOUR_BOOK: bookAddress, NIGHT_BELL_HARBOUR_BOOK_KEY: bookKey } = process.env;
const { NIGHT_BELL_NUMBER_SHOP: shopAddress, NIGHT_BELL_NUMBER_SHOP_KEY: shopKey } = process.env;
const shop =
  shopAddress === undefined || shopKey === undefined ? null : { address: shopAddress, key: shopKey };
const phones =
  demoFolder === undefined || bookAddress === undefined || bookKey === undefined
    ? { enrol: [], typed: [] }
    : await ensureDemo(
        database,
        seal,
        demoFolder,
        { address: bookAddress, key: bookKey },
        shop === null ? null : new Shop(shop, (await installation(database)).id),
      );
const code = await firstAdministratorCode(database, seal);

const night = await buildApp({
  database,
  seal,
  gatewayKey,
  webFolder: process.env.NIGHT_BELL_WEB ?? null,
  logger,
  ...(shop === null ? {} : { shop }),
  checkReplies: process.env.NODE_ENV !== 'production',
});
// Answering first: while the exchange reads its log again, pages hear how far it is.
await night.app.listen({ host: '127.0.0.1', port: Number(process.env.NIGHT_BELL_PORT ?? 4380) });
void night.live.start();
const { name } = await installation(database);
process.send?.({ ready: true, name, firstAdministratorCode: code, phones });

let closing = false;
async function close(): Promise<void> {
  if (closing) return;
  closing = true;
  await night.close();
  await database.destroy();
  process.exit(0);
}
process.on('SIGTERM', () => void close());
process.on('SIGINT', () => void close());
// The starter is gone, however it went: nobody would stop this server any more.
process.on('disconnect', () => void close());
