/** npm run bench: every figure beside a baseline of the same run. See docs/benchmarks.md. */
import { execFileSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { ensureBuilt } from './lib/build.mjs';
import { startCluster } from './lib/cluster.mjs';
import { ensureNodePackages, ensurePostgres } from './lib/packages.mjs';
import { project, run } from './lib/run.mjs';
import { say } from './lib/say.mjs';

ensureNodePackages();
const { buildSync } = await import('esbuild');
ensurePostgres();
ensureBuilt();

say('\nExchange');
const landed = landedEngine();
let code = await run('node', [bundled('core/bench/exchange.bench.ts')], {
  env: { ...process.env, ...(landed === null ? {} : { NIGHT_BELL_LANDED: landed }) },
});
say('\nPlans and hours');
code += await run('node', [bundled('core/bench/plan.bench.ts')]);
say('\nDialling rules');
code += await run('node', ['--import', 'tsx', '--conditions=source', 'core/bench/dialling.bench.ts']);
say('\nChoosing who is rung');
code += await run('node', ['--import', 'tsx', '--conditions=source', 'core/bench/distribution.bench.ts']);
code += await run('node', ['--import', 'tsx', '--conditions=source', 'core/bench/comparison.bench.ts']);

const folder = join(project, '.data', `bench-${process.pid}`);
const cluster = await startCluster(folder);
try {
  const env = {
    ...process.env,
    NIGHT_BELL_TEST_DATABASE: cluster.url,
    NIGHT_BELL_DEMO: join(project, 'demo'),
  };
  say('\nTest call over HTTP');
  code += await run('node', ['--import', 'tsx', '--conditions=source', 'server/bench/test-call.bench.ts'], {
    env,
  });
  say('\nThe live loop');
  code += await run('node', ['--import', 'tsx', '--conditions=source', 'server/bench/live-load.bench.ts'], {
    env,
  });
  say('\nPeople from a list');
  code += await run('node', ['--import', 'tsx', '--conditions=source', 'server/bench/people.bench.ts'], {
    env,
  });
  say('\nContacts of a campaign');
  code += await run('node', ['--import', 'tsx', '--conditions=source', 'server/bench/contacts.bench.ts'], {
    env,
  });
  say('\nLists of 100,000');
  code += await run('node', ['--import', 'tsx', '--conditions=source', 'server/bench/lists.bench.ts'], {
    env,
  });
  say('\nMany phones, many people');
  code += await run('node', ['--import', 'tsx', '--conditions=source', 'server/bench/many-people.bench.ts'], {
    env,
  });
} finally {
  await cluster.stop();
  rmSync(folder, { recursive: true, force: true });
}

say('\nFirst page');
firstPage();
process.exit(code === 0 ? 0 : 1);

/** The engine as it landed before it was opened up, from the history; null where the history does not reach back. */
function landedEngine() {
  const folder = join(project, '.data', 'landed');
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  try {
    execFileSync('tar', ['-x', '-C', folder], {
      input: execFileSync('git', ['archive', 'ca4f1d5', 'core/src'], { cwd: project, maxBuffer: 1e9 }),
    });
  } catch {
    return null;
  }
  return bundled(join(folder, 'core/src/exchange/exchange.ts'));
}

/** As it runs in earnest: one file of plain JavaScript. */
function bundled(entry) {
  const name = entry.replaceAll(/[^a-z]+/g, '-');
  const file = join(project, '.data', `bench${name}.mjs`);
  buildSync({
    ...{ entryPoints: [entry], outfile: file, bundle: true, platform: 'node', format: 'esm' },
    ...{ conditions: ['source'], logLevel: 'error' },
  });
  return file;
}

/** What the browser loads before anybody signed in, and then for the first page behind it, gzipped. */
function firstPage() {
  const dist = join(project, 'web/dist');
  const assets = new Map(
    readdirSync(join(dist, 'assets')).map((name) => [name, readFileSync(join(dist, 'assets', name))]),
  );
  const seen = new Set();
  const load = (name) => {
    if (seen.has(name) || !assets.has(name)) return;
    seen.add(name);
    if (!name.endsWith('.js')) return;
    // Static imports only: what is imported lazily waits for its route.
    for (const match of String(assets.get(name)).matchAll(/(?:from|import)\s*"\.\/([^"]+)"/g)) load(match[1]);
  };
  for (const match of readFileSync(join(dist, 'index.html'), 'utf8').matchAll(/assets\/([^"]+\.(?:js|css))/g))
    load(match[1]);
  say(`  sign-in: ${kilobytes('.js')} kB JavaScript, ${kilobytes('.css')} kB CSS, gzipped`);
  for (const name of assets.keys()) if (/^(frame|HomePage)-.*\.js$/.test(name)) load(name);
  say(`  and the set-up trail behind it: ${kilobytes('.js')} kB JavaScript in all, gzipped`);
  say(`  Joi and charts in it: ${[...seen].some((name) => /joi|chart/i.test(name)) ? 'yes' : 'no'}`);

  function kilobytes(ending) {
    const bytes = [...seen]
      .filter((name) => name.endsWith(ending))
      .reduce((sum, name) => sum + gzipSync(assets.get(name)).length, 0);
    return (bytes / 1000).toFixed(1);
  }
}
