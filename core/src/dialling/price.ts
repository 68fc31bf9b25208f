/** What a minute costs to numbers that begin so; the empty prefix is for all others. */
export interface PrefixPrice {
  prefix: string;
  /** A decimal amount. */
  perMinute: string;
}

/** The price of the longest prefix that the digits begin with, with or without the `+`; null when none fits. */
export function priceFor(prices: readonly PrefixPrice[], digits: string): PrefixPrice | null {
  const bare = digits.replace(/^\+/, '');
  let best: PrefixPrice | null = null;
  for (const price of prices) {
    const prefix = price.prefix.replace(/^\+/, '');
    if (!bare.startsWith(prefix)) continue;
    if (best === null || prefix.length > best.prefix.replace(/^\+/, '').length) best = price;
  }
  return best;
}
