/** Choosing among 1,000 eligible members by each distribution, beside a bare loop over as many. */
import { performance } from 'node:perf_hooks';
import { decide } from '../src/distribute/decide.ts';
import type { QueueMember } from '../src/distribute/distribution.ts';
import { drawOf } from '../src/distribute/random-draw.ts';
import { distributions } from '../src/distribute/registry.ts';

const count = 1_000;
const rounds = 20_000;
const past = { lastAnswered: -1, draw: 1 };
type Changing = { -readonly [Field in keyof QueueMember]: QueueMember[Field] };
const members = (): Changing[] =>
  Array.from({ length: count }, (_, order) => ({
    ...{ personId: `p${order}`, order, turn: 1 + (order % 2), heapIndex: -1, callCount: 0 },
    ...{
      idleSince: (order * 7919) % count,
      answeredToday: order % 30,
      levels: [order % 6, order % 5],
      stage: order % 4,
    },
  }));

let sum = 0;
const all = members();
const began = performance.now();
for (let i = 0; i < rounds; i++) for (const { idleSince } of all) sum += idleSince;
const bare = ((performance.now() - began) * 1_000) / rounds;

for (const { kind, makeIndex } of Object.values(distributions)) {
  const index = makeIndex<Changing>(past);
  for (const member of members()) index.push(member);
  const start = performance.now();
  for (let i = 0; i < rounds; i++) {
    past.draw = drawOf(7, i);
    const { member } = decide(index, {
      ...{ tried: [], fits: () => true, fitting: count, stage: 3, because: kind, inTurns: true },
    })!;
    // Rung, and back again when the call is over, as the exchange does it.
    index.remove(member);
    past.lastAnswered = member.order;
    member.idleSince = count + i;
    member.answeredToday++;
    index.push(member);
    sum += member.order;
  }
  const each = ((performance.now() - start) * 1_000) / rounds;
  console.log(
    `  ${kind}: ${each.toFixed(1)} µs for a choice among ${count.toLocaleString('en')} (target: 20), ${(each / bare).toFixed(1)} times a bare loop over them`,
  );
}
if (Number.isNaN(sum)) throw new Error('nothing was chosen');
