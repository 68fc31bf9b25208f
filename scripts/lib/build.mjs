import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, gzipSync } from 'node:zlib';
import { project, quietly } from './run.mjs';
import { giveUp, say } from './say.mjs';

const sources = [
  'core/src',
  'server/src',
  'standins/src',
  'web/src',
  'web/index.html',
  'web/vite.config.ts',
  'package-lock.json',
];

/** Drivers of other databases, which the query builder would load if they were there; and what is native. */
const notBundled = [
  ...['@node-rs/argon2', 'pg-native', 'pg-query-stream', 'better-sqlite3', 'libsql', 'sqlite3'],
  ...['mariadb', 'mariadb/callback', 'mysql', 'mysql2', 'oracledb', 'tedious'],
];
const banner = `import { createRequire as requireFrom } from 'node:module';
import { fileURLToPath as pathOf } from 'node:url';
const require = requireFrom(import.meta.url);
const __filename = pathOf(import.meta.url);
const __dirname = __filename.slice(0, __filename.lastIndexOf('/'));`;
/** One file of the built server: it starts in half the time, and after a fault every second counts. */
const bundle = (entry, outfile) => [
  ...[`server/dist/${entry}`, '--bundle', '--platform=node', '--format=esm', '--target=node20'],
  ...[`--outfile=server/dist/${outfile}`, '--log-level=error', `--banner:js=${banner}`],
  ...notBundled.map((name) => `--external:${name}`),
];
/** The server, and the threads beside its live loop. */
const bundles = [
  bundle('main.js', 'night-bell.mjs'),
  bundle('beside/thread.js', 'beside.mjs'),
  bundle('sound/thread.js', 'sound.mjs'),
  bundle('areas/campaigns/import-thread.js', 'import.mjs'),
  bundle('lists/save-thread.js', 'save.mjs'),
  bundle('areas/hours/calendar-thread.js', 'calendar.mjs'),
];

/** Builds server, stand-ins and web when a source changed since the last build. */
export function ensureBuilt() {
  const stamp = join(project, 'node_modules', '.night-bell-build');
  const now = fingerprint();
  const complete = [
    'server/dist/night-bell.mjs',
    'server/dist/beside.mjs',
    'server/dist/sound.mjs',
    'server/dist/import.mjs',
    'server/dist/save.mjs',
    'server/dist/calendar.mjs',
    'standins/dist/main.js',
    'web/dist/index.html',
  ].every((file) => existsSync(join(project, file)));
  if (complete && existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return;
  say('Building (about half a minute, after changes only) ...');
  const tools = join(project, 'node_modules', '.bin');
  for (const [command, args, cwd] of [
    ['tsc', ['-b', 'core', 'server', 'standins'], project],
    ...bundles.map((args) => ['esbuild', args, project]),
    ['vite', ['build', '--logLevel', 'warn'], join(project, 'web')],
  ]) {
    const { ok, output } = quietly(join(tools, command), args, { cwd });
    if (!ok) giveUp(`The build failed:\n${output}`);
  }
  packed(join(project, 'web', 'dist'));
  writeFileSync(stamp, now);
}

/** Text is packed once, here, and served as it is. */
function packed(folder) {
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) packed(path);
    else if (/\.(js|css|svg|json)$/.test(name)) {
      const bytes = readFileSync(path);
      writeFileSync(`${path}.br`, brotliCompressSync(bytes));
      writeFileSync(`${path}.gz`, gzipSync(bytes, { level: 9 }));
    }
  }
}

function fingerprint() {
  const hash = createHash('sha256');
  const visit = (path) => {
    const stat = statSync(path);
    if (stat.isDirectory()) for (const name of readdirSync(path).sort()) visit(join(path, name));
    else if (!/\.(test|testing)\.ts$/.test(path))
      hash.update(path.slice(project.length)).update(readFileSync(path));
  };
  for (const source of sources) visit(join(project, source));
  return hash.digest('hex');
}
