/**
 * A second state over a first that nobody changes: reading goes through to it, and what is written is kept here, in copies
 * of the objects written to. Making one costs nothing; using it costs for what is touched. The first must not change
 * while its overlay is used.
 *
 * Works for plain objects, arrays, class instances without #private fields, Map and Set. Identity holds: the same object
 * of the first is the same object here.
 *
 * @param untouched whether the value of this property is data that nobody changes in place, or a Map of such data: it is
 *   handed out as it is, and can be sent on
 */
export function overlayOf<T extends object>(first: T, untouched: (property: PropertyKey) => boolean): T {
  return new Overlay(untouched).wrapped(first) as T;
}

type Fields = Record<PropertyKey, unknown>;

class Overlay {
  private readonly untouched: (property: PropertyKey) => boolean;
  /** By object of the first: what stands for it here. */
  private readonly wrappers = new WeakMap<object, object>();
  /** What stands here for an object of the first, and which. */
  private readonly firsts = new WeakMap<object, object>();
  /** Made here, and part of no first state. */
  private readonly made = new WeakSet<object>();
  private readonly handler: ProxyHandler<object>;
  private readonly copies = new WeakMap<object, Fields>();

  constructor(untouched: (property: PropertyKey) => boolean) {
    this.untouched = untouched;
    const seen = (target: object): Fields => this.copies.get(target) ?? (target as Fields);
    this.handler = {
      get: (target, property, receiver) => {
        const value: unknown = Reflect.get(seen(target), property, receiver);
        if (typeof value !== 'object' || value === null) return value;
        if (!this.untouched(property)) return this.wrapped(value);
        return value instanceof Map ? this.mapOfData(value) : value;
      },
      set: (target, property, value) => {
        this.own(value);
        this.copyOf(target)[property] = value;
        return true;
      },
      deleteProperty: (target, property) => delete this.copyOf(target)[property],
      has: (target, property) => property in seen(target),
      ownKeys: (target) => Reflect.ownKeys(seen(target)),
      getOwnPropertyDescriptor: (target, property) =>
        Reflect.getOwnPropertyDescriptor(seen(target), property),
      defineProperty: (target, property, descriptor) => {
        this.own(descriptor.value);
        return Reflect.defineProperty(this.copyOf(target), property, descriptor);
      },
    };
  }

  /** A Map that may change here, and whose values do not. */
  private mapOfData(value: Map<unknown, unknown>): unknown {
    if (this.made.has(value)) return value;
    let wrapper = this.wrappers.get(value);
    if (wrapper === undefined) {
      wrapper = new OverlayMap(value, this, true);
      this.wrappers.set(value, wrapper);
      this.firsts.set(wrapper, value);
    }
    return wrapper;
  }

  /** What stands here for this value: itself when it is no object, or was made here. */
  wrapped(value: unknown): unknown {
    if (typeof value !== 'object' || value === null) return value;
    if (this.firsts.has(value) || this.made.has(value)) return value;
    const known = this.wrappers.get(value);
    if (known !== undefined) return known;
    const wrapper =
      value instanceof Map
        ? new OverlayMap(value, this)
        : value instanceof Set
          ? new OverlaySet(value, this)
          : new Proxy(value, this.handler);
    this.wrappers.set(value, wrapper);
    this.firsts.set(wrapper, value);
    return wrapper;
  }

  /** The object of the first that this one stands for; itself when it stands for none. */
  behind(value: unknown): unknown {
    return typeof value === 'object' && value !== null ? (this.firsts.get(value) ?? value) : value;
  }

  /** An object that is written into the overlay and stands for none of the first was made here. */
  own(value: unknown): void {
    if (typeof value === 'object' && value !== null && !this.firsts.has(value)) this.made.add(value);
  }

