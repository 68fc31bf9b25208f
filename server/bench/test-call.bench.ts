/** POST of a test call against the server's own health route, on the demo company, over loopback. */
import pino from 'pino';
import { randomBytes } from 'node:crypto';
import { Worker } from 'node:worker_threads';
import { buildApp } from '../src/app.ts';
import { connect } from '../src/database/connection.ts';
import { migrate } from '../src/database/migrate.ts';
import { openHarbourBook } from '../src/demo/harbour-book.testing.ts';
import { ensureDemo } from '../src/demo/load.ts';
import { Seal } from '../src/security/seal.ts';

const rounds = 400;
const database = connect(process.env.NIGHT_BELL_TEST_DATABASE ?? '');
await migrate(database);
const seal = new Seal(randomBytes(32));
const demoFolder = process.env.NIGHT_BELL_DEMO ?? '';
const harbourBook = await openHarbourBook(demoFolder);
await ensureDemo(database, seal, demoFolder, harbourBook.door, null);
await harbourBook.close();
const night = await buildApp({
  database,
  seal,
  gatewayKey: 'bench',
  webFolder: null,
  logger: pino({ level: 'silent' }),
  checkReplies: false,
  requestsPerMinute: 1_000_000,
});
const address = await night.app.listen({ port: 0, host: '127.0.0.1' });
for (const [personId] of night.live.exchange.view().agents)
  await night.live.command({ kind: 'agentSignedIn', personId }, null);

const password = 'eight bells and all is well';
const signedIn = await fetch(`${address}/api/session`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ login: 'rowan.tseng', password }),
});
const cookie = signedIn.headers.getSetCookie()[0]!.split(';')[0]!;
const { token } = (await (await fetch(`${address}/api/session`, { headers: { cookie } })).json()) as {
  token: string;
};

const times = await new Promise<{ health: number[]; test: number[] }>((resolve, reject) => {
  const headers = { 'content-type': 'application/json', cookie, 'x-night-bell-token': token };
  const client = new Worker(new URL('./client.mjs', import.meta.url), {
    workerData: { address, headers, rounds, warmUp: 100 },
  });
  client.once('message', resolve);
  client.once('error', reject);
});
const at = (values: number[], share: number) =>
  [...values].sort((one, other) => one - other)[Math.floor(values.length * share)]!;
const line = (name: string, values: number[]) =>
  `  ${name}: median ${at(values, 0.5).toFixed(2)} ms, p95 ${at(values, 0.95).toFixed(2)} ms`;
console.log(line('health', times.health));
console.log(line('test call', times.test));
console.log(
  `  more at p95: ${(at(times.test, 0.95) - at(times.health, 0.95)).toFixed(2)} ms (target: at most 5 ms), ratio ${(at(times.test, 0.95) / at(times.health, 0.95)).toFixed(1)}`,
);
await night.close();
await database.destroy();
