import type { RegionTable } from '../model/configuration.ts';
import type { Destination } from '../model/destination.ts';
import { areaCodesOf } from '../numbers/places.ts';

export const mostRegionRows = 100_000;
/** Digits of an E.164 number. */
const longestPrefix = 15;

const indexes = new WeakMap<RegionTable, { byPrefix: Map<string, Destination>; longest: number }>();

function indexOf(table: RegionTable) {
  let index = indexes.get(table);
  if (index === undefined) {
    const byPrefix = new Map<string, Destination>();
    let longest = 0;
    for (const { destination, prefixes } of table.ways)
      for (const prefix of prefixes.split(' ')) {
        if (prefix === '') continue;
        byPrefix.set(prefix, destination);
        longest = Math.max(longest, prefix.length);
      }
    index = { byPrefix, longest };
    indexes.set(table, index);
  }
  return index;
}

/**
 * Where a caller goes: the longest beginning of their number wins.
 *
 * @param from E.164 with its plus, or what is said of a number that is withheld
 * @returns null when no row is about the number
 */
export function regionOf(
  table: RegionTable,
  from: string,
): { prefix: string; destination: Destination } | null {
  if (!from.startsWith('+')) return null;
  const { byPrefix, longest } = indexOf(table);
  for (let length = Math.min(longest, from.length - 1); length > 0; length--) {
    const prefix = from.slice(1, 1 + length);
    const destination = byPrefix.get(prefix);
    if (destination !== undefined) return { prefix, destination };
  }
  return null;
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
  if (!/^[1-9]\d*$/.test(prefix) || prefix.length > longestPrefix)
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

/** A prefix as it is read: '+1 206'. */
export function prefixWords(prefix: string): string {
  const area = /^1([2-9]\d\d)(\d{0,3})(\d*)$/.exec(prefix);
  return area === null ? `+${prefix}` : `+1 ${area.slice(1).filter(Boolean).join(' ')}`;
}
