import { stringify } from 'csv-stringify/browser/esm/sync';

/**
 * Saves rows as a CSV file (RFC 4180, UTF-8 with its mark, so that spreadsheets read accents). Cells that a
 * spreadsheet would take for a formula are made harmless.
 */
export function saveTable(
  name: string,
  headers: readonly string[],
  rows: readonly (readonly string[])[],
): void {
  const text = stringify([headers, ...rows] as string[][], {
    bom: true,
    escape_formulas: true,
    record_delimiter: 'windows',
  });
  saveFile(`${name}.csv`, text, 'text/csv;charset=utf-8');
}

export function saveFile(name: string, text: string, type: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type }));
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
