/** Seven ways to ring on the same hour: 600 calls, 40 agents, five seeds; beside a bare loop over as many random numbers. */
import { performance } from 'node:perf_hooks';
import { person, queue } from '../src/exchange/exchange.testing.ts';
import { distributionKinds } from '../src/model/distribution.ts';
import { seededRandom } from '../src/random/random.ts';
import { hourFigures, hourSetUp } from '../src/rehearse/comparison.ts';

const people = Array.from({ length: 40 }, (_, i) => person(`p${i}`, { skills: { s: 1 + (i % 5) } }));
const skills = [{ skillId: 's', name: 'S', minimum: 1 }];
const item = queue(
  'q',
  people.map(({ id }) => id),
  { skills, wrapUpSeconds: 20 },
);
const setUp = hourSetUp(item, people);
const shape = { calls: 600, talkSeconds: 190, patienceSeconds: 240 };
const seeds = [1, 2, 3, 4, 5];

const began = performance.now();
const random = seededRandom(1);
let sum = 0;
for (let i = 0; i < seeds.length * distributionKinds.length * shape.calls * 3; i++)
  sum += Math.log(1 - random());
const bare = performance.now() - began;

const start = performance.now();
for (const kind of distributionKinds)
  for (const seed of seeds) sum += hourFigures(setUp, kind, shape, { seed, goalSeconds: 20 }).answered;
const took = performance.now() - start;
if (Number.isNaN(sum)) throw new Error('nothing was played');
console.log(
  `  ${(took / 1_000).toFixed(2)} s for seven ways on an hour of 600 calls and 40 agents, five seeds (target: 5), ${(took / bare).toFixed(0)} times drawing their random numbers in a bare loop`,
);
