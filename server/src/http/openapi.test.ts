import { spawnSync } from 'node:child_process';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, expect, test } from 'vitest';
import type { NightBell } from '../app.ts';
import { openNight } from '../server.testing.ts';
import type { Route } from './route.ts';

const project = fileURLToPath(new URL('../../../', import.meta.url));
const folder = join(project, '.data', `openapi-${process.pid}`);
const program = (name: string, ...args: string[]) =>
  spawnSync(join(project, 'node_modules/.bin', name), args, { cwd: folder, encoding: 'utf8' });

let night: NightBell;
let address: string;
let key: string;
let drop: () => Promise<void>;

beforeAll(async () => {
  let admin;
  ({ night, admin, address, drop } = await openNight());
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, 'openapi.json'), (await night.app.inject('/api/openapi.json')).body);
  const made = await admin.send<{ id: string }>('POST', '/api/script-keys', {
    ...{ name: 'Generated', role: 'administrator', areas: ['People', 'Calls'] },
  });
  key = (
    await admin.send<{ secret: string }>(
      'POST',
      `/api/script-keys/${made.body.id}/secret`,
      {},
      { 'if-match': '"1"' },
    )
  ).body.secret;
});
afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await drop();
});

test('a linter finds no error in the document', () => {
  const { status, stdout, stderr } = program('redocly', 'lint', 'openapi.json', '--extends', 'recommended');
  expect(status, stdout + stderr).toBe(0);
}, 60_000);

test('every example of a body is one that is taken', () => {
  const withExample = (night.routes as Route[]).filter(({ example }) => example !== undefined);
  expect(withExample.length).toBeGreaterThanOrEqual(7);
  for (const { method, path, body, example } of withExample)
    expect([`${method} ${path}`, body.validate(example).error?.message]).toEqual([
      `${method} ${path}`,
      undefined,
    ]);
});

interface Made {
  postPeople: (options: object) => Promise<{ data: { id: string; name: string } }>;
  getCalls: (options: object) => Promise<{ data: { calls: unknown[] } }>;
  getQueues: (options: object) => Promise<{ error?: { code: string } }>;
}

test('a client that another generator made creates a person and reads calls', async () => {
  const { status, stdout, stderr } = program(
    'openapi-ts',
    ...['-i', 'openapi.json', '-o', 'client', '-c', '@hey-api/client-fetch', '--silent'],
  );
  expect(status, stdout + stderr).toBe(0);
  const made = (await import(/* @vite-ignore */ join(folder, 'client/sdk.gen.ts'))) as Made;
  const common = { baseUrl: address, auth: key };
  const person = await made.postPeople({ ...common, body: { name: 'Gen Erated', role: 'agent' } });
  expect(person.data).toMatchObject({ name: 'Gen Erated' });
  expect((await made.getCalls({ ...common, query: { limit: 5 } })).data.calls).toEqual([]);
  // The key is for other areas.
  expect((await made.getQueues(common)).error).toMatchObject({ code: 'notAllowed' });
}, 60_000);
