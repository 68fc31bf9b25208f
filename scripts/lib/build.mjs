import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
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

/** Builds server, stand-ins and web when a source changed since the last build. */
export function ensureBuilt() {
  const stamp = join(project, 'node_modules', '.night-bell-build');
  const now = fingerprint();
  const complete = ['server/dist/main.js', 'standins/dist/main.js', 'web/dist/index.html'].every((file) =>
    existsSync(join(project, file)),
  );
  if (complete && existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return;
  say('Building (about half a minute, after changes only) ...');
  const tools = join(project, 'node_modules', '.bin');
  for (const [command, args, cwd] of [
    ['tsc', ['-b', 'core', 'server', 'standins'], project],
    ['vite', ['build', '--logLevel', 'warn'], join(project, 'web')],
  ]) {
    const { ok, output } = quietly(join(tools, command), args, { cwd });
    if (!ok) giveUp(`The build failed:\n${output}`);
  }
  writeFileSync(stamp, now);
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
