import { fieldKey } from '../match/merge.ts';
import { readNumber } from '../numbers/e164.ts';
import { zonesOf } from '../numbers/facts.ts';

/** Which column of a list is what: indexes into a row; own fields are kept under their key. */
export interface ContactMapping {
  phone: number | null;
  name: number | null;
  firstName: number | null;
  lastName: number | null;
  fields: { key: string; column: number }[];
}

/** A row that may be called. */
export interface ListedContact {
  e164: string;
  name: string;
  fields: Record<string, string>;
  zones: string[];
}

/** A row that is left out, and why, at its cell. `row` counts from 1, without the header. */
export interface RowFault {
  row: number;
  column: number;
  cell: string;
  why: 'notANumber' | 'twice' | 'alreadyListed' | 'optedOut';
  detail: string;
}

export interface ListReport {
  /** Rows that may be called, and rows that are left out. */
  good: number;
  faulty: number;
  byReason: Partial<Record<RowFault['why'], number>>;
  /** The first of those that are left out. */
  faults: RowFault[];
  /** Contacts whose number may be in several zones: they are called when all of them are within the hours. */
  uncertainZones: number;
  /** Contacts without any known zone: they are never called. */
  withoutZone: number;
}

const names = {
  phone: ['phone', 'phone number', 'telephone', 'tel', 'mobile', 'cell', 'number', 'e164', 'phone no'],
  name: ['name', 'full name', 'contact', 'customer'],
  firstName: ['first name', 'firstname', 'given name', 'forename'],
  lastName: ['last name', 'lastname', 'surname', 'family name'],
} as const;

const plain = (header: string) =>
  header
    .trim()
    .toLowerCase()
    .replace(/[_.\-\s]+/g, ' ')
    .trim();

/** Columns found by their names; every other column with a header is an own field. */
export function matchColumns(headers: readonly string[]): ContactMapping {
  const find = (wanted: readonly string[]) => {
    const index = headers.findIndex((header) => wanted.includes(plain(header)));
    return index < 0 ? null : index;
  };
  const mapping = {
    phone: find(names.phone),
    name: find(names.name),
    firstName: find(names.firstName),
    lastName: find(names.lastName),
  };
  const taken = new Set(Object.values(mapping));
  const keys = new Set<string>();
  const fields = headers.flatMap((header, column) => {
    if (taken.has(column) || header.trim() === '') return [];
    let key = fieldKey(header);
    for (let n = 2; keys.has(key); n++) key = `${fieldKey(header)}_${n}`;
    keys.add(key);
    return [{ key, column }];
  });
  return { ...mapping, fields };
}

/** A set of numbers (E.164) in a fraction of the room that texts take: fifteen digits are exact in a double. */
export class NumberSet {
  private readonly digits = new Map<number, number>();

  add(e164: string, value = 0): void {
    this.digits.set(Number(e164), value);
  }

  has(e164: string): boolean {
    return this.digits.has(Number(e164));
  }

  get(e164: string): number | undefined {
    return this.digits.get(Number(e164));
  }
}

/** Rows left out that a report names. */
const mostNamed = 200;

/**
 * Checks every row: the number (E.164), duplicates within the list and with the contacts there are, opt-outs, and the
 * time zones the number may be in. Rows are taken in parts, so that a long list can leave time for other work and is
 * never held whole. Throws when `mapping.phone` is not set.
 */
export class ContactCheck {
  readonly report: ListReport = {
    ...{ good: 0, faulty: 0, byReason: {}, faults: [], uncertainZones: 0, withoutZone: 0 },
  };
  private readonly mapping: ContactMapping;
  private readonly phone: number;
  private readonly listed: Pick<NumberSet, 'has'>;
  private readonly optedOut: Pick<NumberSet, 'has'>;
  /** Row at which each number was first seen. */
  private readonly seen = new NumberSet();
  private row = 0;

  constructor(mapping: ContactMapping, listed: Pick<NumberSet, 'has'>, optedOut: Pick<NumberSet, 'has'>) {
    if (mapping.phone === null) throw new Error('ContactCheck: choose the column that holds the numbers');
    this.mapping = mapping;
    this.phone = mapping.phone;
    this.listed = listed;
    this.optedOut = optedOut;
  }

  /** Gives those that may be called. */
  take(rows: readonly (readonly string[])[]): ListedContact[] {
    return rows.flatMap((cells) => this.takeRow(cells) ?? []);
  }

  private takeRow(cells: readonly string[]): ListedContact | null {
    const { report, phone } = this;
    const row = ++this.row;
    const cell = cells[phone] ?? '';
    const refuse = (why: RowFault['why'], detail: string) => {
      report.faulty++;
      report.byReason[why] = (report.byReason[why] ?? 0) + 1;
      if (report.faults.length < mostNamed)
        report.faults.push({ row, column: phone, cell: cell.slice(0, 60), why, detail });
      return null;
    };
    const reading = readNumber(cell);
    if (!reading.ok) return refuse('notANumber', reading.reason);
    const { e164 } = reading;
    const before = this.seen.get(e164);
    if (before !== undefined) return refuse('twice', `The same number as row ${before}.`);
    this.seen.add(e164, row);
    if (this.listed.has(e164)) return refuse('alreadyListed', 'This number is in the list already.');
    if (this.optedOut.has(e164)) return refuse('optedOut', 'On the opt-out list: never called.');
    const zones = zonesOf(e164);
    report.good++;
    if (zones.length === 0) report.withoutZone++;
    if (zones.length > 1) report.uncertainZones++;
    const { mapping } = this;
    return { e164, name: nameOf(cells, mapping, e164), fields: fieldsOf(cells, mapping), zones };
  }
}

const cellAt = (cells: readonly string[], column: number | null) =>
  column === null ? '' : tidy(cells[column] ?? '');

/** One line without control characters, as long as a name may be. */
function tidy(text: string): string {
  return text
    .replace(/\p{Cc}+/gu, ' ')
    .trim()
    .slice(0, 200);
}

function nameOf(cells: readonly string[], mapping: ContactMapping, e164: string): string {
  const both = `${cellAt(cells, mapping.firstName)} ${cellAt(cells, mapping.lastName)}`.trim();
  return cellAt(cells, mapping.name) || both || e164;
}

function fieldsOf(cells: readonly string[], mapping: ContactMapping): Record<string, string> {
  const fields: Record<string, string> = {};
  const put = (key: string, column: number | null) => {
    const value = cellAt(cells, column);
    if (value !== '') fields[key] = value;
  };
  put('first_name', mapping.firstName);
  put('last_name', mapping.lastName);
  for (const { key, column } of mapping.fields) put(key, column);
  return fields;
}
