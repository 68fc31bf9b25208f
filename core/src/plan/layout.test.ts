import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { CompiledStep } from '../model/plan.ts';
import { insert, freshStep, mainExit, type PlanDocument } from './document.ts';
import { layOut, type PlanLayout, turnsAt, wayKey } from './layout.ts';
import { planTemplates } from './templates.ts';

const keys = (count: number) =>
  Array.from({ length: count }, (_, index) => ({
    key: String((index + 1) % 10),
    label: `choice ${index + 1}`,
  }));
const menu = (exits: Record<string, string>, count = Object.keys(exits).length): CompiledStep => ({
  kind: 'keys',
  config: { promptId: 'p', keys: keys(count), waitSeconds: 5, tries: 3 },
  exits,
});
const say = (next?: string): CompiledStep => ({
  ...freshStep('say'),
  exits: next === undefined ? {} : { next },
});
const at = ({ steps }: PlanLayout, id: string) => {
  const { column, row } = steps.find(({ stepId }) => stepId === id)!;
  return [column, row];
};

interface Line {
  from: [number, number];
  to: [number, number];
  way: string;
}
/** What is drawn, as straight lines; a join also goes up or down before its end. */
function linesOf({ strands }: PlanLayout): Line[] {
  return strands.flatMap((strand) => {
    const way = strand.place === 'start' ? 'start' : strand.place.after;
    const { column, row } = strand.from;
    const own = 'row' in strand ? strand.row : strand.to.row;
    const down: Line[] = own === row ? [] : [{ from: [column, row], to: [column, own], way }];
    if (strand.kind === 'leads') return [...down, { from: [column, own], to: [strand.to.column, own], way }];
    if (strand.kind !== 'joins') return [...down, { from: [column, own], to: [column + 0.9, own], way }];
    const turn = strand.to.column - turnsAt;
    const joined = `to ${strand.target}`;
    return [
      ...down,
      { from: [column, own], to: [turn, own], way },
      { from: [turn, own], to: [turn, strand.to.row], way: joined },
    ];
  });
}
/** Lines that cross in their middles, or run over one another. */
function crossings(lines: readonly Line[]): string[] {
  const found: string[] = [];
  const isLevel = ({ from, to }: Line) => from[1] === to[1];
  const level = lines.filter(isLevel);
  const upright = lines.filter((line) => !isLevel(line));
  for (const { from: a, to: b, way } of upright)
    for (const { from: c, to: d, way: other } of level) {
      const [high, low] = [Math.min(a[1], b[1]), Math.max(a[1], b[1])];
      if (c[1] > high && c[1] < low && a[0] > c[0] && a[0] < d[0] && way !== other)
        found.push(`${way} crosses ${other} at ${a[0]} ${c[1]}`);
    }
  for (const [index, one] of level.entries())
    for (const other of level.slice(index + 1))
      if (one.from[1] === other.from[1] && one.from[0] < other.to[0] && other.from[0] < one.to[0])
        found.push(`${one.way} runs over ${other.way} in row ${one.from[1]}`);
  for (const [index, one] of upright.entries())
    for (const other of upright.slice(index + 1)) {
      const [a, b] = [one, other].map(({ from, to }) => [Math.min(from[1], to[1]), Math.max(from[1], to[1])]);
      if (one.from[0] === other.from[0] && a![0]! < b![1]! && b![0]! < a![1]! && one.way !== other.way)
        found.push(`${one.way} runs over ${other.way} in column ${one.from[0]}`);
    }
  return found;
}

