/** Numbers from [0, 1), the same for the same seed. */
export type Random = () => number;

/** Mulberry32 (T. Ettinger, public domain): 32 bits of state, good enough for made-up days. */
export function seededRandom(seed: number): Random {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** A whole seed from words, so that each day and each purpose has its own (FNV-1a, 32 bits). */
export function seedFrom(...words: (string | number)[]): number {
  let hash = 0x811c9dc5;
  for (const character of words.join('\u0000'))
    hash = Math.imul(hash ^ character.codePointAt(0)!, 0x01000193) >>> 0;
  return hash;
}

/** Exponential with the given mean. */
export function exponential(random: Random, mean: number): number {
  return -Math.log(1 - random()) * mean;
}

/** Log-normal with the given mean and coefficient of variation; talk times look like this (Brown et al. 2005). */
export function logNormal(random: Random, mean: number, variation: number): number {
  const variance = Math.log(1 + variation * variation);
  const normal = Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  return Math.exp(Math.log(mean) - variance / 2 + Math.sqrt(variance) * normal);
}

/** A UUID of version 7 (RFC 9562, 5.7) whose random part comes from the generator: rehearsed calls have stable ids. */
export function rehearsedUuid(at: number, random: Random): string {
  const hex = (bits: number) =>
    Math.floor(random() * 2 ** bits)
      .toString(16)
      .padStart(bits / 4, '0');
  const time = Math.floor(at).toString(16).padStart(12, '0');
  const variant = (8 + Math.floor(random() * 4)).toString(16);
  return `${time.slice(0, 8)}-${time.slice(8)}-7${hex(12)}-${variant}${hex(12)}-${hex(24)}${hex(24)}`;
}
