/** Words of a template: plain text, or the name of a field, as in `{{ contact.first_name }}`. */
export type MergePart = { kind: 'text'; text: string } | { kind: 'field'; name: string };

const field = /\{\{\s*([^{}]*?)\s*\}\}/g;
const fieldName = /^[a-z][a-z0-9_]*\.[a-z][a-z0-9_]*$/;

/** The parts of a template, in order. */
export function mergeParts(template: string): MergePart[] {
  const parts: MergePart[] = [];
  let end = 0;
  for (const match of template.matchAll(field)) {
    if (match.index > end) parts.push({ kind: 'text', text: template.slice(end, match.index) });
    parts.push({ kind: 'field', name: match[1]! });
    end = match.index + match[0].length;
  }
  if (end < template.length) parts.push({ kind: 'text', text: template.slice(end) });
  return parts;
}

/** What is wrong with a template, as a sentence, or null: a field that does not exist, or braces left open. */
export function mergeFault(template: string, known: readonly string[]): string | null {
  for (const part of mergeParts(template)) {
    if (part.kind === 'text') {
      if (/\{\{|\}\}/.test(part.text)) return 'A field is left open: write it like {{ contact.first_name }}.';
      continue;
    }
    if (known.includes(part.name)) continue;
    if (!fieldName.test(part.name))
      return `"${part.name}" is not a field. Write it like {{ contact.first_name }}.`;
    const near = nearest(part.name, known);
    return `There is no field ${part.name}.${near === null ? '' : ` Perhaps ${near}?`} Fields: ${known.join(', ')}.`;
  }
  return null;
}

/** The text with its fields filled; a field without a value becomes `otherwise`. `write` prepares each value. */
export function merge(
  template: string,
  values: Readonly<Record<string, string | undefined>>,
  write: (value: string) => string = (value) => value,
  otherwise = '',
): string {
  return mergeParts(template)
    .map((part) => {
      if (part.kind === 'text') return part.text;
      const value = values[part.name];
      return value === undefined || value === '' ? otherwise : write(value);
    })
    .join('');
}

/** A header or key as the second half of a field name: `Season ticket no.` becomes `season_ticket_no`. */
export function fieldKey(header: string): string {
  const key = header
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^_+|_+$/g, '');
  return /^[a-z]/.test(key) ? key : `field_${key === '' ? '1' : key}`;
}

function nearest(name: string, known: readonly string[]): string | null {
  let best: string | null = null;
  let least = 4;
  for (const each of known) {
    const distance = editDistance(name, each, least);
    if (distance < least) [best, least] = [each, distance];
  }
  return best;
}

/** Levenshtein distance, given up at `limit` (Wagner and Fischer 1974). */
function editDistance(one: string, other: string, limit: number): number {
  if (Math.abs(one.length - other.length) >= limit) return limit;
  let row = Array.from({ length: other.length + 1 }, (_, i) => i);
  for (let i = 1; i <= one.length; i++) {
    const next = [i];
    for (let j = 1; j <= other.length; j++) {
      const same = one[i - 1] === other[j - 1] ? 0 : 1;
      next.push(Math.min(next[j - 1]! + 1, row[j]! + 1, row[j - 1]! + same));
    }
    row = next;
  }
  return row[other.length]!;
}
