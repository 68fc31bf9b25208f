import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { project, quietly } from './run.mjs';
import { giveUp, say } from './say.mjs';

/** Installs the npm packages of the lock file when they are missing or another lock file's. */
export function ensureNodePackages() {
  if (Number(process.versions.node.split('.')[0]) < 20) giveUp('Night Bell needs Node 20 or later.');
  const lock = createHash('sha256')
    .update(readFileSync(join(project, 'package-lock.json')))
    .digest('hex');
  const stamp = join(project, 'node_modules', '.night-bell-lock');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  say('Installing npm packages (a minute or two, once) ...');
  const { ok, output } = quietly('npm', ['ci', '--no-audit', '--no-fund']);
  if (!ok) giveUp(`npm ci failed:\n${output}`);
  mkdirSync(join(project, 'node_modules'), { recursive: true });
  writeFileSync(stamp, lock);
}

/** Where Debian keeps PostgreSQL 15's programs. */
export const postgresPrograms = '/usr/lib/postgresql/15/bin';

export function ensurePostgres() {
  if (existsSync(`${postgresPrograms}/initdb`)) return;
  // The package would start a cluster of the system's own; Night Bell uses none but its private one.
  const quiet =
    "mkdir -p /etc/postgresql-common && { test -e /etc/postgresql-common/createcluster.conf || echo 'create_main_cluster = false' > /etc/postgresql-common/createcluster.conf; }";
  installDebian('postgresql-15', `${postgresPrograms}/initdb`, quiet);
}

export const chromiumProgram = '/usr/bin/chromium';

export function ensureChromium() {
  if (!existsSync(chromiumProgram)) installDebian('chromium', chromiumProgram);
}

/** The voice that speaks prompts; without it words are written, and sounds brought as files. */
export function ensureVoice() {
  const program = '/usr/bin/espeak-ng';
  if (existsSync(program)) return;
  const missing = installed('espeak-ng', program);
  if (missing !== null)
    say(`${missing}\nUntil then no prompt can be spoken; sounds can be brought as files.`);
}

function installDebian(name, program, before) {
  const missing = installed(name, program, before);
  if (missing !== null) giveUp(missing);
}

/** Null when it is there afterwards, else what to do. */
function installed(name, program, before) {
  const root = process.getuid?.() === 0;
  const sudo = !root && quietly('sudo', ['-n', 'true']).ok;
  const missing = `Night Bell needs the Debian package ${name}. Install it with: sudo apt-get install ${name}`;
  if (!root && !sudo) return missing;
  say(`Installing the Debian package ${name} (once) ...`);
  const asRoot = (command) =>
    root ? quietly('sh', ['-c', command]) : quietly('sudo', ['-n', 'sh', '-c', command]);
  if (before !== undefined) asRoot(before);
  asRoot('apt-get update');
  const { ok, output } = asRoot(
    `DEBIAN_FRONTEND=noninteractive apt-get install -y --no-install-recommends ${name}`,
  );
  return ok && existsSync(program) ? null : `${missing}\n${output}`;
}
