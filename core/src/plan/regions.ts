import type { RegionTable } from '../model/configuration.ts';
import type { Destination } from '../model/destination.ts';
import { areaCodesOf } from '../numbers/places.ts';

export const mostRegionRows = 100_000;
/** Digits of an E.164 number. */
const mostDigits = 15;

/** Rows that begin alike are put together, and read when the first such caller comes: all at once would keep others waiting. */
const sharedDigits = 4;

interface Bucket {
  /** Stretches of the ways' texts that it is read from. */
  stretches: { prefixes: string; from: number; to: number; destination: Destination }[];
  /** Null before it is read. */
  byPrefix: Map<string, Destination> | null;
  longest: number;
}

interface Index {
  /** Prefixes shorter than those that are put together. */
  short: Map<string, Destination>;
  buckets: Map<string, Bucket>;
}

const indexes = new WeakMap<RegionTable, Index>();

function indexOf(table: RegionTable): Index {
  let index = indexes.get(table);
  if (index === undefined) {
    index = { short: new Map(), buckets: new Map() };
    for (const { destination, prefixes } of table.ways) put(index, prefixes, destination);
    indexes.set(table, index);
  }
  return index;
}

/** Finds where rows that begin alike stand in a text; sorted as it comes, that is a walk without cutting it up. */
function put(index: Index, prefixes: string, destination: Destination): void {
  let at = 0;
  while (at < prefixes.length) {
    const end = endOf(prefixes, at);
    if (end - at < sharedDigits) {
      if (end > at) index.short.set(prefixes.slice(at, end), destination);
      at = end + 1;
      continue;
    }
    const shared = prefixes.slice(at, at + sharedDigits);
    const from = at;
    let longest = 0;
    for (; at < prefixes.length && prefixes.startsWith(shared, at); at = endOf(prefixes, at) + 1)
      longest = Math.max(longest, endOf(prefixes, at) - at);
    const bucket = index.buckets.get(shared) ?? { stretches: [], byPrefix: null, longest: 0 };
    bucket.stretches.push({ prefixes, from, to: at - 1, destination });
    bucket.longest = Math.max(bucket.longest, longest);
    index.buckets.set(shared, bucket);
  }
}

function endOf(prefixes: string, from: number): number {
  const end = prefixes.indexOf(' ', from);
  return end < 0 ? prefixes.length : end;
}

function readBucket(bucket: Bucket): Map<string, Destination> {
  if (bucket.byPrefix === null) {
    bucket.byPrefix = new Map();
    for (const { prefixes, from, to, destination } of bucket.stretches)
      for (const prefix of prefixes.slice(from, to).split(' ')) bucket.byPrefix.set(prefix, destination);
  }
  return bucket.byPrefix;
}

/**
 * The longest beginning of a number that is there.
 *
 * @param from E.164 with its plus, or what is said of a number that is withheld
 * @param longest of the prefixes, in digits
 */
export function longestPrefix<Value>(
  byPrefix: ReadonlyMap<string, Value>,
  longest: number,
  from: string,
): { prefix: string; value: Value } | null {
  if (!from.startsWith('+')) return null;
  for (let length = Math.min(longest, from.length - 1); length > 0; length--) {
    const prefix = from.slice(1, 1 + length);
    const value = byPrefix.get(prefix);
    if (value !== undefined) return { prefix, value };
  }
  return null;
}

/** Where a caller goes: the longest beginning of their number wins. Null when no row is about the number. */
export function regionOf(
  table: RegionTable,
  from: string,
): { prefix: string; destination: Destination } | null {
  const { short, buckets } = indexOf(table);
  const bucket = buckets.get(from.slice(1, 1 + sharedDigits));
  const found =
    (bucket === undefined ? null : longestPrefix(readBucket(bucket), bucket.longest, from)) ??
    longestPrefix(short, sharedDigits - 1, from);
  return found === null ? null : { prefix: found.prefix, destination: found.value };
}

/** What somebody wrote for a region: the prefixes it is, and the place they are of when a place was written. */
export type RegionReading =
  { ok: true; prefixes: string[]; place: string | null } | { ok: false; reason: string };

/**
 * Reads a region as people write it: an area code (206), the beginning of a number with its country code (+44 20,
 * 1 206 555), or a place of the North American plan (Washington, WA, Seattle).
 */
export function readRegion(text: string): RegionReading {
  const written = text.trim();
  if (written === '')
    return { ok: false, reason: 'Write an area code, the beginning of a number, or a place.' };
  if (/^[+\d(][\d ().-]*$/.test(written)) return readPrefix(written);
  if (/\d/.test(written))
    return {
      ok: false,
      reason: `“${short(written)}” has letters in it. Write digits, or the name of a place.`,
    };
  const codes = areaCodesOf(written);
  return codes.length === 0
    ? {
        ok: false,
        reason: `“${short(written)}” is no state, province or town whose area codes are known. Write them as digits.`,
      }
    : { ok: true, prefixes: codes.map((code) => `1${code}`), place: written };
}

const short = (text: string) => (text.length > 40 ? `${text.slice(0, 39)}…` : text);

function readPrefix(written: string): RegionReading {
  const digits = written.replace(/\D/g, '');
  const isWhole = written.startsWith('+') || digits.startsWith('1');
  const prefix = isWhole ? digits : `1${digits}`;
  if (!/^[1-9]\d*$/.test(prefix) || prefix.length > mostDigits)
    return {
      ok: false,
      reason: `“${short(written)}” is no beginning of a number. Put + and the country code first.`,
    };
  // Area codes of the North American plan have three digits, the first 2 to 9.
  if (prefix.startsWith('1') && prefix.length > 1 && !/^1[2-9]\d{2}/.test(prefix))
    return {
      ok: false,
      reason: `“${short(written)}” is no area code: those have three digits, the first 2 to 9.`,
    };
  return { ok: true, prefixes: [prefix], place: null };
}

/** A region that was read, and where it stood: a line, or a row of a file. */
export interface ReadRegion {
  prefix: string;
  /** As it was written, where that was a place. */
  place: string | null;
  at: number;
}

/** Puts one in: what is written as digits is meant more exactly than the state it is in, whichever came first. */
export function putRegion<Row extends ReadRegion>(rows: Map<string, Row>, row: Row): void {
  const before = rows.get(row.prefix);
  if (before === undefined || row.place === null || before.place !== null) rows.set(row.prefix, row);
}

/** Regions as they are typed or pasted: one a line, digits also with commas between. A place stands on a line of its own. */
export function typedRegions(text: string): {
  rows: ReadRegion[];
  faults: { line: number; detail: string }[];
} {
  const rows = new Map<string, ReadRegion>();
  const faults: { line: number; detail: string }[] = [];
  text.split(/\r?\n/).forEach((written, index) => {
    const line = index + 1;
    const parts = /[a-z]/i.test(written) ? written.split(/[;\t]/) : written.split(/[,;\t]/);
    for (const part of parts) {
      if (part.trim() === '') continue;
      const reading = readRegion(part);
      if (!reading.ok) faults.push({ line, detail: reading.reason });
      else for (const prefix of reading.prefixes) putRegion(rows, { prefix, place: reading.place, at: line });
    }
  });
  return { rows: [...rows.values()], faults };
}

/** A prefix as it is read: '+1 206'. */
export function prefixWords(prefix: string): string {
  const area = /^1([2-9]\d\d)(\d{0,3})(\d*)$/.exec(prefix);
  return area === null ? `+${prefix}` : `+1 ${area.slice(1).filter(Boolean).join(' ')}`;
}
