import fc from 'fast-check';
import { expect, test } from 'vitest';
import { type BlockedItem, BlockedList } from './blocked.ts';

const entry = (kind: BlockedItem['kind'], digits: string, until: number | null = null): BlockedItem => ({
  ...{ id: `${kind} ${digits}`, name: digits, kind, digits, until },
});

test('a number, the longest beginning, and those withheld; each until its end', () => {
  const list = new BlockedList([
    ...[entry('number', '+13605550117', 100), entry('prefix', '+1360'), entry('prefix', '+13605')],
    entry('withheld', '', 50),
  ]);
  expect(list.entryFor('+13605550117', 99)?.kind).toBe('number');
  // It has ended: the beginning still holds.
  expect(list.entryFor('+13605550117', 100)?.digits).toBe('+13605');
  expect(list.entryFor('+13601230117', 0)?.digits).toBe('+1360');
  expect(list.entryFor('+15035550117', 0)).toBeNull();
  for (const from of ['', 'anonymous', 'Restricted']) expect(list.entryFor(from, 0)?.kind).toBe('withheld');
  expect(list.entryFor('anonymous', 50)).toBeNull();
});

test('is what walking over the whole list finds', () => {
  const digits = fc.stringMatching(/^\+1[0-3]{1,5}$/);
  const until = fc.option(fc.integer({ min: 0, max: 20 }));
  const item = fc.tuple(fc.constantFrom('number' as const, 'prefix' as const), digits, until);
  fc.assert(
    fc.property(
      fc.array(item, { maxLength: 12 }),
      digits,
      fc.integer({ min: 0, max: 20 }),
      (rows, from, at) => {
        // Of two entries alike the later holds, as the list keeps only one.
        const items = [
          ...new Map(rows.map(([kind, of, end]) => [`${kind} ${of}`, entry(kind, of, end)])).values(),
        ];
        const holding = items.filter(({ until: end }) => end === null || at < end);
        const expected =
          holding.find(({ kind, digits: of }) => kind === 'number' && of === from) ??
          holding
            .filter(({ kind, digits: of }) => kind === 'prefix' && from.startsWith(of))
            .sort((one, other) => other.digits.length - one.digits.length)[0] ??
          null;
        expect(new BlockedList(items).entryFor(from, at)).toEqual(expected);
      },
    ),
  );
});
