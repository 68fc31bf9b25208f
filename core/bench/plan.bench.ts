/**
 * Plans and hours: the check of a plan of 300 steps, opening hours a second, a call through a plan of 90 steps, and what
 * five steps cost a day of calls; each beside a bare loop of this run.
 */
import { Exchange, exchangeOver } from '../src/exchange/exchange.ts';
import { isOpenAt, type OpeningHours } from '../src/hours/opening-hours.ts';
import { utcClock } from '../src/hours/zone-clock.ts';
import type { Configuration } from '../src/model/configuration.ts';
import type { CompiledPlan, CompiledStep } from '../src/model/plan.ts';
import { checkPlan } from '../src/plan/check.ts';
import { compiledPlan, type PlanDocument } from '../src/plan/document.ts';
import { layOut } from '../src/plan/layout.ts';
import { regionOf } from '../src/plan/regions.ts';
import { outline } from '../src/plan/outline.ts';
import { company, median, timeDay, type Engine, writeDay } from './day.ts';

const runs = 15;
const hours: OpeningHours = {
  ...{ id: 'h', name: 'Hours', clock: utcClock, storm: null },
  weekly: Array.from(
    { length: 7 },
    () =>
      [
        [0, 720],
        [720, 1_440],
      ] as const,
  ),
  days: Object.fromEntries(
    Array.from({ length: 60 }, (_, i) => {
      const date = `2026-${String(1 + (i % 12)).padStart(2, '0')}-${String(1 + Math.floor(i / 12)).padStart(2, '0')}`;
      return [date, { date, name: date, holiday: true, ranges: [] }];
    }),
  ),
};
const prompt = { id: 'p', name: 'P', seconds: 0, words: 'Press 1.' };

/** Hours and Say in turn, on one line, ending in `last`. */
function line(steps: number, last: CompiledStep): PlanDocument {
  const all: Record<string, CompiledStep> = {};
  for (let i = 0; i < steps - 1; i++)
    all[`s${i}`] =
      i % 2 === 0
        ? { kind: 'hours', config: { hoursId: 'h' }, exits: { open: `s${i + 1}`, closed: `s${steps - 1}` } }
        : { kind: 'say', config: { promptId: 'p', againKey: null }, exits: { next: `s${i + 1}` } };
  all[`s${steps - 1}`] = last;
  return { start: 's0', steps: all };
}
const end: CompiledStep = { kind: 'end', config: {}, exits: {} };
const ms = (work: () => void) => {
  const began = performance.now();
  work();
  return performance.now() - began;
};

const large = line(300, end);
const view = {
  ...{ has: () => true, words: () => 'Press 1.', hours: () => undefined, languages: () => ['en'] },
  ...{ leadsTo: () => [], numbers: () => [], hidingExtensions: () => null, recordFields: () => null },
};
const checked = median(
  Array.from({ length: runs }, () => ms(() => checkPlan(compiledPlan('p', 1, large), view))),
);
const listed = median(Array.from({ length: runs }, () => ms(() => outline(large))));
const parsed = median(Array.from({ length: runs }, () => ms(() => JSON.parse(JSON.stringify(large)))));
console.log(
  `  a plan of 300 steps: checked in ${checked.toFixed(2)} ms (target: at most 10), laid out as a list in ${listed.toFixed(2)} ms; written and read as JSON in ${parsed.toFixed(2)} ms`,
);

const times = Array.from({ length: 200_000 }, (_, i) => 1_790_000_000_000 + i * 977_777);
let open = 0;
const asked = median(
  Array.from({ length: 7 }, () => ms(() => times.forEach((at) => (open += isOpenAt(hours, at) ? 1 : 0)))),
);
const bare = median(
  Array.from({ length: 7 }, () => ms(() => times.forEach((at) => (open += (at / 60_000) % 2)))),
);
console.log(
  `  opening hours with 60 unusual days: ${Math.round((1_000 * times.length) / asked).toLocaleString('en')} evaluations/s (target: at least 200,000); ${(asked / bare).toFixed(0)} times a bare division${open < 0 ? '!' : ''}`,
);

