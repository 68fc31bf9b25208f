import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { expect, test } from 'vitest';

const crash = new URL('./crash.ts', import.meta.url).href;
const project = fileURLToPath(new URL('../..', import.meta.url));

/** A process that says it meets `trouble`, with what it logged and how it ended. */
function meet(trouble: string): Promise<{ code: number | null; lines: Record<string, unknown>[] }> {
  const program = `
    import pino from 'pino';
    import { endOnUncaught } from '${crash}';
    const logger = pino({ base: null }, pino.destination({ sync: true }));
    endOnUncaught(logger, { requests: () => ['7 GET /api/people'], seq: () => 42 });
    setInterval(() => undefined, 1_000);
    ${trouble}`;
  const child = spawn(process.execPath, ['--import', 'tsx', '--input-type=module', '-e', program], {
    cwd: `${project}/server`,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  let said = '';
  child.stdout.on('data', (part: Buffer) => (said += String(part)));
  return new Promise((resolve) =>
    child.on('close', (code) =>
      resolve({
        code,
        lines: said
          .trim()
          .split('\n')
          .map((line) => JSON.parse(line) as Record<string, unknown>),
      }),
    ),
  );
}

test.each([
  ['an error nobody caught', `setTimeout(() => { throw new Error('on purpose'); });`],
  ['a promise nobody waited for', `void Promise.reject(new Error('on purpose'));`],
  [
    'two at once',
    `setTimeout(() => { throw new Error('on purpose'); }); void Promise.reject(new Error('on purpose'));`,
  ],
])('%s ends the process, said once with what was going on', async (_what, trouble) => {
  const { code, lines } = await meet(trouble);
  expect(code).toBe(1);
  expect(lines).toHaveLength(1);
  expect(lines[0]).toMatchObject({ level: 60, requests: ['7 GET /api/people'], seq: 42 });
  expect(lines[0]!.error).toContain('on purpose');
});
