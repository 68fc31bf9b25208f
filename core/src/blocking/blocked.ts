/** A caller who is turned away: one number, all that begin alike, or who withholds theirs. */
export interface BlockedItem {
  id: string;
  name: string;
  kind: BlockedKind;
  /** The number (E.164), or how numbers begin; empty for those withheld. */
  digits: string;
  /** UTC milliseconds from which on they are let in again; null for never. */
  until: number | null;
}

export const blockedKinds = ['number', 'prefix', 'withheld'] as const;
export type BlockedKind = (typeof blockedKinds)[number];

/** Shorter beginnings would turn away a whole country by a slip. */
export const shortestPrefix = 3;

/** The list, made ready to be asked at every call. */
export class BlockedList {
  readonly items: readonly BlockedItem[];
  private readonly byNumber = new Map<string, BlockedItem>();
  private readonly byPrefix = new Map<string, BlockedItem>();
  private readonly withheld: BlockedItem | null;
  private readonly longest: number;

  constructor(items: readonly BlockedItem[]) {
    this.items = items;
    for (const item of items) {
      if (item.kind === 'number') this.byNumber.set(item.digits, item);
      else if (item.kind === 'prefix') this.byPrefix.set(item.digits, item);
    }
    this.withheld = items.find(({ kind }) => kind === 'withheld') ?? null;
    this.longest = Math.max(0, ...[...this.byPrefix.keys()].map((prefix) => prefix.length));
  }

  /**
   * By which entry this caller is turned away at `at` (UTC milliseconds): the number itself, else the longest beginning;
   * null for who is let in.
   *
   * @param from as it came: E.164, or anything else for who withholds their number
   */
  entryFor(from: string, at: number): BlockedItem | null {
    const holds = (item: BlockedItem | null | undefined) =>
      item != null && (item.until === null || at < item.until) ? item : null;
    if (!/^\+?\d/.test(from)) return holds(this.withheld);
    const exact = holds(this.byNumber.get(from));
    if (exact !== null) return exact;
    for (let length = Math.min(this.longest, from.length); length > 0; length--) {
      const found = holds(this.byPrefix.get(from.slice(0, length)));
      if (found !== null) return found;
    }
    return null;
  }
}
