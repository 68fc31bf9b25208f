import { type HeapNode, IndexedHeap } from '../../collections/indexed-heap.ts';
import { callBefore, type Queued } from '../calls/order.ts';

/** A caller, as far as their place is concerned. */
interface Waiting extends HeapNode, Queued {
  readonly stage: number;
}

/**
 * Callers of one queue who wait and are not being offered, by the stage of their wait: an agent who fits from a stage on
 * serves the first of those who have come as far.
 */
export class WaitingList<Call extends Waiting> {
  size = 0;
  private readonly stages: IndexedHeap<Call>[] = [];
  private readonly before: (one: Call, other: Call) => boolean;

  /** @param agePoints what a minute of waiting adds to a caller's priority */
  constructor(agePoints: number) {
    this.before = (one, other) => callBefore(one, other, agePoints);
  }

  push(call: Call): void {
    while (this.stages.length <= call.stage) this.stages.push(new IndexedHeap(this.before));
    this.stages[call.stage]!.push(call);
    this.size++;
  }

  remove(call: Call): void {
    if (call.heapIndex < 0) return;
    this.stages[call.stage]!.remove(call);
    this.size--;
  }

  /** The first of those who have come to `stage` or farther. */
  peek(stage = 0): Call | undefined {
    if (this.stages.length === 1) return stage === 0 ? this.stages[0]!.peek() : undefined;
    let first: Call | undefined;
    for (let i = stage; i < this.stages.length; i++) {
      const next = this.stages[i]!.peek();
      if (next !== undefined && (first === undefined || this.before(next, first))) first = next;
    }
    return first;
  }

  /** How many come before this caller, who is inside or not. */
  ahead(call: Call): number {
    if (this.size === 0) return 0;
    let ahead = 0;
    for (const stage of this.stages)
      for (const each of stage.values()) if (each !== call && this.before(each, call)) ahead++;
    return ahead;
  }

  /** All, the first to be served first. */
  inOrder(): Call[] {
    return [...this.values()].sort((one, other) => (this.before(one, other) ? -1 : 1));
  }

  /** In no particular order. */
  *values(): Generator<Call> {
    for (const stage of this.stages) yield* stage.values();
  }
}
