import { pipeline, Readable } from 'node:stream';
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
    throw unreadable(error, path);
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

/** A table that is too long to be held: its headers, and its rows some at a time. */
export interface LongTable {
  headers: string[];
  rows: AsyncGenerator<string[][]>;
}

const rowsAtOnce = 500;
/** Characters by which the separator is known. */
const sample = 64 * 1024;

/** Reads separated values (UTF-8) from a stream, as `readTable` does from a text. */
export async function readLongTable(source: AsyncIterable<Buffer>, path: string): Promise<LongTable> {
  const decoder = new TextDecoder();
  const chunks = source[Symbol.asyncIterator]();
  let head = '';
  let ended = false;
  while (!ended && head.length < sample) {
    const { value, done } = await chunks.next();
    ended = done === true;
    head += ended ? decoder.decode() : decoder.decode(value as Buffer, { stream: true });
  }
  head = head.replace(/^\uFEFF/, '');
  if (head.trim() === '') throw Problem.field(path, 'The file is empty.');
  if (head.includes('\u0000'))
    throw Problem.field(path, 'This is not a text file. Save the sheet as CSV first.');
  async function* texts() {
    yield head;
    for (; !ended;) {
      const { value, done } = await chunks.next();
      ended = done === true;
      yield ended ? decoder.decode() : decoder.decode(value as Buffer, { stream: true });
    }
  }
  const options = {
    ...{ delimiter: separatorOf(head), relax_column_count: true, skip_empty_lines: true, trim: true },
  };
  // A source that breaks off ends the reading with its own error.
  const parsed = pipeline(Readable.from(texts()), parse(options), () => undefined);
  const each = (parsed as AsyncIterable<string[]>)[Symbol.asyncIterator]();
  const next = async () => {
    try {
      return await each.next();
    } catch (error) {
      throw unreadable(error, path);
    }
  };
  const first = await next();
  const headers = first.done === true ? [] : first.value;
  if (headers.length > mostColumns) throw Problem.field(path, `At most ${mostColumns} columns are taken.`);
  async function* rows() {
    let batch: string[][] = [];
    for (let row = await next(); row.done !== true; row = await next()) {
      batch.push(row.value);
      if (batch.length < rowsAtOnce) continue;
      yield batch;
      batch = [];
    }
    if (batch.length > 0) yield batch;
  }
  return { headers, rows: rows() };
}

function unreadable(error: unknown, path: string): unknown {
  const { line, code } = {
    line: (error as { lines?: number }).lines,
    code: (error as { code?: string }).code,
  };
  if (code?.startsWith('CSV_') !== true) return error;
  return Problem.field(
    path,
    `Line ${line ?? '?'} cannot be read: a quotation mark is not closed, or stands inside a cell.`,
  );
}

async function* inParts(text: string): AsyncGenerator<string> {
  for (let i = 0; i < text.length; i += part) {
    yield text.slice(i, i + part);
    await setImmediate();
  }
}

function separatorOf(text: string): string {
  // What stands in quotation marks may hold any sign, and run over lines.
  const plain = text.slice(0, sample).replace(/"(?:[^"]|"")*"/g, '');
  const whole = text.length > sample ? plain.slice(0, plain.lastIndexOf('\n')) : plain;
  const lines = whole.split(/\r?\n/, sampled).filter((line) => line.trim() !== '');
  let best = ',';
  let most = 0;
  for (const separator of separators) {
    const counts = lines.map((line) => line.split(separator).length - 1);
    const least = Math.min(...counts);
    if (least > most) [best, most] = [separator, least];
  }
  return best;
}
