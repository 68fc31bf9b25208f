import { bothTails } from './incomplete-beta.ts';

/** Only what is less likely than this by chance is called a difference. */
export const significance = 0.05;

export const mean = (values: readonly number[]): number =>
  values.length === 0 ? 0 : values.reduce((sum, value) => sum + value, 0) / values.length;

/** Standard deviation of a sample; 0 for fewer than two values. */
export function deviation(values: readonly number[]): number {
  if (values.length < 2) return 0;
  const middle = mean(values);
  return Math.sqrt(values.reduce((sum, value) => sum + (value - middle) ** 2, 0) / (values.length - 1));
}

/** The value below which a share of them lies: by linear interpolation (Hyndman and Fan 1996, type 7); null for none. */
export function quantile(values: readonly number[], share: number): number | null {
  if (values.length === 0) return null;
  const sorted = [...values].sort((one, other) => one - other);
  const at = (sorted.length - 1) * share;
  const below = sorted[Math.floor(at)]!;
  return below + (sorted[Math.ceil(at)]! - below) * (at - Math.floor(at));
}

/**
 * How likely it is that paired differences as large come by chance: Student's paired test, both tails. Differences that
 * are all the same are certain, unless they are all nothing.
 */
export function pairedChance(differences: readonly number[]): number {
  const middle = mean(differences);
  if (differences.length < 2 || middle === 0) return 1;
  const spread = deviation(differences);
  if (spread === 0) return 0;
  return bothTails(middle / (spread / Math.sqrt(differences.length)), differences.length - 1);
}

/**
 * Which of several hold together at `significance`: Holm's step-down correction (Scand. J. Statist. 6, 1979), so that the
 * chance of calling anything a difference that is none stays as small for all of them.
 */
export function holm(chances: readonly number[]): boolean[] {
  const order = chances.map((_chance, index) => index).sort((one, other) => chances[one]! - chances[other]!);
  const holds = chances.map(() => false);
  for (const [rank, index] of order.entries()) {
    if (chances[index]! > significance / (chances.length - rank)) break;
    holds[index] = true;
  }
  return holds;
}
