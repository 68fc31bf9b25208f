/**
 * npm run abuse: the worst day in its long form, on loopback only, with a demo, a port and data of its own: kills of
 * server, stand-ins and PostgreSQL in live use, poison, a misbehaving customer system, hanging and second servers.
 */
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { ensureBuilt } from './lib/build.mjs';
import { ensureChromium, ensureNodePackages, ensurePostgres } from './lib/packages.mjs';
import { project, run } from './lib/run.mjs';

ensureNodePackages();
ensurePostgres();
ensureChromium();
ensureBuilt();
mkdirSync(join(project, '.data'), { recursive: true });
process.exit(
  await run(join(project, 'node_modules/.bin/vitest'), ['run', 'e2e/abuse'], {
    env: { ...process.env, NIGHT_BELL_ABUSE: 'long' },
  }),
);
