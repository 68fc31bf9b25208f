/** What can be dialled; a bit each in the sets below. */
const symbols = '0123456789*#+';
const digitsMask = 0b11_1111_1111;

/** One place of a pattern: which symbols it admits, as bits of `symbols`, and whether it repeats zero or more times. */
export interface Element {
  admits: number;
  /** How many symbols that is. */
  width: number;
  repeats: boolean;
}

export type Pattern = readonly Element[];

export type PatternReading = { ok: true; pattern: Pattern } | { ok: false; reason: string };

const longest = 40;

/**
 * Reads a pattern as numbering plans write it, with the digit maps of RFC 3435, section 2.1.5: digits, `*`, `#` and `+`
 * stand for themselves; `x` is any digit, `N` 2 to 9, `[2-47]` a set; a final `.` repeats what stands before it zero or
 * more times. The whole of what was dialled must match.
 */
export function readPattern(text: string): PatternReading {
  const trimmed = text.trim();
  if (trimmed === '') return no('Type a pattern, for example +1NxxNxxxxxx.');
  if (trimmed.length > 80) return no('A pattern has at most 80 characters.');
  const pattern: Element[] = [];
  for (let at = 0; at < trimmed.length;) {
    const character = trimmed[at]!;
    if (pattern.at(-1)?.repeats === true) return no('Nothing may come behind the final dot.');
    if (character === '.') {
      const last = pattern.at(-1);
      if (last === undefined) return no('A dot repeats what stands before it, and nothing does.');
      pattern[pattern.length - 1] = { ...last, repeats: true };
      at++;
    } else if (character === '[') {
      const end = trimmed.indexOf(']', at);
      if (end < 0) return no('The bracket [ is not closed.');
      const admits = readSet(trimmed.slice(at + 1, end));
      if (typeof admits === 'string') return no(admits);
      pattern.push(element(admits));
      at = end + 1;
    } else {
      const admits = admitted(character);
      if (admits === null)
        return no(
          `"${character}" is not part of a pattern. Use digits, * # +, x, N, [sets] and a final dot.`,
        );
      pattern.push(element(admits));
      at++;
    }
  }
  return pattern.length > longest ? no(`A pattern has at most ${longest} places.`) : { ok: true, pattern };
}

function no(reason: string): PatternReading {
  return { ok: false, reason };
}

function element(admits: number): Element {
  return { admits, width: countBits(admits), repeats: false };
}

function admitted(character: string): number | null {
  if (character === 'x' || character === 'X') return digitsMask;
  if (character === 'N') return digitsMask & ~0b11;
  const index = symbols.indexOf(character);
  return index < 0 ? null : 1 << index;
}

function readSet(text: string): number | string {
  if (text === '') return 'The brackets [] are empty.';
  let admits = 0;
  for (let at = 0; at < text.length; at++) {
    const from = symbols.indexOf(text[at]!);
    if (from < 0) return `"${text[at]!}" cannot stand in brackets.`;
    if (text[at + 1] !== '-') {
      admits |= 1 << from;
      continue;
    }
    const to = symbols.indexOf(text[at + 2] ?? ' ');
    if (from > 9 || to < 0 || to > 9) return `"${text.slice(at, at + 3)}" is not a range of digits.`;
    if (to < from) return `The range ${text.slice(at, at + 3)} runs backwards.`;
    for (let bit = from; bit <= to; bit++) admits |= 1 << bit;
    at += 2;
  }
  return admits;
}

function countBits(bits: number): number {
  let count = 0;
  for (let rest = bits; rest !== 0; rest &= rest - 1) count++;
  return count;
}

/** Places of the symbols dialled; null when something was dialled that no telephone has. */
export function placesOf(dialled: string): number[] | null {
  const places: number[] = [];
  for (const character of dialled) {
    const place = symbols.indexOf(character);
    if (place < 0) return null;
    places.push(place);
  }
  return places;
}

/** Whether the whole of it matches. */
export function matches(pattern: Pattern, places: readonly number[]): boolean {
  const last = pattern.at(-1);
  const fixed = last?.repeats === true ? pattern.length - 1 : pattern.length;
  if (places.length < fixed || (places.length > fixed && last?.repeats !== true)) return false;
  for (let i = 0; i < fixed; i++) if ((pattern[i]!.admits & (1 << places[i]!)) === 0) return false;
  for (let i = fixed; i < places.length; i++) if ((last!.admits & (1 << places[i]!)) === 0) return false;
  return true;
}

/** Symbols that must be there at least. */
export function shortest(pattern: Pattern): number {
  return pattern.at(-1)?.repeats === true ? pattern.length - 1 : pattern.length;
}

/**
 * Negative when `one` is more specific: compared from the left by how many symbols each place admits, a fixed end before
 * a repetition (docs/definitions.md, "Dialling rules"). Zero for a full tie.
 */
export function bySpecificity(one: Pattern, other: Pattern): number {
  for (let i = 0; ; i++) {
    const [a, b] = [one[i], other[i]];
    if (a === undefined && b === undefined) return 0;
    // A place that need not be there at all is less specific than one that must, and than the end.
    if (a === undefined) return b!.repeats ? -1 : 1;
    if (b === undefined) return a.repeats ? 1 : -1;
    if (a.repeats !== b.repeats) return a.repeats ? 1 : -1;
    if (a.width !== b.width) return a.width - b.width;
  }
}

/** Bits of all symbols, for walks over what could be dialled. */
export const symbolCount = symbols.length;

export function symbolAt(place: number): string {
  return symbols[place]!;
}
