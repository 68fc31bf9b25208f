import fc from 'fast-check';
import { expect, test } from 'vitest';
import { IndexedHeap } from './indexed-heap.ts';

interface Item {
  key: number;
  heapIndex: number;
}

test('pops in order, whatever was pushed and removed in between, and inOrder agrees', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.integer(), fc.boolean())), (moves) => {
      const heap = new IndexedHeap<Item>((one, other) => one.key < other.key);
      const inside: Item[] = [];
      for (const [key, drop] of moves) {
        if (drop && inside.length > 0) heap.remove(inside.splice(Math.abs(key) % inside.length, 1)[0]!);
        else {
          const item = { key, heapIndex: -1 };
          inside.push(item);
          heap.push(item);
        }
      }
      const expected = inside.map((item) => item.key).sort((one, other) => one - other);
      expect([...heap.inOrder()].map((item) => item.key)).toEqual(expected);
      const popped: number[] = [];
      while (heap.size > 0) popped.push(heap.pop()!.key);
      expect(popped).toEqual(expected);
    }),
  );
});
