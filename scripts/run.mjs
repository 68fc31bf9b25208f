/**
 * npm run demo | npm start | npm run dev: sets everything up, then runs PostgreSQL, Night Bell and the stand-ins until
 * Ctrl-C. Options: --port N, --fresh (demo: start over).
 */
import { fork, spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { ensureBuilt } from './lib/build.mjs';
import { freePort, ownedBy, startCluster } from './lib/cluster.mjs';
import { ensureNodePackages, ensurePostgres } from './lib/packages.mjs';
import { project } from './lib/run.mjs';
import { giveUp, say } from './lib/say.mjs';

const [mode = 'demo', ...rest] = process.argv.slice(2);
const { values } = parseArgs({
  args: rest,
  options: { port: { type: 'string' }, fresh: { type: 'boolean' }, quiet: { type: 'boolean' } },
});
const demo = mode !== 'start';
const development = mode === 'dev';
const folder = join(project, '.data', demo ? 'demo' : 'own');
const pidFile = join(folder, 'pids.json');
const serverProgram = join(project, development ? 'server/src/main.ts' : 'server/dist/main.js');
const standInProgram = join(project, development ? 'standins/src/main.ts' : 'standins/dist/main.js');
const serviceProgram = (name) =>
  join(project, development ? `standins/src/${name}/main.ts` : `standins/dist/${name}/main.js`);
const harbourBookProgram = serviceProgram('harbour-book');
const numberShopProgram = serviceProgram('number-shop');

let stopping = false;
const stops = [];

async function stop(code = 0) {
  if (stopping) return;
  stopping = true;
  if (!values.quiet) say('\nStopping ...');
  for (const each of stops.reverse()) await each();
  rmSync(pidFile, { force: true });
  process.exit(code);
}
process.on('SIGINT', () => void stop());
process.on('SIGTERM', () => void stop());

ensureNodePackages();
ensurePostgres();
if (!development) ensureBuilt();
await endLeftovers();
if (values.fresh) rmSync(folder, { recursive: true, force: true });
mkdirSync(folder, { recursive: true });

const cluster = await startCluster(folder);
stops.push(cluster.stop);
const port = await freePort(Number(values.port ?? 4380));
const address = `http://127.0.0.1:${port}`;
const gatewayKey = keyFile('gateway-key');
const node = development ? ['--import', 'tsx', '--conditions=source'] : [];

// The demo's customer system: a service of its own, reached like any other, with a key of its own.
const harbourBook = demo
  ? await startService(harbourBookProgram, 'harbour-book', 'Harbour Book', (key) => ({
      HARBOUR_BOOK_FILE: join(folder, 'harbour-book.json'),
      HARBOUR_BOOK_KEY: key,
      HARBOUR_BOOK_SEED: join(project, 'demo/harbour-book.json'),
    }))
  : null;
const numberShop = await startService(numberShopProgram, 'number-shop', 'The number shop', (key) => ({
  NUMBER_SHOP_FILE: join(folder, 'number-shop.json'),
  NUMBER_SHOP_KEY: key,
}));
const server = start(serverProgram, {
  NIGHT_BELL_DATABASE: cluster.url,
  NIGHT_BELL_KEY: join(folder, 'sealing-key'),
  NIGHT_BELL_GATEWAY_KEY: gatewayKey,
  NIGHT_BELL_PORT: String(port),
  NIGHT_BELL_WEB: join(project, 'web/dist'),
  ...(demo ? { NIGHT_BELL_DEMO: join(project, 'demo') } : {}),
  ...(harbourBook === null
    ? {}
    : { NIGHT_BELL_HARBOUR_BOOK: harbourBook.address, NIGHT_BELL_HARBOUR_BOOK_KEY: harbourBook.key }),
  NIGHT_BELL_NUMBER_SHOP: numberShop.address,
  NIGHT_BELL_NUMBER_SHOP_KEY: numberShop.key,
  NODE_ENV: development ? 'development' : 'production',
});
const ready = await firstMessage(server, 'Night Bell');
const standIns = start(standInProgram, {
  NIGHT_BELL_ADDRESS: address,
  NIGHT_BELL_GATEWAY_KEY: gatewayKey,
  NIGHT_BELL_STAND_INS: join(folder, 'stand-ins.json'),
});
standIns.on('message', ({ mood }) => {
  if (mood !== undefined) harbourBook?.child.send({ mood });
});
await firstMessage(standIns, 'The stand-ins');
if (ready.phones.enrol.length > 0) standIns.send({ ...ready.phones, traffic: true });
const children = [server, standIns, numberShop.child, ...(harbourBook === null ? [] : [harbourBook.child])];
writeFileSync(pidFile, JSON.stringify(children.map((child) => child.pid)));
if (development) {
  const vite = spawn(join(project, 'node_modules/.bin/vite'), ['--clearScreen', 'false'], {
    cwd: join(project, 'web'),
    stdio: 'inherit',
    env: { ...process.env, NIGHT_BELL_ADDRESS: address },
  });
  stops.push(() => vite.kill());
}
announce();

function announce() {
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

/** A child that ends with us, however we end: it holds our end of a channel. */
function start(program, environment) {
  const child = fork(program, [], {
    cwd: project,
    env: { ...process.env, ...environment },
    execArgv: node,
    // A group of its own: Ctrl-C is ours to pass on, in order.
    detached: true,
  });
  const over = new Promise((resolve) => child.on('exit', resolve));
  child.on('exit', (code, signal) => {
    if (stopping) return;
    process.stderr.write(`\n${program.slice(project.length + 1)} ended by itself (${signal ?? code}).\n`);
    void stop(1);
  });
  stops.push(async () => {
    if (child.exitCode === null && child.signalCode === null) child.kill('SIGTERM');
    await over;
  });
  return child;
}

/** An outside service that ships with Night Bell: a process of its own, with a key of its own. */
async function startService(program, name, title, environment) {
  const key = keyFile(`${name}-key`);
  const child = start(program, environment(key));
  const { port: servicePort } = await firstMessage(child, title);
  return { child, key, address: `http://127.0.0.1:${servicePort}` };
}

function firstMessage(child, name) {
  return new Promise((resolve) => {
    child.once('message', resolve);
    child.once('exit', () => {
      if (!stopping) giveUp(`${name} did not start; what it said is above.`);
    });
  });
}

function keyFile(name) {
  const file = join(folder, name);
  if (!existsSync(file)) writeFileSync(file, randomBytes(24).toString('base64url'), { mode: 0o600 });
  return readFileSync(file, 'utf8');
}

/** Ends servers and stand-ins of this folder that a kill -9 left behind. */
async function endLeftovers() {
  if (!existsSync(pidFile)) return;
  const pids = JSON.parse(readFileSync(pidFile, 'utf8'));
  const programs = [serverProgram, standInProgram, harbourBookProgram, numberShopProgram];
  const ours = () => pids.filter((pid) => programs.some((program) => ownedBy(pid, program)));
  for (const pid of ours()) process.kill(pid, 'SIGTERM');
  for (let i = 0; i < 50 && ours().length > 0; i++) await new Promise((resolve) => setTimeout(resolve, 100));
  for (const pid of ours()) process.kill(pid, 'SIGKILL');
}
