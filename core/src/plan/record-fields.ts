const record = 'record.';
/** What every record has, beside the fields of the customer system. */
const always = new Set(['record.name', 'record.id']);

/** The customer system's own fields, as plans name them, out of what may be merged: 'record.tier' is 'tier'. */
export function ownFields(mergeable: readonly string[]): string[] {
  return mergeable.flatMap((name) =>
    name.startsWith(record) && !always.has(name) ? [name.slice(record.length)] : [],
  );
}
