import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { ContactCheck, type ContactMapping, matchColumns, NumberSet } from './contact-list.ts';

function checkContacts(
  rows: string[][],
  mapping: ContactMapping,
  listed: Set<string>,
  optedOut: Set<string>,
) {
  const check = new ContactCheck(mapping, listed, optedOut);
  const contacts = [...check.take(rows.slice(0, 1)), ...check.take(rows.slice(1))];
  return { ...check.report, contacts };
}

const none = new Set<string>();

describe('columns', () => {
  test('are found by their names, in any spelling; the rest are own fields', () => {
    expect(
      matchColumns(['First_Name', 'Surname', 'Phone number', 'Tarif été', 'Route', 'route', '']),
    ).toEqual({
      phone: 2,
      name: null,
      firstName: 0,
      lastName: 1,
      fields: [
        { key: 'tarif_ete', column: 3 },
        { key: 'route', column: 4 },
        { key: 'route_2', column: 5 },
      ],
    });
    expect(matchColumns(['who', 'what']).phone).toBeNull();
  });
});

describe('rows', () => {
  const mapping = matchColumns(['name', 'phone', 'fare']);

  test('good ones are kept with their fields and zones, faulty ones named at their cell', () => {
    const checked = checkContacts(
      [
        ['Ann Lee', '(360) 555-0117', '12.50'],
        ['Bo', '360 555 011', ''],
        ['Cy', '+1 360 555 0117', ''],
        ['Di', '206-555-0140', ''],
        ['Ed', '+1 709 555 0111', ''],
        ['', '+1 800 555 0114', ''],
        ['Flo', '+1 604 555 0160', ''],
      ],
      mapping,
      new Set(['+12065550140']),
      new Set(['+16045550160']),
    );
    expect(checked.contacts.map((contact) => [contact.name, contact.e164])).toEqual([
      ['Ann Lee', '+13605550117'],
      ['Ed', '+17095550111'],
      ['+18005550114', '+18005550114'],
    ]);
    expect(checked.contacts[0]).toMatchObject({ fields: { fare: '12.50' }, zones: ['America/Los_Angeles'] });
    expect(checked.faults.map((fault) => [fault.row, fault.why])).toEqual([
      [2, 'notANumber'],
      [3, 'twice'],
      [4, 'alreadyListed'],
      [7, 'optedOut'],
    ]);
    expect(checked.faults[1]!.detail).toBe('The same number as row 1.');
    expect([checked.uncertainZones, checked.withoutZone]).toEqual([2, 0]);
  });

  test('whatever stands in the cells, each row is kept or named once, and no number twice', () => {
    const cell = fc.oneof(
      fc.string(),
      fc.integer({ min: 200, max: 299 }).map((code) => `+1${code}5550117`),
    );
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.string(), cell, fc.string()), { maxLength: 40 }), (rows) => {
        const checked = checkContacts(rows, mapping, none, none);
        expect(checked.contacts.length).toBe(checked.good);
        expect(checked.good + checked.faulty).toBe(rows.length);
        expect(checked.faults.length).toBe(checked.faulty);
        const numbers = checked.contacts.map((contact) => contact.e164);
        expect(new Set(numbers).size).toBe(numbers.length);
        for (const contact of checked.contacts) expect(contact.name).not.toMatch(/\p{Cc}/u);
      }),
    );
  });
});

test('a report counts every row that is left out, and names the first of them', () => {
  const check = new ContactCheck(matchColumns(['phone']), none, none);
  check.take(Array.from({ length: 1_000 }, () => ['nobody']));
  expect(check.report).toMatchObject({ good: 0, faulty: 1_000, byReason: { notANumber: 1_000 } });
  expect(check.report.faults).toHaveLength(200);
});

test('numbers are told apart to their fifteenth digit', () => {
  const numbers = new NumberSet();
  numbers.add('+999999999999999', 7);
  expect(numbers.has('+999999999999998')).toBe(false);
  expect(numbers.get('+999999999999999')).toBe(7);
});
