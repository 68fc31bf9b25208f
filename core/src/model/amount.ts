/**
 * Exact amounts of money: whole millionths as bigint, never a float. The same six places as the database keeps.
 */
const places = 6;
const one = 10n ** BigInt(places);

/** Reads `0.0135`, `-12`, `1250.00`; null when it is no amount or has more than six decimal places. */
export function readAmount(text: string): bigint | null {
  const match = /^(-?)(\d{1,12})(?:\.(\d{1,6}))?$/.exec(text.trim());
  if (match === null) return null;
  const value = BigInt(match[2]!) * one + BigInt((match[3] ?? '').padEnd(places, '0'));
  return match[1] === '-' ? -value : value;
}

/** Writes at least two decimal places, and more where the amount has them: `12.00`, `0.0135`. */
export function writeAmount(amount: bigint): string {
  const size = amount < 0n ? -amount : amount;
  const decimals = String(size % one)
    .padStart(places, '0')
    .replace(/0{1,4}$/, '');
  return `${amount < 0n ? '-' : ''}${size / one}.${decimals}`;
}

/** What so many seconds cost at a price a minute: exact to the second, rounded up to the next millionth. */
export function costOfCall(perMinute: bigint, seconds: number): bigint {
  const product = perMinute * BigInt(Math.ceil(seconds));
  return (product + 59n) / 60n;
}
