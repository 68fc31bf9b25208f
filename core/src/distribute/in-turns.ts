import { IndexedHeap } from '../collections/indexed-heap.ts';
import type { EligibleIndex, Member, QueueMember } from './distribution.ts';

type Before = (one: QueueMember, other: QueueMember) => boolean;

/** Ties end with member order, then person id, so that no result depends on the order of the input. */
export function earlierListed(one: Member, other: Member): boolean {
  return one.order !== other.order ? one.order < other.order : one.personId < other.personId;
}

/** An index whose order within a turn is a comparison of two members: a heap. `before` must be a strict total order. */
export const compared =
  (before: Before) =>
  <M extends QueueMember>(): EligibleIndex<M> =>
    new IndexedHeap<M>((one, other) =>
      one.turn !== other.turn ? one.turn < other.turn : before(one, other),
    );

/** The members of one turn, as listed, in the order in which they are rung. */
export type Arrange = <M extends Member>(turn: readonly M[]) => Iterable<M>;

/** An index whose order within a turn depends on more than two members: lists by turn, arranged when asked. */
export class ArrangedIndex<M extends QueueMember> implements EligibleIndex<M> {
  size = 0;
  private readonly turns: { turn: number; members: M[] }[] = [];
  private readonly arrange: Arrange;

  constructor(arrange: Arrange) {
    this.arrange = arrange;
  }

  push(member: M): void {
    let at = this.turns.findIndex(({ turn }) => turn >= member.turn);
    if (at < 0) at = this.turns.length;
    if (this.turns[at]?.turn !== member.turn) this.turns.splice(at, 0, { turn: member.turn, members: [] });
    const { members } = this.turns[at]!;
    members.splice(placeIn(members, member), 0, member);
    member.heapIndex = 0;
    this.size++;
  }

  remove(member: M): void {
    if (member.heapIndex < 0) return;
    const at = this.turns.findIndex(({ turn }) => turn === member.turn);
    const { members } = this.turns[at]!;
    members.splice(placeIn(members, member), 1);
    if (members.length === 0) this.turns.splice(at, 1);
    member.heapIndex = -1;
    this.size--;
  }

  peek(): M | undefined {
    for (const member of this.inOrder()) return member;
    return undefined;
  }

  *inOrder(): Generator<M> {
    for (const { members } of this.turns) yield* this.arrange(members);
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
