import { spawn, spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';

/** The project's folder, wherever it was cloned to. */
export const project = fileURLToPath(new URL('../..', import.meta.url)).replace(/\/$/, '');

/** Runs a command to its end with its output shown; resolves to its exit code. */
export function run(command, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { cwd: project, stdio: 'inherit', ...options });
    child.on('error', reject);
    child.on('exit', (code, signal) => resolve(code ?? (signal ? 1 : 0)));
  });
}

/** Runs a command silently; its output comes back, to be shown when it failed. */
export function quietly(command, args, options = {}) {
  const done = spawnSync(command, args, { cwd: project, encoding: 'utf8', maxBuffer: 1 << 26, ...options });
  return { ok: done.status === 0, output: `${done.stdout ?? ''}${done.stderr ?? ''}`.trim() };
}

/** Runs a command beside others; resolves to its exit code and all that it said. */
export function captured(command, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { cwd: project, stdio: ['ignore', 'pipe', 'pipe'], ...options });
    let output = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (part) => (output += part));
    child.on('error', reject);
    child.on('close', (code, signal) => resolve({ code: code ?? (signal ? 1 : 0), output: output.trim() }));
  });
}
