/** The browser's side of the bench, in a thread of its own so that it does not wait for the server's work. */
import { parentPort, workerData } from 'node:worker_threads';

const { address, headers, rounds, warmUp } = workerData;

async function timed(request) {
  const started = performance.now();
  const response = await request();
  await response.text();
  if (!response.ok) throw new Error(`${response.url} answered ${response.status}`);
  return performance.now() - started;
}

const health = () => fetch(`${address}/api/health`);
const testCall = () =>
  fetch(`${address}/api/test-calls`, {
    method: 'POST',
    headers,
    body: JSON.stringify({ to: '+12065550140', from: '+13605550117' }),
  });

const times = { health: [], test: [] };
for (let i = 0; i < rounds + warmUp; i++) {
  const pair = { health: await timed(health), test: await timed(testCall) };
  if (i < warmUp) continue;
  times.health.push(pair.health);
  times.test.push(pair.test);
}
parentPort.postMessage(times);
