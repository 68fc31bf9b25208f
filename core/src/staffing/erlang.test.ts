import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import cases from './erlang.cases.json' with { type: 'json' };
import { erlangA, erlangB, erlangC, requiredAgents } from './erlang.ts';
import { bothTails, incompleteBeta, logGamma } from './incomplete-beta.ts';

interface Case {
  id: string;
  kind: string;
  input: Record<string, number | string>;
  expected: Record<string, number | boolean | null>;
}
const of = (kind: string) => (cases as unknown as Case[]).filter((each) => each.kind === kind);
const number = (input: Case['input'], name: string) => Number(input[name]);

/** `mean_queue_length` is `meanQueueLength`; a threshold is written T. */
const nameOf = (name: string) =>
  name
    .replace(/_within_T|_exceeds_T/, (end) => end.slice(0, -2))
    .replace(/_([a-z])/g, (_all, letter: string) => letter.toUpperCase());

function close(got: unknown, expected: number | boolean | null, what: string): void {
  if (typeof expected !== 'number') return expect(got, what).toBe(expected);
  const allowed = Math.max(1e-12, 1e-9 * Math.abs(expected));
  expect(Math.abs((got as number) - expected), `${what}: ${String(got)} for ${expected}`).toBeLessThanOrEqual(
    allowed,
  );
}
function allClose({ id, expected }: Case, got: object): void {
  for (const [name, value] of Object.entries(expected))
    close((got as Record<string, unknown>)[nameOf(name)], value, `${id} ${name}`);
}

describe('the published values hold to 1e-9', () => {
  test.each(of('erlang_b'))('$id', (each) => {
    const traffic = number(each.input, 'traffic_erlangs');
    const servers = number(each.input, 'servers');
    const blocking = erlangB(traffic, servers);
    const carried = traffic * (1 - blocking);
    close(blocking, each.expected['blocking']!, 'blocking');
    if ('carried' in each.expected) close(carried, each.expected['carried']!, 'carried');
  });

  test.each(of('erlang_c'))('$id', (each) => {
    const [traffic, servers] = [number(each.input, 'traffic_erlangs'), number(each.input, 'servers')];
    allClose(each, erlangC(traffic, servers, number(each.input, 'aht_s'), number(each.input, 'threshold_s')));
  });

  test.each(of('erlang_a'))('$id', (each) => {
    const { input } = each;
    const got = erlangA(
      number(input, 'calls_per_half_hour') / 1_800,
      ...([number(input, 'aht_s'), number(input, 'patience_mean_s')] as const),
      ...([number(input, 'servers'), number(input, 'threshold_s')] as const),
    );
    allClose(each, got);
  });

  test.each(of('required_agents'))('$id', ({ input, expected }) => {
    const handle = number(input, 'aht_s');
    const traffic = number(input, 'traffic_erlangs');
    const c = (agents: number, within = 20) => erlangC(traffic, agents, handle, within);
    const a = (agents: number, within = 20) =>
      erlangA(
        number(input, 'calls_per_half_hour') / 1_800,
        handle,
        number(input, 'patience_mean_s'),
        agents,
        within,
      );
    const meets: Record<string, (agents: number) => boolean> = {
      C_sl80_20: (agents) => c(agents).serviceLevel >= 0.8,
      C_sl90_10: (agents) => c(agents, 10).serviceLevel >= 0.9,
      C_asa15: (agents) => (c(agents).asa ?? Number.POSITIVE_INFINITY) <= 15,
      A_sl80_20_offered: (agents) => a(agents).slOffered >= 0.8,
      A_sl80_20_answered: (agents) => a(agents).slAnswered >= 0.8,
      A_sl90_10_offered: (agents) => a(agents, 10).slOffered >= 0.9,
      A_sl90_10_answered: (agents) => a(agents, 10).slAnswered >= 0.9,
      A_asa15_answered: (agents) => a(agents).asaAnswered <= 15,
      A_asa15_all: (agents) => a(agents).asaAll <= 15,
      A_abandon3: (agents) => a(agents).pAbandon <= 0.03,
    };
    for (const [name, value] of Object.entries(expected))
      expect([name, requiredAgents(meets[name]!)]).toEqual([name, value]);
  });
});

test('with callers who hardly give up, Erlang A comes to Erlang C; shares add up to one', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 40 }),
      fc.double({ min: 0.05, max: 0.9, noNaN: true }),
      (servers, load) => {
        const traffic = servers * load;
        const patient = erlangA(traffic / 180, 180, 1e7, servers, 20);
        const forEver = erlangC(traffic, servers, 180, 20);
        expect(Math.abs(patient.pWait - forEver.pWait)).toBeLessThan(1e-3);
        const usual = erlangA(traffic / 180, 180, 90, servers, 20);
        expect(usual.slOffered + usual.pAbandonWithin + usual.pWaitExceeds).toBeCloseTo(1, 12);
        expect(usual.pWait).toBeLessThanOrEqual(forEver.pWait + 1e-12);
      },
    ),
    { numRuns: 60 },
  );
});

test('the beta distribution, the gamma function and Student’s tails are those of the tables', () => {
  expect(logGamma(0.5)).toBeCloseTo(Math.log(Math.sqrt(Math.PI)), 12);
  expect(logGamma(11)).toBeCloseTo(Math.log(3_628_800), 10);
  expect(incompleteBeta(0.3, 1, 1)).toBeCloseTo(0.3, 14);
  expect(incompleteBeta(0.5, 3, 3)).toBeCloseTo(0.5, 14);
  // 5 % of both tails: 2.776 at 4 degrees of freedom, 2.093 at 19 (Fisher and Yates, table III).
  expect(bothTails(2.7764451, 4)).toBeCloseTo(0.05, 7);
  expect(bothTails(2.0930241, 19)).toBeCloseTo(0.05, 7);
});