  private copyOf(target: object): Fields {
    let copy = this.copies.get(target);
    if (copy === undefined) {
      copy = (
        Array.isArray(target)
          ? target.slice()
          : Object.assign(Object.create(Object.getPrototypeOf(target) as object) as object, target)
      ) as Fields;
      this.copies.set(target, copy);
    }
    return copy;
  }
}

/** A Map over another. Keys are no objects; entries keep their places as in a Map. */
class OverlayMap<K, V> {
  private readonly first: Map<K, V>;
  private readonly overlay: Overlay;
  private readonly changed = new Map<K, V>();
  private readonly deleted = new Set<K>();
  private readonly added = new Map<K, V>();

  private readonly ofData: boolean;

  constructor(first: Map<K, V>, overlay: Overlay, ofData = false) {
    this.first = first;
    this.overlay = overlay;
    this.ofData = ofData;
  }

  get size(): number {
    return this.first.size - this.deleted.size + this.added.size;
  }

  private isOfFirst(key: K): boolean {
    return this.first.has(key) && !this.deleted.has(key);
  }

  has(key: K): boolean {
    return this.isOfFirst(key) || this.added.has(key);
  }

  get(key: K): V | undefined {
    if (!this.isOfFirst(key)) return this.added.get(key);
    if (this.changed.has(key)) return this.changed.get(key);
    const value = this.first.get(key);
    return this.ofData ? value : (this.overlay.wrapped(value) as V);
  }

  set(key: K, value: V): this {
    this.overlay.own(value);
    if (this.isOfFirst(key)) this.changed.set(key, value);
    else this.added.set(key, value);
    return this;
  }

  delete(key: K): boolean {
    if (!this.isOfFirst(key)) return this.added.delete(key);
    this.deleted.add(key);
    this.changed.delete(key);
    return true;
  }

  clear(): void {
    for (const key of this.first.keys()) this.deleted.add(key);
    this.changed.clear();
    this.added.clear();
  }

  *keys(): IterableIterator<K> {
    for (const key of this.first.keys()) if (!this.deleted.has(key)) yield key;
    yield* this.added.keys();
  }

  *values(): IterableIterator<V> {
    for (const key of this.keys()) yield this.get(key)!;
  }

  *entries(): IterableIterator<[K, V]> {
    for (const key of this.keys()) yield [key, this.get(key)!];
  }

  [Symbol.iterator](): IterableIterator<[K, V]> {
    return this.entries();
  }

  forEach(visit: (value: V, key: K) => void): void {
    for (const [key, value] of this.entries()) visit(value, key);
  }
}

/** A Set over another. */
class OverlaySet<V> {
  private readonly first: Set<V>;
  private readonly overlay: Overlay;
  private readonly deleted = new Set<V>();
  private readonly added = new Set<V>();

  constructor(first: Set<V>, overlay: Overlay) {
    this.first = first;
    this.overlay = overlay;
  }

  get size(): number {
    return this.first.size - this.deleted.size + this.added.size;
  }

  has(value: V): boolean {
    const behind = this.overlay.behind(value) as V;
    return (this.first.has(behind) && !this.deleted.has(behind)) || this.added.has(value);
  }

  add(value: V): this {
    if (this.has(value)) return this;
    this.overlay.own(value);
    this.added.add(value);
    return this;
  }

  delete(value: V): boolean {
    const behind = this.overlay.behind(value) as V;
    if (!this.first.has(behind) || this.deleted.has(behind)) return this.added.delete(value);
    this.deleted.add(behind);
    return true;
  }

  clear(): void {
    for (const value of this.first) this.deleted.add(value);
    this.added.clear();
  }

  *values(): IterableIterator<V> {
    for (const value of this.first) if (!this.deleted.has(value)) yield this.overlay.wrapped(value) as V;
    yield* this.added;
  }

  keys(): IterableIterator<V> {
    return this.values();
  }

  [Symbol.iterator](): IterableIterator<V> {
    return this.values();
  }

  forEach(visit: (value: V) => void): void {
    for (const value of this.values()) visit(value);
  }
}
