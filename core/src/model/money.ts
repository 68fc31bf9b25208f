/** Cents of a decimal amount. */
export function centsOf(amount: string): number {
  const [whole = '0', part = ''] = amount.split('.');
  return Number(whole) * 100 + Number(part.padEnd(2, '0').slice(0, 2));
}

/** A decimal amount of cents: `1250.00`. */
export function amountOf(cents: number): string {
  return `${Math.trunc(cents / 100)}.${String(cents % 100).padStart(2, '0')}`;
}
