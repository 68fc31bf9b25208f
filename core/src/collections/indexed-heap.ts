/** What an `IndexedHeap` holds: the heap keeps each node's own place in `heapIndex`, -1 when outside. */
export interface HeapNode {
  heapIndex: number;
}

/**
 * A binary min-heap whose nodes know their place, so that any node can be removed or moved in O(log n)
 * (Williams 1964; Cormen et al., Introduction to Algorithms, ch. 6). A node may be in one heap at a time.
 */
export class IndexedHeap<Node extends HeapNode> {
  private readonly nodes: Node[] = [];
  private readonly before: (one: Node, other: Node) => boolean;

  /** `before` must be a strict total order, else the result would depend on the order of the input. */
  constructor(before: (one: Node, other: Node) => boolean) {
    this.before = before;
  }

  get size(): number {
    return this.nodes.length;
  }

  peek(): Node | undefined {
    return this.nodes[0];
  }

  push(node: Node): void {
    node.heapIndex = this.nodes.length;
    this.nodes.push(node);
    this.rise(node);
  }

  pop(): Node | undefined {
    const first = this.nodes[0];
    if (first !== undefined) this.remove(first);
    return first;
  }

  /** Takes a node out, wherever it stands. Does nothing when it is not inside. */
  remove(node: Node): void {
    const index = node.heapIndex;
    if (index < 0) return;
    node.heapIndex = -1;
    const last = this.nodes.pop()!;
    if (last === node) return;
    last.heapIndex = index;
    this.nodes[index] = last;
    this.sink(last);
    this.rise(last);
  }

  /** The nodes in order from the first, for as long as the caller asks: k nodes cost O(k log k + k). */
  *inOrder(): Generator<Node> {
    const open: number[] = this.nodes.length > 0 ? [0] : [];
    while (open.length > 0) {
      let best = 0;
      for (let i = 1; i < open.length; i++) {
        if (this.before(this.nodes[open[i]!]!, this.nodes[open[best]!]!)) best = i;
      }
      const index = open[best]!;
      open[best] = open[open.length - 1]!;
      open.pop();
      yield this.nodes[index]!;
      const left = 2 * index + 1;
      if (left < this.nodes.length) open.push(left);
      if (left + 1 < this.nodes.length) open.push(left + 1);
    }
  }

  /** The nodes in no particular order. */
  values(): readonly Node[] {
    return this.nodes;
  }

  private rise(node: Node): void {
    let index = node.heapIndex;
    while (index > 0) {
      const parentIndex = (index - 1) >> 1;
      const parent = this.nodes[parentIndex]!;
      if (!this.before(node, parent)) break;
      parent.heapIndex = index;
      this.nodes[index] = parent;
      index = parentIndex;
    }
    node.heapIndex = index;
    this.nodes[index] = node;
  }

  private sink(node: Node): void {
    const size = this.nodes.length;
    let index = node.heapIndex;
    for (;;) {
      let childIndex = 2 * index + 1;
      if (childIndex >= size) break;
      let child = this.nodes[childIndex]!;
      const right = childIndex + 1;
      if (right < size && this.before(this.nodes[right]!, child)) {
        childIndex = right;
        child = this.nodes[right]!;
      }
      if (!this.before(child, node)) break;
      child.heapIndex = index;
      this.nodes[index] = child;
      index = childIndex;
    }
    node.heapIndex = index;
    this.nodes[index] = node;
  }
}
