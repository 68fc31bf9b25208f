/** POST of a test call against the server's own health route, on the demo company, over loopback. */
import { Worker } from 'node:worker_threads';
import { at, openCompany } from './company.ts';

const rounds = 400;
const { night, address, headers, close } = await openCompany();
for (const [personId] of night.live.exchange.view().agents)
  await night.live.command({ kind: 'agentSignedIn', personId }, null).catch(() => undefined);

const times = await new Promise<{ health: number[]; test: number[] }>((resolve, reject) => {
  const client = new Worker(new URL('./client.mjs', import.meta.url), {
    workerData: { address, headers, rounds, warmUp: 100 },
  });
  client.once('message', resolve);
  client.once('error', reject);
});
const line = (name: string, values: number[]) =>
  `  ${name}: median ${at(values, 0.5).toFixed(2)} ms, p95 ${at(values, 0.95).toFixed(2)} ms`;
console.log(line('health', times.health));
console.log(line('test call', times.test));
console.log(
  `  more at p95: ${(at(times.test, 0.95) - at(times.health, 0.95)).toFixed(2)} ms (target: at most 5 ms), ratio ${(at(times.test, 0.95) / at(times.health, 0.95)).toFixed(1)}`,
);
await close();
