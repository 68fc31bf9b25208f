import { rmSync } from 'node:fs';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { build } from 'esbuild';
import pino from 'pino';
import { afterAll, beforeAll, expect, test } from 'vitest';
import type { NightBell } from '../app.ts';
import type { Database } from '../database/connection.ts';
import { freshDatabase, startServer, until } from '../server.testing.ts';
import { landedInstallation } from '../live/landed.testing.ts';
import { besideHere } from './here.ts';
import { BesideThread } from './thread-client.ts';

const file = fileURLToPath(new URL(`../../../.data/beside-${process.pid}.mjs`, import.meta.url));
const banner = `import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);`;
const logger = pino({ level: 'silent' });

beforeAll(async () => {
  await build({
    ...{ entryPoints: [fileURLToPath(new URL('thread.ts', import.meta.url))], outfile: file },
    ...{ bundle: true, platform: 'node', format: 'esm', conditions: ['source'], logLevel: 'error' },
    packages: 'external',
    plugins: [
      {
        name: 'our own packages are no packages',
        setup: ({ onResolve }) =>
          onResolve({ filter: /^@night-bell\// }, ({ path }) => ({
            path: fileURLToPath(
              new URL(`../../../core/src/${path.slice('@night-bell/core/'.length)}.ts`, import.meta.url),
            ),
          })),
      },
    ],
    banner: { js: banner },
  });
});
afterAll(() => rmSync(file, { force: true }));

function thread(url: string): BesideThread {
  return new BesideThread(pathToFileURL(file), { database: url }, logger);
}

const asked = {
  ...{ seq: 1, now: true, talks: [] as [string, number][], usualTalkMs: 60_000 },
  call: { to: '+12065550140', from: '+13605550117', at: Date.now() },
};

test('in a thread the same comes out as here; a thread that ended is replaced', async () => {
  const { database, url, drop } = await landedInstallation();
  const beside = thread(url);
  try {
    const here = await besideHere(database).testCall(asked);
    expect(here.story.length).toBeGreaterThan(3);
    expect(await beside.testCall(asked)).toEqual(here);
    expect(await beside.testCall({ ...asked, now: false })).toEqual(
      await besideHere(database).testCall({ ...asked, now: false }),
    );
    const { counts } = JSON.parse(await beside.home({ seq: 1, lines: null })) as {
      counts: { people: number };
    };
    expect(counts.people).toBeGreaterThan(2);
    // What was asked of a thread that ends is refused with a sentence; the next question begins another.
    const ending = (beside as unknown as { worker: { terminate: () => Promise<number> } }).worker.terminate();
    const lost = beside.testCall({ ...asked, now: false });
    await expect(lost).rejects.toThrow('Try again in a moment');
    await ending;
    expect(await beside.testCall(asked)).toEqual(here);
  } finally {
    await beside.close();
    await drop();
  }
  await expect(beside.testCall(asked)).rejects.toThrow('Try again');
});

test('a server with the thread hears of the set-up by it, and the thread leaves the checkpoints', async () => {
  const { database, url, drop } = await freshDatabase();
  const beside = thread(url);
  let night: NightBell | null = null;
  try {
    night = await startServer(database, { beside });
    await until(() => night!.live.isHost, 'the server hosts');
    await night.live.settled();
    const before = await checkpoints(database);
    for (let i = 0; i < 5_100; i++) night.live.submit({ kind: 'clock' });
    await night.live.committed();
    await until(async () => (await checkpoints(database)) > before, 'the thread leaves a checkpoint');
    const seq = await night.live.committed();
    const last = await database('exchange_checkpoint').max<{ max: number }[]>('seq as max').first();
    expect(last!.max).toBeLessThanOrEqual(seq);
  } finally {
    await night?.close();
    await drop();
  }
});

async function checkpoints(database: Database): Promise<number> {
  const row = await database('exchange_checkpoint').count<{ count: string }[]>('seq as count').first();
  return Number(row?.count ?? 0);
}
