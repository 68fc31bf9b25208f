import { Readable } from 'node:stream';
import { setImmediate } from 'node:timers/promises';
import { parse } from 'csv-parse';
import { Problem } from '../http/problems.ts';

/** A table as somebody brought it: texts, the first row as headers. */
export interface Table {
  separator: string;
  headers: string[];
  rows: string[][];
}

const separators = [',', ';', '\t', '|'];
const sampled = 20;
const mostColumns = 100;
/** Characters read at once: calls go on while a long list is read. */
const part = 100_000;

/**
 * Reads separated values (RFC 4180). Which separator was used is seen from the first rows: the one that cuts them into
 * most columns, as many in each. Short rows are filled up; what a row has too many is told.
 */
export async function readTable(text: string, path: string, needsRows = true): Promise<Table> {
  const clean = text.replace(/^\uFEFF/, '');
  if (clean.trim() === '') throw Problem.field(path, 'The file is empty.');
  if (clean.includes('\u0000'))
    throw Problem.field(path, 'This is not a text file. Save the sheet as CSV first.');
  const separator = separatorOf(clean);
  const rows: string[][] = [];
  try {
    const options = {
      delimiter: separator,
      relax_column_count: true,
      skip_empty_lines: true,
      trim: true,
    };
    for await (const row of Readable.from(inParts(clean)).pipe(parse(options))) rows.push(row as string[]);
  } catch (error) {
    const line = (error as { lines?: number }).lines;
    throw Problem.field(
      path,
      `Line ${line ?? '?'} cannot be read: a quotation mark is not closed, or stands inside a cell.`,
    );
  }
  const [headers = [], ...body] = rows;
  if (headers.length > mostColumns) throw Problem.field(path, `At most ${mostColumns} columns are taken.`);
  if (body.length === 0 && needsRows)
    throw Problem.field(path, 'There is only one row. The first row names the columns; rows come below.');
  return {
    separator,
    headers,
    rows: body.map((row) =>
      row.length >= headers.length
        ? row.slice(0, headers.length)
        : [...row, ...Array<string>(headers.length - row.length).fill('')],
    ),
  };
}

async function* inParts(text: string): AsyncGenerator<string> {
  for (let i = 0; i < text.length; i += part) {
    yield text.slice(i, i + part);
    await setImmediate();
  }
}

function separatorOf(text: string): string {
  const lines = text.split(/\r?\n/, sampled).filter((line) => line.trim() !== '');
  let best = ',';
  let most = 0;
  for (const separator of separators) {
    const counts = lines.map((line) => line.replace(/"(?:[^"]|"")*"/g, '').split(separator).length - 1);
    const least = Math.min(...counts);
    if (least > most) [best, most] = [separator, least];
  }
  return best;
}
