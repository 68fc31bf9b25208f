import { emergencyNumbers } from '../dialling/emergency.ts';

/** What is wrong with an extension, as a sentence, or null. Two to six digits, clear of emergency numbers. */
export function extensionFault(digits: string): string | null {
  if (!/^\d{2,6}$/.test(digits)) return 'An extension has 2 to 6 digits.';
  for (const emergency of emergencyNumbers) {
    if (emergency.startsWith(digits) || digits.startsWith(emergency)) {
      return `${digits} would get in the way of the emergency number ${emergency}. Choose other digits.`;
    }
  }
  return null;
}

/**
 * The next free extension behind those of `neighbours` (the team's, say), else behind all taken ones,
 * else 2001.
 */
export function nextExtension(taken: ReadonlySet<string>, neighbours: readonly string[]): string {
  const base = (neighbours.length > 0 ? neighbours : [...taken]).map(Number).filter((value) => value >= 10);
  let candidate = base.length === 0 ? 2001 : Math.max(...base) + 1;
  for (; candidate <= 999_999; candidate++) {
    const digits = String(candidate);
    if (!taken.has(digits) && extensionFault(digits) === null) return digits;
  }
  throw new Error('every extension is taken');
}