/** Plans as people build them: lines, menus, hours, ways that join, go back, or lead nowhere. */
const someDocument = (most: number) =>
  fc
    .array(
      fc.record({
        kind: fc.constantFrom('say', 'say', 'hours', 'keys', 'queue', 'ring', 'voicemail'),
        targets: fc.array(fc.nat(), { minLength: 6, maxLength: 6 }),
        joins: fc.integer({ min: 0, max: 9 }),
      }),
      { minLength: 1, maxLength: most },
    )
    .map((kinds): PlanDocument => {
      const steps: Record<string, CompiledStep> = {};
      kinds.forEach(({ kind, targets, joins }, index) => {
        const names = {
          say: ['next'],
          hours: ['open', 'closed', 'holiday'],
          keys: ['key1', 'key2', 'key3', 'noKey'],
          queue: ['waitedTooLong', 'gone'],
          ring: ['notTaken'],
          voicemail: [],
        }[kind]!;
        const exits: Record<string, string> = {};
        names.forEach((name, way) => {
          // Mostly onward to a step of its own, sometimes anywhere.
          const target = joins < 2 ? targets[way]! % kinds.length : index * 2 + 1 + way;
          if (target < kinds.length) exits[name] = `s${target}`;
        });
        steps[`s${index}`] =
          kind === 'keys' ? menu(exits, 3) : { ...freshStep(kind as CompiledStep['kind']), exits };
      });
      return { start: 's0', steps };
    });

describe('the picture of a plan', () => {
  test('main lines go straight, branches hang below in the order of their keys', () => {
    const layout = layOut({
      start: 'hours',
      steps: {
        hours: { kind: 'hours', config: { hoursId: 'h' }, exits: { open: 'menu', closed: 'box' } },
        menu: menu({ key1: 'a', key2: 'b', key3: 'c', noKey: 'a' }, 3),
        ...{ a: freshStep('queue'), b: say('b2'), b2: freshStep('queue'), c: freshStep('queue') },
        box: freshStep('voicemail'),
      },
    });
    expect(at(layout, 'hours')).toEqual([1, 0]);
    expect(at(layout, 'menu')).toEqual([2, 0]);
    expect(at(layout, 'a')).toEqual([3, 0]);
    expect(at(layout, 'b')).toEqual([3, 1]);
    expect(at(layout, 'b2')).toEqual([4, 1]);
    expect(at(layout, 'c')).toEqual([3, 2]);
    // Earlier steps hang their branches below those of later ones.
    const [column, row] = at(layout, 'box');
    expect(column).toBe(2);
    expect(row).toBeGreaterThan(3);
  });

  test('ways that meet are drawn into the step; those that go back, or would cross, are written', () => {
    const layout = layOut({
      start: 'a',
      steps: { a: menu({ key1: 'b', key2: 'b', key3: 'a' }, 3), b: say('c'), c: menu({ key1: 'b' }, 1) },
    });
    const of = (after: string, exit: string) =>
      layout.strands.find(({ place }) => place !== 'start' && place.after === after && place.exit === exit)
        ?.kind;
    expect(of('a', 'key2')).toBe('joins');
    expect(of('a', 'key3')).toBe('written');
    expect(of('c', 'key1')).toBe('written');
  });

  test('a way that must lead somewhere and does not is drawn open; one that need not is left out', () => {
    const layout = layOut({ start: 'h', steps: { h: { ...freshStep('hours'), exits: {} } } });
    expect(layout.strands.filter(({ kind }) => kind === 'open').map(({ label }) => label)).toEqual([
      'open',
      'closed',
    ]);
  });

  test('a folded branch says how many steps hang there; what is met elsewhere too stays', () => {
    const document: PlanDocument = {
      start: 'm',
      steps: { m: menu({ key1: 'a', key2: 'b' }, 2), a: say('c'), b: say('d'), c: say(), d: say('c') },
    };
    const layout = layOut(document, new Set([wayKey({ after: 'm', exit: 'key2' })]));
    expect(layout.steps.map(({ stepId }) => stepId).sort()).toEqual(['a', 'c', 'm']);
    expect(layout.strands.find(({ kind }) => kind === 'folded')).toMatchObject({ steps: 2 });
  });

  test('steps that no caller gets to stand below, and are told apart', () => {
    const layout = layOut({ start: 'a', steps: { a: say(), b: say('c'), c: say() } });
    expect(layout.steps.filter(({ lost }) => lost).map(({ stepId }) => stepId)).toEqual(['b', 'c']);
    expect(at(layout, 'b')[1]).toBeGreaterThan(0);
  });

  test('a step that leads to itself first leaves room for what goes on behind it', () => {
    const layout = layOut({
      start: 'a',
      steps: {
        a: { kind: 'hours', config: { hoursId: 'h' }, exits: { open: 'b', closed: 'c', holiday: 'd' } },
        ...{ b: say('d'), c: menu({ key1: 'c', noKey: 'e' }, 1), e: say('a') },
        d: menu({ key1: 'a', key2: 'a', noKey: 'a' }, 2),
      },
    });
    expect(crossings(linesOf(layout))).toEqual([]);
  });

  test('nothing at all is a picture too', () => {
    expect(layOut({ start: null, steps: {} })).toEqual({ steps: [], strands: [], columns: 1, rows: 1 });
  });
});

