// @vitest-environment happy-dom
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { useLive } from './live.ts';

/** The server's end of the socket. */
class Line {
  static readonly OPEN = 1;
  static all: Line[] = [];
  readyState = 1;
  onmessage: (event: { data: string }) => void = () => undefined;
  onclose: (event: { code: number }) => void = () => undefined;
  constructor() {
    Line.all.push(this);
  }
  close() {
    this.readyState = 3;
    this.onclose({ code: 1006 });
  }
  say(message: object) {
    this.onmessage({ data: JSON.stringify(message) });
  }
}
const nothing = { agents: [], queues: [], calls: [], trunks: [], campaigns: [] };
const changes = {
  endedCalls: [],
  goneAgents: [],
  configuration: false,
  texts: false,
  home: false,
  items: [],
};
const agent = (personId: string, more: object = {}) => ({
  ...{ personId, name: personId, state: 'available', reachedBy: 'softphone', callIds: [] },
  ...more,
});
let ready: Response;

beforeEach(() => {
  vi.useFakeTimers();
  Line.all = [];
  vi.stubGlobal('WebSocket', Line);
  ready = new Response(null, { status: 204 });
  vi.stubGlobal('fetch', () => Promise.resolve(ready.clone()));
  setActivePinia(createPinia());
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});
function started() {
  const live = useLive();
  live.start();
  live.start();
  return { live, line: () => Line.all.at(-1)! };
}

test('one line is opened; what is there is told whole, then what changes', () => {
  const { live, line } = started();
  expect(Line.all).toHaveLength(1);
  line().say({ kind: 'all', at: 1, ...nothing, agents: [agent('a'), agent('b', { state: 'signedOut' })] });
  expect([...live.agents.keys()]).toEqual(['a', 'b']);
  line().say({ kind: 'changes', at: 2, ...nothing, ...changes, calls: [{ callId: 'c' }] });
  expect(live.calls.has('c')).toBe(true);
  line().say({
    ...{ kind: 'changes', at: 3, ...nothing, ...changes, endedCalls: ['c'], goneAgents: ['b'] },
    items: [{ kind: 'queue', id: 'q' }],
  });
  expect([live.calls.size, live.agents.size, live.endedCalls]).toEqual([0, 1, ['c']]);
  expect(live.changedItems).toEqual([{ kind: 'queue', id: 'q' }]);
  // A message about nothing leaves them as they are: whoever watches is not woken.
  const before = live.changedItems;
  line().say({ kind: 'changes', at: 4, ...nothing, ...changes });
  expect(live.changedItems).toBe(before);
});

test('who is signed in, and whom no phone reaches, is counted as it comes', () => {
  const { live, line } = started();
  line().say({
    ...{ kind: 'all', at: 1, ...nothing },
    agents: [
      agent('a'),
      agent('b', { reachedBy: null }),
      agent('c', { state: 'signedOut', reachedBy: null }),
    ],
  });
  expect([live.signedIn, live.unreachable]).toEqual([2, 1]);
  line().say({
    kind: 'changes',
    at: 2,
    ...nothing,
    ...changes,
    agents: [agent('b'), agent('a', { state: 'signedOut' })],
  });
  expect([live.signedIn, live.unreachable]).toEqual([1, 0]);
  line().say({ kind: 'changes', at: 3, ...nothing, ...changes, goneAgents: ['b', 'nobody'] });
  expect([live.signedIn, live.unreachable]).toEqual([0, 0]);
});

test('a line that is lost is opened again, says why, and has what was missed read again', async () => {
  const { live, line } = started();
  line().say({ kind: 'all', at: 1, ...nothing });
  expect(live.missed).toBe(0);
  ready = Response.json(
    {
      status: 503,
      code: 'exchangeAway',
      title: 'Away',
      detail: 'The exchange is being rebuilt.',
      errors: [],
    },
    { status: 503 },
  );
  line().close();
  await vi.advanceTimersByTimeAsync(10);
  expect(live.connected).toBe(false);
  expect(live.away?.why).toBe('The exchange is being rebuilt.');
  await vi.advanceTimersByTimeAsync(1_000);
  expect(Line.all).toHaveLength(2);
  line().say({ kind: 'all', at: 9, ...nothing });
  expect([live.connected, live.away, live.missed]).toEqual([true, null, 1]);
});

test('a line that has gone silent is given up; pulses keep it, and set the clock', async () => {
  const { live, line } = started();
  line().say({ kind: 'all', at: Date.now(), ...nothing });
  for (let i = 0; i < 3; i++) {
    await vi.advanceTimersByTimeAsync(10_000);
    line().say({ kind: 'pulse', at: Date.now() + 60_000 });
  }
  expect(Line.all).toHaveLength(1);
  await vi.advanceTimersByTimeAsync(1_000);
  expect(live.now - Date.now()).toBe(60_000);
  await vi.advanceTimersByTimeAsync(27_000);
  expect(Line.all.length).toBeGreaterThan(1);
});

test('who signs out hears nothing any more', async () => {
  const { live, line } = started();
  line().say({ kind: 'all', at: 1, ...nothing, agents: [agent('a')] });
  live.stop();
  await vi.advanceTimersByTimeAsync(5_000);
  expect([Line.all.length, live.agents.size, live.signedIn]).toEqual([1, 0, 0]);
});
