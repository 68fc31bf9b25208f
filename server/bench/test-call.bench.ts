/** POST of a test call against the server's own health route, on the demo company, over loopback. */
import pino from 'pino';
import { randomBytes } from 'node:crypto';
import { buildApp } from '../src/app.ts';
import { connect } from '../src/database/connection.ts';
import { migrate } from '../src/database/migrate.ts';
import { ensureDemo } from '../src/demo/load.ts';
import { Seal } from '../src/security/seal.ts';

const rounds = 400;
const database = connect(process.env.NIGHT_BELL_TEST_DATABASE ?? '');
await migrate(database);
const seal = new Seal(randomBytes(32));
await ensureDemo(database, seal, process.env.NIGHT_BELL_DEMO ?? '');
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
for (const [personId] of night.live.exchange.view().agents) await night.live.command({ kind: 'agentSignedIn', personId }, null);

const password = 'eight bells and all is well';
const signedIn = await fetch(`${address}/api/session`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ login: 'rowan.tseng', password }),
});
const cookie = signedIn.headers.getSetCookie()[0]!.split(';')[0]!;
const { token } = (await (await fetch(`${address}/api/session`, { headers: { cookie } })).json()) as { token: string };

async function timed(request: () => Promise<Response>): Promise<number> {
  const started = performance.now();
  const response = await request();
  await response.text();
  if (!response.ok) throw new Error(`${response.url} answered ${response.status}`);
  return performance.now() - started;
}

const health = () => fetch(`${address}/api/health`);
const testCall = () =>
  fetch(`${address}/api/test-calls`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', cookie, 'x-night-bell-token': token },
    body: JSON.stringify({ to: '+12065550140', from: '+13605550117' }),
  });

const times = { health: [] as number[], test: [] as number[] };
for (let i = 0; i < rounds + 50; i++) {
  const pair = { health: await timed(health), test: await timed(testCall) };
  if (i < 50) continue; // warm-up
  times.health.push(pair.health);
  times.test.push(pair.test);
}
const at = (values: number[], share: number) => [...values].sort((one, other) => one - other)[Math.floor(values.length * share)]!;
const line = (name: string, values: number[]) => `  ${name}: median ${at(values, 0.5).toFixed(2)} ms, p95 ${at(values, 0.95).toFixed(2)} ms`;
console.log(line('health', times.health));
console.log(line('test call', times.test));
console.log(`  more at p95: ${(at(times.test, 0.95) - at(times.health, 0.95)).toFixed(2)} ms (target: at most 5 ms), ratio ${(at(times.test, 0.95) / at(times.health, 0.95)).toFixed(1)}`);
await night.close();
await database.destroy();
