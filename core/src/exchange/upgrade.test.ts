import { readFileSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { Exchange } from './exchange.ts';
import { Bench, configuration, mainNumber, person, queue } from './exchange.testing.ts';
import { brokenInvariants, engineVersion } from './snapshot.ts';
import type { Version7 } from './upgrade-7.ts';
import { oldestContinued, upgradeEvent, upgradeSnapshot } from './upgrade.ts';

/** The checkpoint of an installation of engine version 6, out of its dump. */
function landedCheckpoint(): Version7 {
  const dump = readFileSync(new URL('../../../server/fixtures/engine-6.sql', import.meta.url), 'utf8');
  const rows = /INSERT INTO public\.exchange_checkpoint VALUES\s+\((\d+), 6, '((?:[^']|'')*)'/.exec(dump)!;
  return JSON.parse(rows[2]!.replaceAll("''", "'")) as Version7;
}

describe('a state saved by an older engine', () => {
  test('goes on: its calls, people and timers are there, and nothing is broken', () => {
    const saved = landedCheckpoint();
    expect(saved.calls.length).toBeGreaterThan(3);
    const exchange = Exchange.restore(upgradeSnapshot(6, saved)!);
    const state = exchange.view();
    expect(brokenInvariants(state)).toEqual([]);
    expect([...state.calls.keys()]).toEqual(saved.calls.map((call) => call.id));
    for (const was of saved.calls) {
      const call = state.calls.get(was.id)!;
      expect(call.talkingAgent?.person.id ?? null).toBe(was.talkingAgent);
      expect(call.activity.since).toBe(was.stageSince);
      expect(call.legs).toEqual(was.legs);
    }
    for (const was of saved.agents) {
      const agent = state.agents.get(was.person.id)!;
      expect([agent.presence, agent.awayReason]).toEqual([was.presence, was.awayReason]);
      expect(agent.wrapUpUntil).toBe(was.wrapUpTimer?.at ?? 0);
    }
    expect(state.timers.size).toBe(
      [
        ...saved.calls.flatMap((call) => [
          call.ringTimer,
          call.maxWaitTimer,
          call.messageTimer,
          call.connectByTimer,
        ]),
        ...saved.agents.flatMap((agent) => [agent.wrapUpTimer, agent.restTimer]),
        ...saved.campaigns.map((campaign) => campaign.askTimer),
      ].filter((timer) => timer !== null).length,
    );
    // It is of this engine now: saved and restored it is the same.
    const again = exchange.snapshot();
    expect(upgradeSnapshot(engineVersion, again)).toEqual(again);
    expect(JSON.stringify(Exchange.restore(again).snapshot())).toBe(JSON.stringify(again));
  });

  test('every field that is saved now is there after the upgrade', () => {
    const bench = new Bench(configuration([person('a')], [queue('q', ['a'])]));
    bench.register(0, 'a');
    bench.call(1);
    const now = bench.exchange.snapshot().slices;
    const then = upgradeSnapshot(6, landedCheckpoint())!.slices;
    const keys = (of: object) => Object.keys(of).sort();
    expect(keys(then)).toEqual(keys(now));
    expect(keys(then.calls.data.calls[0]!)).toEqual(keys(now.calls.data.calls[0]!));
    expect(keys(then.agents.data.agents[0]!)).toEqual(keys(now.agents.data.agents[0]!));
    expect(keys(then.setUp.data)).toEqual(keys(now.setUp.data));
  });

  test('that is too old, newer than this one, or has a slice that is newer, cannot be continued', () => {
    const snapshot = new Exchange().snapshot();
    expect(upgradeSnapshot(oldestContinued - 1, snapshot)).toBeNull();
    expect(upgradeSnapshot(engineVersion + 1, snapshot)).toBeNull();
    const { agents, ...slices } = snapshot.slices;
    const newer = { ...snapshot, slices: { ...slices, agents: { ...agents, version: agents.version + 1 } } };
    expect(() => upgradeSnapshot(engineVersion, newer)).toThrow('newer than this engine');
  });
});

test('a set-up in the log of an older engine is read as one of today', () => {
  const numbers = [
    {
      ...{ id: 'n', e164: mainNumber, label: 'N', sourceId: null },
      plan: {
        ...{ id: 'n.direct', version: 3, fallback: { kind: 'voicemail', id: 'v' } },
        steps: [{ id: 'only', destination: { kind: 'queue', id: 'q' } }],
      },
    },
  ];
  const event = { seq: 1, at: 0, kind: 'configurationChanged', changes: { numbers } };
  const upgraded = upgradeEvent(event as unknown as Parameters<typeof upgradeEvent>[0]);
  expect(upgraded).toMatchObject({
    changes: {
      numbers: [
        {
          plan: {
            ...{ id: 'n.direct', version: 3, start: 'only', fallback: { kind: 'voicemail', id: 'v' } },
            steps: { only: { kind: 'queue', config: { queueId: 'q' }, exits: {} } },
          },
        },
      ],
    },
  });
  expect(upgradeEvent(upgraded)).toEqual(upgraded);
});