describe('whatever is built', () => {
  test('every step stands once, in a cell of its own, and no strand crosses another', () => {
    fc.assert(
      fc.property(someDocument(60), (document) => {
        const layout = layOut(document);
        expect(layout.steps.map(({ stepId }) => stepId).sort()).toEqual(Object.keys(document.steps).sort());
        expect(new Set(layout.steps.map(({ column, row }) => `${column} ${row}`)).size).toBe(
          layout.steps.length,
        );
        expect(crossings(linesOf(layout))).toEqual([]);
        for (const { column, row } of layout.steps) {
          expect(column).toBeLessThan(layout.columns);
          expect(row).toBeLessThan(layout.rows);
        }
      }),
      { numRuns: 300 },
    );
  });

  test('every way that leads anywhere is drawn once, from where its step stands', () => {
    fc.assert(
      fc.property(someDocument(40), (document) => {
        const { steps, strands } = layOut(document);
        const drawn = strands.map(({ place }) => wayKey(place));
        expect(new Set(drawn).size).toBe(drawn.length);
        const ways = Object.entries(document.steps).flatMap(([after, { exits }]) =>
          Object.keys(exits).map((exit) => wayKey({ after, exit })),
        );
        expect(drawn).toEqual(expect.arrayContaining(ways));
        for (const { place, from } of strands) {
          if (place === 'start') continue;
          const step = steps.find(({ stepId }) => stepId === place.after)!;
          expect([from.column, from.row]).toEqual([step.column, step.row]);
        }
      }),
      { numRuns: 200 },
    );
  });

  test('folding anything crosses nothing either, and hides no step that stands elsewhere', () => {
    fc.assert(
      fc.property(someDocument(40), fc.array(fc.nat(), { maxLength: 5 }), (document, picks) => {
        const ways = layOut(document)
          .strands.filter(({ kind, place }) => kind === 'leads' && place !== 'start')
          .map(({ place }) => wayKey(place));
        const folded = new Set(ways.length === 0 ? [] : picks.map((pick) => ways[pick % ways.length]!));
        const layout = layOut(document, folded);
        expect(crossings(linesOf(layout))).toEqual([]);
      }),
      { numRuns: 200 },
    );
  });

  test('a step tied in moves only what is behind it, or hangs lower for it', () => {
    let moved = 0;
    let all = 0;
    fc.assert(
      fc.property(someDocument(80), fc.nat(), (document, pick) => {
        const ids = Object.keys(document.steps).filter((id) => mainExit(document.steps[id]!) !== null);
        fc.pre(ids.length > 0);
        const after = ids[pick % ids.length]!;
        const place = { after, exit: mainExit(document.steps[after]!)! };
        const before = layOut(document);
        const next = layOut(insert(document, place, freshStep('say')).document);
        for (const { stepId, column, row } of before.steps) {
          const there = next.steps.find((each) => each.stepId === stepId)!;
          all++;
          if (there.column !== column || there.row !== row) moved++;
        }
      }),
      { numRuns: 200, seed: 11 },
    );
    expect(moved / all).toBeLessThan(0.25);
    expect(moved).toBeGreaterThan(0);
  });
});

test.each(planTemplates.map(({ name, document }) => [name, document] as const))('%s', (_name, document) => {
  const layout = layOut(document);
  expect(crossings(linesOf(layout))).toEqual([]);
  expect(layout.steps).toHaveLength(Object.keys(document.steps).length);
});
