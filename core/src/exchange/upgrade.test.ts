import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { engineVersion, Exchange } from './exchange.ts';
import { Bench, configuration, person, queue } from './exchange.testing.ts';
import { brokenInvariants } from './invariants.ts';
import { oldestContinued, upgradeSnapshot } from './upgrade.ts';

/** The checkpoint of an installation of engine version 6, out of its dump. */
function landedCheckpoint(): ReturnType<Exchange['snapshot']> {
  const dump = readFileSync(new URL('../../../server/fixtures/engine-6.sql', import.meta.url), 'utf8');
  const rows = /INSERT INTO public\.exchange_checkpoint VALUES\s+\((\d+), 6, '((?:[^']|'')*)'/.exec(dump)!;
  return JSON.parse(rows[2]!.replaceAll("''", "'")) as ReturnType<Exchange['snapshot']>;
}

describe('a state saved by an older engine', () => {
  test('goes on: its calls, people and timers are there, and nothing is broken', () => {
    const saved = landedCheckpoint();
    expect(saved.calls.length).toBeGreaterThan(3);
    expect(saved.calls[0]).not.toHaveProperty('pickedUp');
    const exchange = Exchange.restore(upgradeSnapshot(6, saved)!);
    expect(brokenInvariants(exchange.view())).toEqual([]);
    expect([...exchange.view().calls.keys()]).toEqual(saved.calls.map((call) => call.id));
    for (const call of exchange.view().calls.values()) expect(call.pickedUp).toBe(false);
    // It is of this engine now: saved and restored it is the same.
    const again = exchange.snapshot();
    expect(upgradeSnapshot(engineVersion, again)).toBe(again);
    expect(JSON.stringify(Exchange.restore(again).snapshot())).toBe(JSON.stringify(again));
  });

  test('every field that is saved now is there after the upgrade', () => {
    const bench = new Bench(configuration([person('a')], [queue('q', ['a'])]));
    bench.register(0, 'a');
    bench.call(1);
    const now = bench.exchange.snapshot();
    const then = upgradeSnapshot(6, landedCheckpoint())!;
    expect(Object.keys(then).sort()).toEqual(Object.keys(now).sort());
    expect(Object.keys(then.calls[0]!).sort()).toEqual(Object.keys(now.calls[0]!).sort());
    expect(Object.keys(then.agents[0]!).sort()).toEqual(Object.keys(now.agents[0]!).sort());
  });

  test('that is too old, or newer than this one, cannot be continued', () => {
    const snapshot = new Exchange().snapshot();
    expect(upgradeSnapshot(oldestContinued - 1, snapshot)).toBeNull();
    expect(upgradeSnapshot(engineVersion + 1, snapshot)).toBeNull();
  });
});