function oneCall(plan: CompiledPlan): number {
  const set: Configuration = {
    ...company({ agents: 1, queues: 1, campaigns: 0 }),
    hours: [hours],
    prompts: [prompt],
  };
  const exchange = exchangeOver({ ...set, numbers: [{ ...set.numbers[0]!, plan }] }, 0);
  return ms(() => {
    exchange.handle(
      { seq: 2, at: 1, kind: 'callArrived', callId: 'c', to: set.numbers[0]!.e164, from: '+13605550117' },
      'bounded',
    );
    exchange.handle({ seq: 3, at: 2, kind: 'clock' }, 'bounded');
  });
}
const ninety = compiledPlan('ninety', 1, line(90, end));
const through = median(Array.from({ length: 200 }, () => oneCall(ninety)).slice(50));
console.log(
  `  a call through a plan of 90 steps: ${through.toFixed(3)} ms in the engine (target: at most 1)`,
);

/** Menus of six keys within menus, to 318 steps, with ways that join and go back. */
function menus(): PlanDocument {
  const steps: Record<string, CompiledStep> = {};
  const keys = Array.from({ length: 6 }, (_, index) => ({
    key: String(index + 1),
    label: `choice ${index + 1}`,
  }));
  let count = 0;
  const grow = (depth: number): string => {
    const id = `s${count++}`;
    if (depth === 0 || count > 312)
      steps[id] = { kind: 'queue', config: { queueId: 'q', priority: null }, exits: {} };
    else {
      const exits: Record<string, string> = {};
      for (const { key } of keys) if (count < 318) exits[`key${key}`] = grow(depth - 1);
      exits.noKey = exits.key1 ?? 's0';
      steps[id] = { kind: 'keys', config: { promptId: 'p', keys, waitSeconds: 5, tries: 3 }, exits };
    }
    return id;
  };
  return { start: grow(4), steps };
}
const picture = menus();
const drawn = median(Array.from({ length: runs }, () => ms(() => layOut(picture))));
console.log(
  `  a picture of ${Object.keys(picture.steps).length} steps: laid out in ${drawn.toFixed(1)} ms (target: at most 100)`,
);

const prefixes = Array.from({ length: 50_000 }, (_, index) => `1${2_000_000 + index * 137}`.slice(0, 8));
const table = {
  ...{ id: 't', name: 'T' },
  ways: [{ destination: { kind: 'end' as const }, prefixes: [...new Set(prefixes)].join(' ') }],
};
const callers = Array.from({ length: 200_000 }, (_, index) => `+1${2_000_000_000 + index * 39_773}`);
let regions = 0;
regionOf(table, callers[0]!);
const found = median(
  Array.from({ length: 7 }, () =>
    ms(() => callers.forEach((from) => (regions += regionOf(table, from) === null ? 0 : 1))),
  ),
);
const cut = median(
  Array.from({ length: 7 }, () => ms(() => callers.forEach((from) => (regions += from.slice(1, 9).length)))),
);
console.log(
  `  a caller in a region table of 50,000 rows: ${((1_000 * found) / callers.length).toFixed(2)} µs (target: at most 2); ${(found / cut).toFixed(0)} times cutting the number once${regions < 0 ? '!' : ''}`,
);

/** The same day, each number leading through four steps into its queue, or straight. */
const day = writeDay({ agents: 1_000, queues: 20, campaigns: 4 }, 30_000, 4.76, 180_000);
const withPlans = day.bodies.map((body) =>
  body.kind !== 'configurationChanged'
    ? body
    : {
        ...body,
        changes: {
          ...body.changes,
          ...{ hours: [hours], prompts: [prompt] },
          numbers: body.changes.numbers!.map((number) => ({
            ...number,
            plan: {
              ...compiledPlan(`${number.id}.plan`, 1, {
                ...line(5, number.plan!.steps.only!),
              }),
            },
          })),
        },
      },
);
const straight: number[] = [];
const planned: number[] = [];
for (let i = 0; i < 9; i++) {
  straight.push(timeDay(new Exchange() as unknown as Engine, day.bodies, day.times));
  planned.push(timeDay(new Exchange() as unknown as Engine, withPlans, day.times));
}
console.log(
  `  a day of calls, each through five steps instead of one: ${(median(planned) / median(straight)).toFixed(2)} times the time an event (target: at most 1.05)`,
);
