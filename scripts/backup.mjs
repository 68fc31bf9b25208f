/**
 * npm run backup [-- --of own|demo --to FILE]: everything in the database as it is at one moment, as one file; calls go on.
 * npm run restore -- FILE [--of own|demo]: puts back what such a file holds, all or nothing; Night Bell must be stopped.
 * With NIGHT_BELL_DATABASE set, that database is meant instead of the one this folder keeps.
 */
import { existsSync, mkdirSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { ensureBuilt } from './lib/build.mjs';
import { ownedBy, startCluster } from './lib/cluster.mjs';
import { ensureNodePackages, ensurePostgres } from './lib/packages.mjs';
import { project } from './lib/run.mjs';
import { giveUp, say } from './lib/say.mjs';

const [what, ...rest] = process.argv.slice(2);
const { values, positionals } = parseArgs({
  args: rest,
  allowPositionals: true,
  options: { of: { type: 'string', default: 'own' }, data: { type: 'string' }, to: { type: 'string' } },
});
const folder = values.data ?? join(project, '.data', values.of);

ensureNodePackages();
ensurePostgres();
ensureBuilt();
const { backUp, backupName, restore } = await import(join(project, 'server/dist/database/backup.js'));
if (what === 'backup') await makeBackup();
else await putBack();

async function makeBackup() {
  const file = resolve(values.to ?? join(folder, 'backups', backupName('night-bell')));
  mkdirSync(join(file, '..'), { recursive: true, mode: 0o700 });
  await withDatabase((url) => backUp(url, file));
  say(`The backup is in ${file}`);
  say(
    `Keep the sealing key apart from it, and safe: ${join(folder, 'sealing-key')}\nWithout that file the secrets in the backup cannot be read (keys of customer systems and trunks, secrets of phones), and one-time codes end.`,
  );
}

async function putBack() {
  const [file] = positionals;
  if (file === undefined || !existsSync(file)) giveUp('Say which file: npm run restore -- FILE');
  const server = running()?.pids.server;
  if (server !== undefined && ownedBy(server, join(project, 'server/dist/night-bell.mjs')))
    giveUp('Night Bell is running on this data. Stop it with Ctrl-C first.');
  await withDatabase((url) => restore(url, resolve(file))).catch((error) =>
    giveUp(
      `This could not be put back, and nothing was changed. ${String(error.stderr ?? error.message ?? error).trim()}`,
    ),
  );
  say(
    'Put back. The next start brings it up to this version. The sealing key must be the one that belonged to it.',
  );
}

/** The database that is meant: named, running, or started for as long as it is needed. */
async function withDatabase(work) {
  const named = process.env.NIGHT_BELL_DATABASE;
  if (named !== undefined) return work(named);
  const now = running();
  if (now !== null && ownedBy(now.postgres, join(folder, 'cluster')))
    return work(now.serverEnvironment.NIGHT_BELL_DATABASE);
  if (!existsSync(join(folder, 'cluster')) && what === 'backup')
    giveUp(`There is no installation in ${folder}. Say which with --of own or --of demo.`);
  const cluster = await startCluster(folder);
  try {
    return await work(cluster.url);
  } finally {
    await cluster.stop();
  }
}

function running() {
  const file = join(folder, 'running.json');
  return existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null;
}
