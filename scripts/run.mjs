/**
 * npm run demo | npm start | npm run dev: sets everything up, then runs PostgreSQL, Night Bell and the stand-ins until
 * Ctrl-C, and starts again whatever of them ends or hangs. npm run second: one more server on the same data.
 * Options: --port N, --fresh (demo: start over), --once (set up and end), --of demo|own (second: of which).
 */
import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { ensureBuilt } from './lib/build.mjs';
import { freePort, ownedBy, startCluster } from './lib/cluster.mjs';
import { ensureNodePackages, ensurePostgres, ensureVoice } from './lib/packages.mjs';
import { project } from './lib/run.mjs';
import { giveUp, say } from './lib/say.mjs';
import { Supervised } from './lib/supervise.mjs';

const [mode = 'demo', ...rest] = process.argv.slice(2);
const { values } = parseArgs({
  args: rest,
  options: {
    port: { type: 'string' },
    of: { type: 'string', default: 'demo' },
    data: { type: 'string' },
    fresh: { type: 'boolean' },
    once: { type: 'boolean' },
    quiet: { type: 'boolean' },
  },
});
const second = mode === 'second';
const demo = second ? values.of === 'demo' : mode !== 'start';
const development = mode === 'dev';
const folder = values.data ?? join(project, '.data', demo ? 'demo' : 'own');
const runningFile = join(folder, 'running.json');
const built = (path) =>
  join(project, development ? path.replace('/dist/', '/src/').replace('.js', '.ts') : path);
const programs = {
  server: join(project, development ? 'server/src/main.ts' : 'server/dist/night-bell.mjs'),
  standIns: built('standins/dist/main.js'),
  harbourBook: built('standins/dist/harbour-book/main.js'),
  sailingBot: built('standins/dist/sailing-bot/main.js'),
  numberShop: built('standins/dist/number-shop/main.js'),
};

let stopping = false;
const stops = [];
const children = {};
let running = {};

async function stop(code = 0) {
  if (stopping) return;
  stopping = true;
  if (!values.quiet) say('\nStopping ...');
  for (const each of stops.reverse()) await each();
  if (!second) rmSync(runningFile, { force: true });
  process.exit(code);
}
process.on('SIGINT', () => void stop());
process.on('SIGTERM', () => void stop());

ensureNodePackages();
ensurePostgres();
ensureVoice();
if (!development) ensureBuilt();
if (second) await runSecond();
else await runAll();

async function runAll() {
  await endLeftovers();
  if (values.fresh) rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  const cluster = await startCluster(folder, { said: say, back: () => writeRunning() });
  stops.push(cluster.stop);
  const port = await freePort(Number(values.port ?? 4380));
  const secondPort = await freePort(port + 1);
  const mailPort = await freePort(secondPort + 1);
  const address = `http://127.0.0.1:${port}`;
  const gatewayKey = keyFile('gateway-key');

  // The demo's customer system: a service of its own, reached like any other, with a key of its own.
  const harbourBook = demo
    ? await startService('harbourBook', 'Harbour Book', 'HARBOUR_BOOK', 'harbour-book', {
        HARBOUR_BOOK_SEED: join(project, 'demo/harbour-book.json'),
      })
    : null;
  // A bot that answers sailing times, outside as well.
  const sailingBot = demo
    ? await startService('sailingBot', 'The sailing bot', 'SAILING_BOT', 'sailing-bot')
    : null;
  const numberShop = await startService('numberShop', 'The number shop', 'NUMBER_SHOP', 'number-shop');
  const serverEnvironment = {
    NIGHT_BELL_DATABASE: cluster.url,
    NIGHT_BELL_KEY: join(folder, 'sealing-key'),
    NIGHT_BELL_GATEWAY_KEY: gatewayKey,
    NIGHT_BELL_WEB: join(project, 'web/dist'),
    NIGHT_BELL_BACKUPS: join(folder, 'backups'),
    // What the demo asks stands on this machine; no other address of it is asked.
    ...(demo
      ? {
          NIGHT_BELL_ALLOWED_ADDRESSES: [harbourBook, sailingBot]
            .map(({ address }) => new URL(address).host)
            .join(','),
          NIGHT_BELL_SAILING_BOT: sailingBot.address,
          NIGHT_BELL_SAILING_BOT_KEY: sailingBot.key,
        }
      : {}),
    ...(demo ? { NIGHT_BELL_DEMO: join(project, 'demo') } : {}),
    ...(harbourBook === null
      ? {}
      : { NIGHT_BELL_HARBOUR_BOOK: harbourBook.address, NIGHT_BELL_HARBOUR_BOOK_KEY: harbourBook.key }),
    NIGHT_BELL_MAIL: `smtp://127.0.0.1:${mailPort}`,
    NIGHT_BELL_STORAGE: folder,
    NIGHT_BELL_NUMBER_SHOP: numberShop.address,
    NIGHT_BELL_NUMBER_SHOP_KEY: numberShop.key,
    NODE_ENV: development ? 'development' : 'production',
  };
  const ready = await supervise('server', 'Night Bell', {
    heartbeat: true,
    environment: () => ({ ...serverEnvironment, NIGHT_BELL_PORT: String(port) }),
  });
  if (values.once) return stop();
  await supervise('standIns', 'The stand-ins', {
    environment: () => ({
      NIGHT_BELL_ADDRESS: `${address},http://127.0.0.1:${secondPort}`,
      NIGHT_BELL_GATEWAY_KEY: gatewayKey,
      NIGHT_BELL_STAND_INS: join(folder, 'stand-ins.json'),
      NIGHT_BELL_MAIL_PORT: String(mailPort),
    }),
    onMessage: ({ mood }) => {
      if (mood !== undefined) children.harbourBook?.send({ mood });
    },
  });
  if (ready.phones.enrol.length > 0) children.standIns.send({ ...ready.phones, traffic: true });
  writeRunning({ address, secondPort, serverEnvironment, postgres: cluster.pid });
  if (development) startVite(address);
  announce(ready, address);
}

