/** The default alphabet of 3GPP TS 23.038, 6.2.1: one septet each. */
const basic = new Set(
  '@£$¥èéùìòÇ\nØø\rÅåΔ_ΦΓΛΩΠΨΣΘΞ ÆæßÉ !"#¤%&\'()*+,-./0123456789:;<=>?¡ABCDEFGHIJKLMNOPQRSTUVWXYZÄÖÑÜ§¿abcdefghijklmnopqrstuvwxyzäöñüà',
);
/** Its extension table (6.2.1.1): an escape and a character, two septets. */
const extended = new Set('\f^{}\\[~]|€');

export interface TextParts {
  encoding: 'gsm7' | 'ucs2';
  /** Septets, or 16-bit units. */
  units: number;
  /** Messages it is sent as, each charged: the room of one, less six octets of header each when there are more. */
  parts: number;
}

/**
 * In how many messages a text travels: 160 septets or 70 UCS-2 units alone, 153 or 67 in each of several (3GPP TS 23.038,
 * and 23.040, 9.2.3.24.1 for the header of concatenation). A character is never divided between two.
 */
export function textParts(body: string): TextParts {
  const characters = [...body];
  const plain = characters.every((each) => basic.has(each) || extended.has(each));
  const sizes = characters.map((each) => (plain ? (extended.has(each) ? 2 : 1) : each.length));
  const units = sizes.reduce((sum, size) => sum + size, 0);
  const [alone, each] = plain ? [160, 153] : [70, 67];
  return {
    encoding: plain ? 'gsm7' : 'ucs2',
    units,
    parts: units === 0 ? 0 : units <= alone ? 1 : filled(sizes, each),
  };
}

function filled(sizes: number[], room: number): number {
  let parts = 1;
  let used = 0;
  for (const size of sizes) {
    if (used + size > room) {
      parts++;
      used = 0;
    }
    used += size;
  }
  return parts;
}
