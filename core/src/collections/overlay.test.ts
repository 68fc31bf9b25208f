import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { IndexedHeap } from './indexed-heap.ts';
import { overlayOf } from './overlay.ts';

const over = <T extends object>(first: T) => overlayOf(first, (property) => property === 'data');

describe('an overlay', () => {
  test('takes what is written, and the first stays as it was', () => {
    const leg = { state: 'ringing' };
    const first = { legs: [leg], byId: new Map([['a', leg]]), all: new Set([leg]), data: { deep: 1 } };
    const before = JSON.stringify(first.legs);
    const second = over(first);
    second.legs[0]!.state = 'connected';
    second.legs.push({ state: 'new' });
    expect(second.byId.get('a')).toBe(second.legs[0]);
    expect(second.byId.get('a')!.state).toBe('connected');
    expect(second.all.has(second.legs[0]!)).toBe(true);
    expect([...second.all][0]).toBe(second.legs[0]);
    expect(second.legs.indexOf(second.legs[0]!)).toBe(0);
    expect(second.data).toBe(first.data);
    expect(JSON.stringify(second.legs)).toBe('[{"state":"connected"},{"state":"new"}]');
    expect(JSON.stringify(first.legs)).toBe(before);
  });

  test('hands out an object made here as it is: who holds it sees what is written to it', () => {
    const second = over({ legs: [] as { state: string }[] });
    const leg = { state: 'ringing' };
    second.legs.push(leg);
    leg.state = 'held';
    expect(second.legs[0]).toBe(leg);
    expect(second.legs[0]!.state).toBe('held');
  });

  test('keeps getters, methods, prototypes, `in` and the keys', () => {
    class Agent {
      calls: string[] = [];
      get count(): number {
        return this.calls.length;
      }
      take(call: string): void {
        this.calls.push(call);
      }
    }
    const first = new Agent();
    const second = over(first);
    second.take('c');
    expect([second.count, first.count]).toEqual([1, 0]);
    expect(second).toBeInstanceOf(Agent);
    expect('calls' in second).toBe(true);
    expect({ ...second }).toEqual({ calls: ['c'] });
    const some = over({ a: 1, b: 2 } as { a?: number; b: number });
    delete some.a;
    expect(['a' in some, Object.keys(some)]).toEqual([false, ['b']]);
  });

  test('of a heap is a heap', () => {
    const node = (key: number) => ({ key, heapIndex: -1 });
    fc.assert(
      fc.property(fc.array(fc.nat(50)), fc.array(fc.integer({ min: -1, max: 50 })), (begun, moves) => {
        const heap = new IndexedHeap<ReturnType<typeof node>>((a, b) => a.key < b.key);
        for (const key of begun) heap.push(node(key));
        const before = JSON.stringify(heap.values());
        const second = over({ heap }).heap;
        const model = [...begun];
        for (const move of moves) {
          if (move >= 0) {
            second.push(node(move));
            model.push(move);
          } else {
            model.sort((a, b) => a - b);
            expect(second.pop()?.key).toBe(model.shift());
          }
        }
        expect([...second.inOrder()].map(({ key }) => key)).toEqual(model.sort((a, b) => a - b));
        expect(JSON.stringify(heap.values())).toBe(before);
      }),
    );
  });

  test('of a Map or a Set does what theirs do, in the same order', () => {
    const move = fc.record({
      does: fc.constantFrom('set', 'delete', 'clear'),
      key: fc.nat(6),
      value: fc.nat(),
    });
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(6), fc.nat())), fc.array(move), (begun, moves) => {
        const first = { map: new Map(begun), set: new Set(begun.map(([key]) => key)) };
        const model = { map: new Map(first.map), set: new Set(first.set) };
        const before = JSON.stringify([[...first.map], [...first.set]]);
        const second = over(first);
        for (const { does, key, value } of moves) {
          if (does === 'set') {
            second.map.set(key, value);
            model.map.set(key, value);
            second.set.add(key);
            model.set.add(key);
          } else if (does === 'delete') {
            expect(second.map.delete(key)).toBe(model.map.delete(key));
            expect(second.set.delete(key)).toBe(model.set.delete(key));
          } else if (value % 7 === 0) {
            second.map.clear();
            model.map.clear();
            second.set.clear();
            model.set.clear();
          }
          expect([...second.map]).toEqual([...model.map]);
          expect([...second.set]).toEqual([...model.set]);
          expect([second.map.size, second.set.size]).toEqual([model.map.size, model.set.size]);
          expect([second.map.has(key), second.map.get(key)]).toEqual([
            model.map.has(key),
            model.map.get(key),
          ]);
        }
        expect(JSON.stringify([[...first.map], [...first.set]])).toBe(before);
      }),
    );
  });
});
