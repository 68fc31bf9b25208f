import { IndexedHeap } from '../collections/indexed-heap.ts';
import type { EligibleIndex, Member, Past, QueueMember } from './distribution.ts';

type Before = (one: QueueMember, other: QueueMember) => boolean;

/** Ties end with member order, then person id, so that no result depends on the order of the input. */
export function earlierListed(one: Member, other: Member): boolean {
  return one.order !== other.order ? one.order < other.order : one.personId < other.personId;
}

/** How many are inside, by the stage from which they may be rung. */
abstract class CountedByStage<M extends QueueMember> {
  size = 0;
  private readonly counts: number[] = [];

  get firstStage(): number {
    for (let stage = 0; stage < this.counts.length; stage++) if (this.counts[stage]! > 0) return stage;
    return Number.POSITIVE_INFINITY;
  }

  sizeAt(stage: number): number {
    if (stage >= this.counts.length - 1) return this.size;
    let size = 0;
    for (let i = 0; i <= stage; i++) size += this.counts[i]!;
    return size;
  }

  protected count({ stage }: M, by: 1 | -1): void {
    while (this.counts.length <= stage) this.counts.push(0);
    this.counts[stage]! += by;
    this.size += by;
  }
}

/** An index whose order within a turn is a comparison of two members: a heap for each stage, of which the first comes first. */
class ComparedIndex<M extends QueueMember> extends CountedByStage<M> implements EligibleIndex<M> {
  private readonly heaps: IndexedHeap<M>[] = [];
  private readonly before: (one: M, other: M) => boolean;

  constructor(before: Before) {
    super();
    this.before = (one, other) => (one.turn !== other.turn ? one.turn < other.turn : before(one, other));
  }

  push(member: M): void {
    while (this.heaps.length <= member.stage) this.heaps.push(new IndexedHeap<M>(this.before));
    this.heaps[member.stage]!.push(member);
    this.count(member, 1);
  }

  remove(member: M): void {
    if (member.heapIndex < 0) return;
    this.heaps[member.stage]!.remove(member);
    this.count(member, -1);
  }

  peek(stage: number): M | undefined {
    // Most queues have one stage only.
    if (this.heaps.length === 1) return this.heaps[0]!.peek();
    let first: M | undefined;
    for (let i = 0; i <= stage && i < this.heaps.length; i++) {
      const next = this.heaps[i]!.peek();
      if (next !== undefined && (first === undefined || this.before(next, first))) first = next;
    }
    return first;
  }

  inOrder(stage: number): Iterable<M> {
    if (this.heaps.length === 1) return this.heaps[0]!.inOrder();
    const heaps = this.heaps.slice(0, stage + 1).filter(({ size }) => size > 0);
    return heaps.length === 1 ? heaps[0]!.inOrder() : this.merged(heaps);
  }

  private *merged(heaps: readonly IndexedHeap<M>[]): Generator<M> {
    const walks = heaps.map((heap) => heap.inOrder());
    const heads = walks.map((walk) => walk.next().value as M | undefined);
    for (;;) {
      let best = -1;
      for (let i = 0; i < heads.length; i++)
        if (heads[i] !== undefined && (best < 0 || this.before(heads[i]!, heads[best]!))) best = i;
      if (best < 0) return;
      const member = heads[best]!;
      heads[best] = walks[best]!.next().value as M | undefined;
      yield member;
    }
  }
}

/** `before` must be a strict total order. */
export const compared =
  (before: Before) =>
  <M extends QueueMember>(): EligibleIndex<M> =>
    new ComparedIndex<M>(before);

/** The members of one turn, as listed, in the order in which they are rung, by what the queue remembers. */
export type Arrange = <M extends Member>(turn: readonly M[], past: Past) => Iterable<M>;

/** An index whose order within a turn depends on more than two members: lists by turn, arranged when asked. */
export class ArrangedIndex<M extends QueueMember> extends CountedByStage<M> implements EligibleIndex<M> {
  private readonly turns: { turn: number; members: M[] }[] = [];
  /** A field, not hidden in `arrange`: in an overlay it is the past there, not the one below. */
  private readonly past: Past;
  private readonly arrange: Arrange;

  constructor(past: Past, arrange: Arrange) {
    super();
    this.past = past;
    this.arrange = arrange;
  }

  push(member: M): void {
    let at = this.turns.findIndex(({ turn }) => turn >= member.turn);
    if (at < 0) at = this.turns.length;
    if (this.turns[at]?.turn !== member.turn) this.turns.splice(at, 0, { turn: member.turn, members: [] });
    const { members } = this.turns[at]!;
    members.splice(placeIn(members, member), 0, member);
    member.heapIndex = 0;
    this.count(member, 1);
  }

  remove(member: M): void {
    if (member.heapIndex < 0) return;
    const at = this.turns.findIndex(({ turn }) => turn === member.turn);
    const { members } = this.turns[at]!;
    members.splice(placeIn(members, member), 1);
    if (members.length === 0) this.turns.splice(at, 1);
    member.heapIndex = -1;
    this.count(member, -1);
  }

  peek(stage: number): M | undefined {
    for (const member of this.inOrder(stage)) return member;
    return undefined;
  }

  *inOrder(stage: number): Generator<M> {
    const all = this.sizeAt(stage) === this.size;
    for (const { members } of this.turns)
      yield* this.arrange(all ? members : members.filter((member) => member.stage <= stage), this.past);
  }
}

/** Where `member` stands, or would, among `members` as listed: by halving. */
function placeIn<M extends Member>(members: readonly M[], member: M): number {
  let low = 0;
  let high = members.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (earlierListed(members[middle]!, member)) low = middle + 1;
    else high = middle;
  }
  return low;
}
