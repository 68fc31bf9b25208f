/**
 * Time per event of the exchange with bounded records, beside the engine as it landed before it was opened up, taken from
 * the history: alternated runs of the same days in one process. Then how it grows.
 *
 * The counts of heap and Map operations per event are those of the landed engine, frozen: an engine that needs fewer of
 * them is not measured against less.
 */
import { IndexedHeap } from '../src/collections/indexed-heap.ts';
import { Exchange } from '../src/exchange/exchange.ts';
import { type Day, type Engine, median, timeDay, writeDay } from './day.ts';

const runs = Number(process.env.NIGHT_BELL_BENCH_RUNS ?? 15);
/** Of the landed engine, on the recorded day. */
const landedCounts = { pushes: 1.57, removals: 1.56, updates: 0.27 };

const landed = process.env.NIGHT_BELL_LANDED ?? '';
const Landed = landed === '' ? null : ((await import(landed)) as { Exchange: new () => Engine }).Exchange;

/** The same set-up in the words of the landed engine. */
function inLandedWords({ bodies }: Day): object[] {
  return bodies.map((body) => {
    if (body.kind !== 'configurationChanged') return body;
    const { backOffAfterNoAnswerSeconds, backOffAfterDeclineSeconds, ...settings } = body.changes.settings!;
    return {
      ...body,
      changes: {
        ...body.changes,
        settings: {
          ...settings,
          restAfterNoAnswerSeconds: backOffAfterNoAnswerSeconds,
          restAfterDeclineSeconds: backOffAfterDeclineSeconds,
        },
        numbers: body.changes.numbers!.map((number) => ({
          ...number,
          plan: {
            ...{ id: number.plan!.id, version: 1, fallback: number.plan!.fallback },
            steps: [
              {
                id: 'only',
                destination: { kind: 'queue', id: String(number.plan!.steps.only!.config.queueId) },
              },
            ],
          },
        })),
      },
    };
  });
}

function compare(name: string, day: Day): number {
  const { bodies, times } = day;
  const old = inLandedWords(day);
  const ours: number[] = [];
  const theirs: number[] = [];
  for (let i = 0; i < runs + 2; i++) {
    const before = Landed === null ? 0 : timeDay(new Landed(), old, times);
    const now = timeDay(new Exchange() as unknown as Engine, bodies, times);
    if (i < 2) continue; // warm-up
    ours.push((1_000 * now) / bodies.length);
    theirs.push((1_000 * before) / bodies.length);
  }
  const spread = (values: number[]) =>
    `${median(values).toFixed(2)} us an event (${Math.min(...values).toFixed(2)} to ${Math.max(...values).toFixed(2)})`;
  console.log(`${name}: ${bodies.length.toLocaleString('en')} events, ${runs} alternated runs`);
  console.log(
    `  this engine ${spread(ours)}, ${Math.round(1e6 / median(ours)).toLocaleString('en')} events/s`,
  );
  if (Landed !== null) {
    console.log(`  the landed one ${spread(theirs)}`);
    const ratios = ours.map((each, i) => theirs[i]! / each);
    console.log(
      `  ${median(ratios).toFixed(2)} times as fast, from ${Math.min(...ratios).toFixed(2)} to ${Math.max(...ratios).toFixed(2)} in each pair (target: never below 1, goal 1.2)`,
    );
  } else console.log('  the landed engine is not in this history: nothing to compare with');
  return median(ours);
}

/** As many heap and Map operations as the landed engine needs for the day, on structures of the same size. */
function bareLoop(events: number, queues: number): number {
  const heaps = Array.from(
    { length: queues },
    () => new IndexedHeap<{ key: number; heapIndex: number }>((a, b) => a.key < b.key),
  );
  for (const heap of heaps) for (let i = 0; i < 150; i++) heap.push({ key: i, heapIndex: -1 });
  const map = new Map<number, number>();
  const started = performance.now();
  let key = 1_000;
  const pushes = events * landedCounts.pushes;
  const removals = events * landedCounts.removals;
  for (let i = 0; i < Math.max(pushes, removals); i++) {
    const heap = heaps[i % queues]!;
    const node = i < removals ? heap.pop()! : { key: 0, heapIndex: -1 };
    if (i < pushes) {
      node.key = key++ - (key % 100);
      heap.push(node);
    }
  }
  for (let i = 0; i < events * landedCounts.updates; i++) {
    if (i % 2 === 0) map.set(i & 0x7ff, i);
    else map.delete((i - 1) & 0x7ff);
  }
  return performance.now() - started;
}

const recorded = writeDay({ agents: 1_000, queues: 20, campaigns: 4 }, 100_000, 4.76, 180_000);
const perEvent = compare('recorded day, 1,000 agents in three of 20 queues, 4 campaigns', recorded);
const bare = median(Array.from({ length: 7 }, () => bareLoop(recorded.bodies.length, 20)));
const bareRatio = (1_000 * bare) / recorded.bodies.length / perEvent;
console.log(
  `  ratio to a bare loop of its heap and Map operations ${bareRatio.toFixed(3)} (target: at least 0.100)`,
);

compare(
  '5,000 people in 50 queues',
  writeDay({ agents: 5_000, queues: 50, campaigns: 4 }, 60_000, 24, 180_000),
);

console.log('growth: calls of 140 s, no campaigns, one simulated hour');
const hour = (agents: number, queues: number, perSecond: number) =>
  writeDay({ agents, queues, campaigns: 0 }, 3_600 * perSecond, perSecond, 140_000);
const growth = [hour(5_000, 100, 30), hour(10_000, 200, 60)].map((day) => {
  const took = median(
    Array.from({ length: 2 }, () => timeDay(new Exchange() as unknown as Engine, day.bodies, day.times)),
  );
  const us = (1_000 * took) / day.bodies.length;
  console.log(
    `  ${day.size.agents.toLocaleString('en')} agents, ${day.size.queues} queues: ${us.toFixed(2)} us an event, ${Math.round(3_600_000 / took)} times real time (target: at least 20)`,
  );
  return us;
});
console.log(
  `  twice as large: ${(growth[1]! / growth[0]!).toFixed(2)} times the time an event (target: at most 1.10)`,
);
