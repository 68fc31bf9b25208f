import { areaPlaces, zoneNames, zonePrefixes } from './table.ts';

const zones = new Map<string, number[]>(
  zonePrefixes.split(' ').map((entry) => {
    const [prefix = '', indexes = ''] = entry.split(':');
    return [prefix, indexes.split('+').map(Number)];
  }),
);
const places = new Map<string, string>(
  areaPlaces.split('|').map((entry) => entry.split(':') as [string, string]),
);
const longestPrefix = Math.max(...[...zones.keys()].map((prefix) => prefix.length));

/** Toll-free codes of the North American plan (NANPA: 800, 833, 844, 855, 866, 877, 888). */
const tollFreeCodes = new Set(['800', '833', '844', '855', '866', '877', '888']);

/** Whether callers pay nothing. Known for the North American plan; false elsewhere. */
export function isTollFree(e164: string): boolean {
  return e164.startsWith('+1') && tollFreeCodes.has(e164.slice(2, 5));
}

/** Area code of a number of the North American plan, else null. */
export function areaCode(e164: string): string | null {
  return /^\+1([2-9]\d\d)\d{7}$/.exec(e164)?.[1] ?? null;
}

/** Where a number of the North American plan is from, in words: `Washington State`, `toll-free`; null when not known. */
export function placeOf(e164: string): string | null {
  const code = areaCode(e164);
  if (code === null) return null;
  return isTollFree(e164) ? 'toll-free' : (places.get(code) ?? null);
}

/**
 * All IANA time zones a number may be in, by its longest known prefix (libphonenumber's metadata): one when it is
 * certain, several when not. A toll-free number may be anywhere in its plan.
 */
export function zonesOf(e164: string): string[] {
  const digits = isTollFree(e164) ? '1' : e164.slice(1, 1 + longestPrefix);
  for (let length = digits.length; length > 0; length--) {
    const found = zones.get(digits.slice(0, length));
    if (found !== undefined) return found.map((index) => zoneNames[index]!);
  }
  return [];
}

/** Every zone the table knows: what a host has to bring clocks for. */
export function allZones(): readonly string[] {
  return zoneNames;
}
