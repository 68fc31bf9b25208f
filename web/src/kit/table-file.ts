import { stringify } from 'csv-stringify/browser/esm/sync';
import writeWorkbook from 'write-excel-file/browser';

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

/** Saves rows as a workbook of one sheet. Every cell is a text: none can be taken for a formula. */
export async function saveWorkbook(
  name: string,
  headers: readonly string[],
  rows: readonly (readonly string[])[],
): Promise<void> {
  const text = (value: string) => ({ value, type: String });
  await writeWorkbook([
    headers.map((value) => ({ ...text(value), fontWeight: 'bold' as const })),
    ...rows.map((row) => row.map(text)),
  ]).toFile(`${name}.xlsx`);
}

export function saveFile(name: string, text: string, type: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type }));
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
