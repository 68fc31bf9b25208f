import { stringify } from 'csv-stringify';
import writeWorkbook from 'write-excel-file/node';
import type { SavedColumn } from './saved-list.ts';

export const fileKinds = ['csv', 'xlsx', 'jsonl'] as const;
export type FileKind = (typeof fileKinds)[number];

export const mediaTypes: Readonly<Record<FileKind | 'vcf', string>> = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  jsonl: 'application/jsonl; charset=utf-8',
  vcf: 'text/vcard; charset=utf-8',
};

/** A sheet of the workbook format holds no more rows. */
export const mostRowsOfSheet = 1_048_575;

/**
 * A list as a file. CSV: RFC 4180, UTF-8 with its mark, so that spreadsheets read accents, and cells that a spreadsheet
 * would take for a formula made harmless. XLSX: one sheet; texts are texts, so none is a formula. JSON Lines: the rows
 * whole, as the API gives them.
 */
export function writeList<Row>(
  kind: FileKind,
  columns: readonly SavedColumn<Row>[],
  rows: AsyncIterable<Row[]>,
): AsyncIterable<Buffer> {
  if (kind === 'jsonl') return jsonLines(rows);
  return kind === 'csv' ? table(columns, rows) : workbook(columns, rows);
}

async function* jsonLines<Row>(rows: AsyncIterable<Row[]>): AsyncGenerator<Buffer> {
  for await (const some of rows)
    if (some.length > 0) yield Buffer.from(some.map((row) => `${JSON.stringify(row)}\n`).join(''));
}

async function* table<Row>(
  columns: readonly SavedColumn<Row>[],
  rows: AsyncIterable<Row[]>,
): AsyncGenerator<Buffer> {
  const options = { escape_formulas: true, record_delimiter: 'windows' } as const;
  const written = (lines: (string | number | null)[][], bom = false) =>
    new Promise<string>((resolve, reject) => {
      stringify(lines, { ...options, bom }, (error, text) => (error ? reject(error) : resolve(text)));
    });
  yield Buffer.from(await written([columns.map(({ title }) => title)], true));
  for await (const some of rows)
    if (some.length > 0)
      yield Buffer.from(await written(some.map((row) => columns.map(({ of }) => of(row)))));
}

async function* workbook<Row>(
  columns: readonly SavedColumn<Row>[],
  rows: AsyncIterable<Row[]>,
): AsyncGenerator<Buffer> {
  const sheet: object[][] = [
    columns.map(({ title }) => ({ value: title, type: String, fontWeight: 'bold' })),
  ];
  for await (const some of rows)
    for (const row of some)
      sheet.push(
        columns.map(({ of }) => {
          const value = of(row);
          return typeof value === 'number' ? { value, type: Number } : { value: value ?? '', type: String };
        }),
      );
  yield await writeWorkbook(sheet as never, { stickyRowsCount: 1 }).toBuffer();
}
