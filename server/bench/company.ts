import { randomBytes } from 'node:crypto';
import pino from 'pino';
import { buildApp } from '../src/app.ts';
import { twoThreads } from '../src/beside/two-threads.ts';
import { connect } from '../src/database/connection.ts';
import { migrate } from '../src/database/migrate.ts';
import { openHarbourBook } from '../src/demo/harbour-book.testing.ts';
import { ensureDemo } from '../src/demo/load.ts';
import { SecretBox } from '../src/security/secret-box.ts';

export const gatewayKey = 'bench';

/** The demo company on a server of its own on loopback, and the headers of its administrator. */
export async function openCompany(named: string | null = null) {
  const url = await databaseOf(named);
  const database = connect(url);
  await migrate(database);
  const seal = new SecretBox(randomBytes(32));
  const demoFolder = process.env.NIGHT_BELL_DEMO ?? '';
  const harbourBook = await openHarbourBook(demoFolder);
  await ensureDemo(
    database,
    seal,
    demoFolder,
    { harbourBook: harbourBook.door, sailingBot: { address: 'http://127.0.0.1:1', key: 'no bot' } },
    null,
  );
  await harbourBook.close();
  const night = await buildApp({
    database,
    seal,
    gatewayKey,
    webFolder: null,
    logger: pino({ level: 'silent' }),
    beside: twoThreads(
      new URL('../dist/beside.mjs', import.meta.url),
      { database: url },
      pino({ level: 'error' }),
    ),
    checkReplies: false,
    requestsPerMinute: { session: 1_000_000, address: 1_000_000 },
    // Harbour Book stands on this machine.
    allowedAddresses: [new URL(harbourBook.door.address).host],
  });
  await night.live.start();
  const address = await night.app.listen({ port: 0, host: '127.0.0.1' });
  const signedIn = await fetch(`${address}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ login: 'rowan.tseng', password: 'eight bells and all is well' }),
  });
  const cookie = signedIn.headers
    .getSetCookie()
    .map((each) => each.split(';')[0])
    .join('; ');
  const { token } = (await (await fetch(`${address}/api/session`, { headers: { cookie } })).json()) as {
    token: string;
  };
  const headers = { 'content-type': 'application/json', cookie, 'x-night-bell-token': token };
  const close = async () => {
    await night.close();
    await database.destroy();
  };
  return { database, seal, night, address, headers, close };
}

/** The bench's database, or another of its cluster that is made for this. */
async function databaseOf(named: string | null): Promise<string> {
  const cluster = process.env.NIGHT_BELL_TEST_DATABASE ?? '';
  if (named === null) return cluster;
  const admin = connect(cluster);
  await admin.raw(`drop database if exists ${named} with (force)`);
  await admin.raw(`create database ${named}`);
  await admin.destroy();
  return cluster.replace(/\/postgres$/, `/${named}`);
}

export function at(values: number[], share: number): number {
  return [...values].sort((one, other) => one - other)[Math.floor(values.length * share)]!;
}
