import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { extensionFault } from './extension.ts';
import {
  checkPeople,
  matchPersonColumns,
  type PeopleKnown,
  personOfRow,
  personRange,
  type PersonRow,
  personRows,
} from './people-list.ts';

const known: PeopleKnown = {
  logins: new Set(['ann.lee']),
  extensions: new Map([
    ['2001', 'Ann Lee'],
    ['3001', 'Bookings'],
  ]),
  teams: ['Bookings', 'Freight'],
  teamExtensions: new Map([
    ['', ['2001']],
    ['bookings', ['2001']],
  ]),
};
const row = (name: string, more: Partial<PersonRow> = {}): PersonRow => ({
  name,
  team: '',
  role: '',
  login: '',
  extension: '',
  phone: '',
  mail: '',
  ...more,
});

describe('columns', () => {
  test('are found by their names; parts of a name are joined, the second of two alike is left out', () => {
    const columns = matchPersonColumns(['Surname', 'First_Name', 'EXT', 'ext', 'Shoe size']);
    expect(columns).toEqual(['lastName', 'firstName', 'extension', null, null]);
    expect(
      personRows(
        [
          ['Lee', ' Bo ', '2100', '9', '41'],
          ['', '', '', '9', ''],
        ],
        columns,
      ),
    ).toEqual([row('Bo Lee', { extension: '2100' })]);
  });

  test('a range gives people named after consecutive extensions', () => {
    expect(personRange({ count: 2, from: 2041, team: 'Bookings', word: 'Agent' })).toEqual([
      row('Agent 2041', { team: 'Bookings', extension: '2041' }),
      row('Agent 2042', { team: 'Bookings', extension: '2042' }),
    ]);
  });
});

describe('checks', () => {
  test('what is empty is proposed: role, login, the next extension of the team', () => {
    const [first, second] = checkPeople([row('Ann Lee', { team: 'BOOKINGS' }), row('Bo')], known);
    expect(first).toEqual({
      row: {
        name: 'Ann Lee',
        team: 'Bookings',
        role: 'agent',
        login: 'ann.lee2',
        extension: '2002',
        phone: 'Softphone',
        mail: '',
      },
      faults: {},
    });
    expect(second!.row.extension).toBe('2003');
  });

  test('what is taken is told with its owner and what is free, what comes twice with the row before', () => {
    const checked = checkPeople(
      [
        row('A', { extension: '3001' }),
        row('B', { login: 'b.b' }),
        row('C', { login: 'B.B', extension: '91' }),
      ],
      known,
    );
    expect(checked[0]!.faults.extension).toBe('3001 is Bookings. Next free: 3002.');
    expect(checked[2]!.faults.login).toBe('The same login as row 2.');
    expect(checked[2]!.faults.extension).toContain('emergency number 911');
  });

  test('a phone is named in any usual way, none is said, and what is no phone or address is told at its cell', () => {
    const phones = ['desk 6', 'Desk phone with 12 keys', 'CORDLESS', 'none', '', 'toaster'];
    const checked = checkPeople(
      phones.map((phone, index) =>
        row(`P ${index}`, { phone, mail: index === 5 ? 'at home' : 'A@Ferries.Example' }),
      ),
      known,
    );
    expect(checked.map((each) => each.row.phone)).toEqual([
      ...[
        'Desk phone with 6 keys',
        'Desk phone with 12 keys',
        'Cordless phone',
        'none',
        'Softphone',
        'toaster',
      ],
    ]);
    expect(Object.keys(checked[5]!.faults)).toEqual(['phone', 'mail']);
    expect(checked[5]!.faults.phone).toContain('cordless phone, or none');
    const made = checked.slice(0, 5).map((each) => personOfRow(each.row, new Map()));
    expect(made.map(({ phoneModel }) => phoneModel)).toEqual([
      'desk6',
      'desk12',
      'cordless',
      null,
      'softphone',
    ]);
    expect(made[0]!.mail).toBe('a@ferries.example');
  });

  test('who answers no calls gets no phone unless one is named', () => {
    const [auditor] = checkPeople([row('A', { role: 'auditor' })], known);
    expect([auditor!.row.phone, personOfRow(auditor!.row, new Map()).phoneModel]).toEqual(['none', null]);
  });

  test('good rows of any list never clash, with each other or with what is there', () => {
    const cells = fc.record({
      name: fc.oneof(fc.constantFrom('Ann Lee', 'Bo Ray', 'É ß', ''), fc.string({ maxLength: 12 })),
      team: fc.constantFrom('', 'Bookings', 'bookings', 'New'),
      role: fc.constantFrom('', 'agent', 'Supervisor', 'captain'),
      login: fc.constantFrom('', '', 'ann.lee', 'bo', 'bo.ray', 'person'),
      extension: fc.constantFrom('', '', '2001', '2002', '2003', '911', '3002'),
      phone: fc.constantFrom('', 'none', 'desk 6', 'toaster'),
      mail: fc.constantFrom('', 'ann@ferries.example', 'ann at home'),
    });
    fc.assert(
      fc.property(fc.array(cells, { maxLength: 30 }), (rows) => {
        const good = checkPeople(rows, known).filter((each) => Object.keys(each.faults).length === 0);
        const teamIds = new Map(good.map((each) => [each.row.team.toLowerCase(), each.row.team]));
        const people = good.map((each) => personOfRow(each.row, teamIds));
        const logins = people.map((person) => person.login!);
        const extensions = people.map((person) => person.extension!);
        expect(new Set(logins).size).toBe(logins.length);
        expect(new Set(extensions).size).toBe(extensions.length);
        for (const login of logins) expect(known.logins.has(login)).toBe(false);
        for (const extension of extensions) {
          expect(known.extensions.has(extension)).toBe(false);
          expect(extensionFault(extension)).toBeNull();
        }
      }),
      { numRuns: 500 },
    );
  });
});
