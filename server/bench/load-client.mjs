/** A gateway that brings calls, and open pages, in a thread of their own so that they do not wait for the server's work. */
import { parentPort, workerData } from 'node:worker_threads';
import { WebSocket } from 'ws';

const { address, headers, gatewayKey, perSecond, seconds, pages, talkMs, setUpEveryMs, storm } = workerData;
const socketAddress = address.replace(/^http/, 'ws');
const opened = (socket) =>
  new Promise((resolve, reject) => socket.once('open', resolve).once('error', reject));
const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

const said = new Map();
const refs = new Map();
const toEffect = [];
const toPage = [];
const homes = [];
const over = new Set();
let heardHome = 0;

const gateway = new WebSocket(`${socketAddress}/devices`, {
  headers: { authorization: `Bearer ${gatewayKey}` },
});
await opened(gateway);
const say = (message) => gateway.send(JSON.stringify(message));
say({ kind: 'hello', gateway: 'load', legs: [], calls: [] });
const alive = new Set();
gateway.on('message', (data) => {
  const message = JSON.parse(String(data));
  if (message.kind === 'callAccepted') {
    refs.set(message.callId, said.get(message.ref));
    alive.add(message.callId);
    return;
  }
  const callId = message.callId ?? message.leg?.slice(0, message.leg.lastIndexOf('.'));
  const began = refs.get(callId);
  if (began === undefined || began.heard) return;
  began.heard = true;
  toEffect.push(performance.now() - began.at);
});

const open = [];
for (let i = 0; i < pages; i++) {
  const page = new WebSocket(`${socketAddress}/api/live`, { headers });
  await opened(page);
  open.push(page);
  page.on('message', (data) => {
    const message = JSON.parse(String(data));
    if (message.kind !== 'changes') return;
    if (message.home || message.configuration) {
      heardHome++;
      const asked = performance.now();
      void fetch(`${address}/api/home`, { headers })
        .then((response) => response.text())
        .then(() => homes.push(performance.now() - asked));
    }
    if (i > 0) return;
    for (const call of message.calls) {
      const began = refs.get(call.callId);
      if (began === undefined || began.seen) continue;
      began.seen = true;
      toPage.push(performance.now() - began.at);
    }
    for (const callId of message.endedCalls) over.add(callId);
  });
}

let changes = 0;
const changing =
  setUpEveryMs === 0
    ? null
    : setInterval(() => {
        void fetch(`${address}/api/skills`, {
          method: 'POST',
          headers,
          body: JSON.stringify({ name: `Bench skill ${++changes}` }),
        }).then((response) => {
          if (!response.ok) throw new Error(`a skill answered ${response.status}`);
        });
      }, setUpEveryMs);

let count = 0;
function bring() {
  const ref = `load-${++count}`;
  said.set(ref, { at: performance.now(), heard: false, seen: false });
  say({ kind: 'call', ref, to: '+12065550140', from: '+13605550117' });
}
const end = performance.now() + seconds * 1000;
const each = 1000 / perSecond;
let next = performance.now();
while (performance.now() < end) {
  while (next <= performance.now()) {
    bring();
    next += each;
  }
  const now = performance.now();
  for (const callId of alive)
    if (refs.get(callId).at + talkMs < now) {
      alive.delete(callId);
      say({ kind: 'callerHungUp', callId });
    }
  await wait(1);
}
if (changing !== null) clearInterval(changing);

let stormMs = 0;
if (storm > 0) {
  for (let i = alive.size; i < storm; i++) bring();
  while (alive.size < storm) await wait(5);
  await wait(2_000);
  const ids = [...alive];
  const began = performance.now();
  for (const callId of ids) say({ kind: 'callerHungUp', callId });
  while (ids.some((callId) => !over.has(callId)) && performance.now() - began < 30_000) await wait(5);
  stormMs = performance.now() - began;
}
for (const page of open) page.close();
gateway.close();
parentPort.postMessage({ toEffect, toPage, homes, heardHome, changes, stormMs, stormed: storm });
