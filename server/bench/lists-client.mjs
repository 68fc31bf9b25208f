/** Times requests one after the other, in a thread of its own so that it does not wait for the server's work. */
import { parentPort, workerData } from 'node:worker_threads';

const { address, headers, rounds, urls } = workerData;
const times = {};
for (const [name, url] of Object.entries(urls)) {
  times[name] = [];
  for (let i = -5; i < rounds; i++) {
    const started = performance.now();
    const response = await fetch(address + (Array.isArray(url) ? url[Math.abs(i) % url.length] : url), {
      headers,
    });
    await response.text();
    if (!response.ok) throw new Error(`${response.url} answered ${response.status}`);
    if (i >= 0) times[name].push(performance.now() - started);
  }
}
parentPort.postMessage(times);