/** One more server on the data of an installation that runs: it takes over when the first hangs or ends. */
async function runSecond() {
  if (!existsSync(runningFile))
    giveUp('Start the first server before the second: npm run demo, or npm start.');
  const { secondPort, serverEnvironment } = JSON.parse(readFileSync(runningFile, 'utf8'));
  const port = await freePort(Number(values.port ?? secondPort));
  await supervise('server', 'The second server', {
    heartbeat: true,
    environment: () => ({ ...serverEnvironment, NIGHT_BELL_PORT: String(port) }),
  });
  say(`\n  A second server of the same installation\n  http://127.0.0.1:${port}\n`);
  say('  Ctrl-C stops it; the first goes on.');
}

/** Starts a program and keeps it up; resolves to what it said when it was ready. */
async function supervise(key, name, options) {
  const child = new Supervised({
    name,
    program: programs[key],
    cwd: project,
    execArgv: development ? ['--import', 'tsx', '--conditions=source'] : [],
    ...options,
    onReady: (message) => {
      options.onReady?.(message);
      if (existsSync(runningFile) && !second) writeRunning();
    },
    onBroken: (sentence) => {
      if (stopping) return;
      process.stderr.write(`\n${sentence}\n`);
      void stop(1);
    },
  });
  children[key] = child;
  stops.push(() => child.stop());
  const ready = await child.start();
  // What ended it said so; everything is being stopped.
  return ready ?? new Promise(() => undefined);
}

/** An outside service that ships with Night Bell: a process of its own, with a key of its own, always on one port. */
async function startService(program, title, prefix, name, more = {}) {
  const key = keyFile(`${name}-key`);
  let port = 0;
  await supervise(program, title, {
    environment: () => ({
      [`${prefix}_FILE`]: join(folder, `${name}.json`),
      [`${prefix}_KEY`]: key,
      [`${prefix}_PORT`]: String(port),
      ...more,
    }),
    onReady: (message) => (port = message.port),
  });
  return { key, address: `http://127.0.0.1:${port}` };
}

/** What a second server, and whoever clears up after a kill -9, needs to know. Holds the database's password. */
function writeRunning(more) {
  running = { ...running, ...more };
  const pids = Object.fromEntries(Object.entries(children).map(([key, child]) => [key, child.pid]));
  const now = { ...running, postgres: running.postgres?.(), pids };
  // Whole or not at all: others read it.
  writeFileSync(`${runningFile}.new`, JSON.stringify(now), { mode: 0o600 });
  renameSync(`${runningFile}.new`, runningFile);
}

function startVite(address) {
  const vite = spawn(join(project, 'node_modules/.bin/vite'), ['--clearScreen', 'false'], {
    cwd: join(project, 'web'),
    stdio: 'inherit',
    env: { ...process.env, NIGHT_BELL_ADDRESS: address },
  });
  stops.push(() => vite.kill());
}

function announce(ready, address) {
  say(`\n  Night Bell${ready.name === '' ? '' : `, ${ready.name}`}\n  ${address}\n`);
  if (ready.firstAdministratorCode !== null) {
    say(`  The first visit makes the first administrator. Code: ${ready.firstAdministratorCode}\n`);
  } else if (demo) {
    const { password } = JSON.parse(readFileSync(join(project, 'demo/company.json'), 'utf8'));
    say('  Accounts of the demo, all with the password:');
    say(`  ${password}\n`);
    for (const [login, role] of [
      ['rowan.tseng', 'administrator'],
      ['jo.marrash', 'supervisor'],
      ['ines.calloway', 'agent'],
      ['duncan.fairweather', 'auditor'],
    ]) {
      say(`    ${login.padEnd(20)} ${role}`);
    }
    say('');
  }
  say('  Ctrl-C stops everything and keeps the data.');
}

function keyFile(name) {
  const file = join(folder, name);
  if (!existsSync(file)) writeFileSync(file, randomBytes(24).toString('base64url'), { mode: 0o600 });
  return readFileSync(file, 'utf8');
}

/** Ends servers and stand-ins of this folder that a kill -9 left behind. */
async function endLeftovers() {
  if (!existsSync(runningFile)) return;
  const { pids } = JSON.parse(readFileSync(runningFile, 'utf8'));
  const ours = () =>
    Object.entries(pids)
      .filter(([key, pid]) => ownedBy(pid, programs[key]))
      .map(([, pid]) => pid);
  for (const pid of ours()) process.kill(pid, 'SIGTERM');
  for (let i = 0; i < 50 && ours().length > 0; i++) await new Promise((resolve) => setTimeout(resolve, 100));
  for (const pid of ours()) process.kill(pid, 'SIGKILL');
  rmSync(runningFile, { force: true });
}
