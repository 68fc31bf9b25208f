/**
 * npm test: everything from a bare machine. Types, lint, the dependency law, then core, the API on the real
 * PostgreSQL, and the real interface in headless Chromium. Ends with one line: N passed, N failed.
 */
import { readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { startCluster } from './lib/cluster.mjs';
import { ensureBuilt } from './lib/build.mjs';
import { ensureChromium, ensureNodePackages, ensurePostgres, ensureVoice } from './lib/packages.mjs';
import { captured, project, run } from './lib/run.mjs';
import { say } from './lib/say.mjs';

ensureNodePackages();
ensurePostgres();
ensureChromium();
ensureVoice();

let passed = 0;
let failed = 0;

/** Runs a check beside others; what it says comes when it is done. */
async function step(name, command, args) {
  const { code, output } = await captured(command, args);
  say(`\n${name}${code === 0 ? '' : ': failed'}`);
  if (output !== '') say(output);
  if (code === 0) passed++;
  else failed++;
}

const bin = (name) => join(project, 'node_modules/.bin', name);
const sources = ['core/src', 'server/src', 'standins/src', 'web/src'];
await step('Types of the web client', 'node', ['scripts/api-types.mjs']);
await Promise.all([
  step('Types', bin('vue-tsc'), ['-b']),
  (async () => {
    await step('Number table is that of its source', 'node', ['scripts/number-table.mjs', '--check']);
    await step('Lint', bin('eslint'), ['.']);
    await step('Dependency law', bin('depcruise'), ['--config', '.dependency-cruiser.cjs', ...sources]);
    await step('What deploy/ holds', 'node', ['scripts/lint-deploy.mjs']);
  })(),
]);
ensureBuilt();

const folder = join(project, '.data', `test-${process.pid}`);
const results = join(folder, 'results.json');
const cluster = await startCluster(folder, { fast: true });
for (const signal of ['SIGINT', 'SIGTERM']) {
  process.on(signal, () => void cluster.stop().then(() => process.exit(1)));
}
try {
  say('\nTests');
  const code = await run(
    bin('vitest'),
    [
      'run',
      '--reporter=default',
      '--reporter=json',
      `--outputFile.json=${results}`,
      ...process.argv.slice(2),
    ],
    {
      env: { ...process.env, NIGHT_BELL_TEST_DATABASE: cluster.url },
    },
  );
  const report = JSON.parse(readFileSync(results, 'utf8'));
  passed += report.numPassedTests;
  failed += report.numFailedTests;
  if (code !== 0 && report.numFailedTests === 0) failed++;
} catch (error) {
  say(String(error));
  failed++;
} finally {
  await cluster.stop();
  rmSync(folder, { recursive: true, force: true });
}
say(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
