import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Exchange } from './exchange.ts';
import type { ExchangeEvent } from './kernel/events.ts';
import { day, play } from './random-days.testing.ts';
import { brokenInvariants } from './snapshot.ts';

/** Values that no field expects, and some that one might. */
const absurd: fc.Arbitrary<unknown> = fc.oneof(
  fc.constantFrom<unknown>(undefined, null, '', 'nobody', 0, -1, 1.5, Number.NaN, Number.POSITIVE_INFINITY),
  fc.constantFrom<unknown>(true, [], [null], {}, { kind: 'end' }, { id: {} }, '__proto__', 'x'.repeat(2_000)),
  fc.anything({ maxDepth: 2 }),
);

/** How an event is spoiled: one field is taken out, replaced, or added; deep in it, or at its top. */
interface Spoil {
  which: number;
  does: 'drop' | 'replace' | 'add';
  value: unknown;
}
const spoil: fc.Arbitrary<Spoil> = fc.record({
  which: fc.nat(),
  does: fc.constantFrom('drop', 'replace', 'add'),
  value: absurd,
});

/** Every object within the body of an event, with the names of its fields. */
function places(within: unknown, found: [Record<string, unknown>, string][] = []): typeof found {
  if (typeof within !== 'object' || within === null) return found;
  for (const name of Object.keys(within)) {
    if (name !== 'seq' && name !== 'at') found.push([within as Record<string, unknown>, name]);
    places((within as Record<string, unknown>)[name], found);
  }
  return found;
}

function spoiled(event: ExchangeEvent, { which, does, value }: Spoil): ExchangeEvent {
  const copy = structuredClone(event);
  const all = places(copy);
  const [object, name] = all[which % all.length]!;
  if (does === 'drop') delete object[name];
  else object[does === 'add' ? 'unheardOf' : name] = value;
  return copy;
}

/** Said of what is above its limit; no fault when the limit was lowered under it, for calls go on. */
const aboveALimit = (sentence: string) =>
  / carries more calls than it has channels$| is above their limit of calls$/.test(sentence);

/** Without what time itself changes: timers that are due at the event fire whether it is refused or not. */
const stateOf = (exchange: Exchange) => JSON.stringify({ ...exchange.snapshot(), seq: 0 });

describe('bad input', () => {
  test('every kind of event, spoiled, twice and late: refused with a reason and nothing changed, or taken whole', () => {
    let cases = 0;
    const refused = new Map<string, number>();
    fc.assert(
      fc.property(day, fc.array(spoil, { minLength: 20, maxLength: 20 }), ({ set, moves }, spoils) => {
        const { log, exchange } = play(set, moves);
        let lowered = false;
        const offer = (event: ExchangeEvent) => {
          cases++;
          // What is due at this instant happens whatever comes.
          exchange.handle({ seq: exchange.seq + 1, at: exchange.now, kind: 'clock' });
          const before = stateOf(exchange);
          const handled = exchange.handle({ ...event, seq: exchange.seq + 1, at: exchange.now }, 'full');
          if (handled.refusal !== null) {
            refused.set(handled.refusal, (refused.get(handled.refusal) ?? 0) + 1);
            expect(stateOf(exchange)).toBe(before);
            expect([handled.effects, handled.records]).toEqual([[], []]);
          }
          lowered ||= event.kind === 'configurationChanged' && handled.refusal === null;
          const broken = brokenInvariants(exchange.view());
          expect(lowered ? broken.filter((each) => !aboveALimit(each)) : broken).toEqual([]);
        };
        spoils.forEach((each, i) => {
          const event = log[(each.which + i * 7) % log.length]!;
          offer(spoiled(event, each));
          offer(event);
        });
      }),
      { numRuns: Number(process.env.NIGHT_BELL_FUZZ_DAYS ?? 60) },
    );
    expect(cases).toBeGreaterThanOrEqual(2_000);
    // It is no test when everything is taken.
    expect(refused.get('malformed')).toBeGreaterThan(cases / 20);
    expect(refused.size).toBeGreaterThan(8);
  });

  test('a kind that nobody knows is malformed; a number out of order or a time that is none is thrown back', () => {
    const exchange = new Exchange();
    const event = { seq: 1, at: 0, kind: 'toString' } as unknown as ExchangeEvent;
    expect(exchange.handle(event).refusal).toBe('malformed');
    expect(() => exchange.handle({ seq: 5, at: 0, kind: 'clock' })).toThrow('without gaps');
    expect(() => exchange.handle({ seq: 2, at: Number.NaN, kind: 'clock' })).toThrow('has no time');
    expect(exchange.handle({ seq: 2, at: 0, kind: 'clock' }).refusal).toBeNull();
  });
});
