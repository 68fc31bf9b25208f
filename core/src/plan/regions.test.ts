import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { Bench, configuration, person, queue, unroutedNumber } from '../exchange/exchange.testing.ts';
import type { RegionTable } from '../model/configuration.ts';
import type { CompiledPlan } from '../model/plan.ts';
import { allPlaces, areaCodesOf } from '../numbers/places.ts';
import { prefixWords, readRegion, regionOf, typedRegions } from './regions.ts';

const to = (id: string) => ({ kind: 'queue' as const, id });
const table: RegionTable = {
  ...{ id: 't', name: 'Terminals' },
  ways: [
    { destination: to('north'), prefixes: '1360 1425' },
    { destination: to('city'), prefixes: '1206 1360555' },
    { destination: to('abroad'), prefixes: '44' },
  ],
};

describe('the longest beginning wins', () => {
  test.each([
    ['+13601230100', 'north'],
    ['+13605550117', 'city'],
    ['+442071230100', 'abroad'],
    ['+15035550117', null],
    ['anonymous', null],
    ['+', null],
  ])('%s: %s', (from, expected) => {
    expect(regionOf(table, from)?.destination ?? null).toEqual(expected === null ? null : to(expected));
  });

  test('whatever the rows, as one who looks through all of them finds it', () => {
    const prefix = fc.stringMatching(/^[1-9]\d{0,5}$/);
    fc.assert(
      fc.property(
        fc.uniqueArray(prefix, { minLength: 1, maxLength: 40 }),
        fc.stringMatching(/^[1-9]\d{3,12}$/),
        (prefixes, digits) => {
          const rows = {
            ...{ id: 't', name: 'T' },
            ways: prefixes.map((each) => ({ destination: to(each), prefixes: each })),
          };
          // The same rows, those of one destination in one text, in any order.
          const together = {
            ...{ id: 't', name: 'T' },
            ways: ['0', '1', '2'].map((way) => ({
              destination: to(way),
              prefixes: prefixes.filter((each) => String(Number(each) % 3) === way).join(' '),
            })),
          };
          const fits = prefixes.filter((each) => digits.startsWith(each));
          const longest = fits.sort((one, other) => other.length - one.length)[0];
          expect(regionOf(rows, `+${digits}`)?.prefix).toBe(longest);
          expect(regionOf(together, `+${digits}`)).toEqual(
            longest === undefined ? null : { prefix: longest, destination: to(String(Number(longest) % 3)) },
          );
        },
      ),
      { numRuns: 500 },
    );
  });
});

describe('a region as people write it', () => {
  test.each([
    ['206', ['1206']],
    [' (206) 555 ', ['1206555']],
    ['1 206 555', ['1206555']],
    ['+1206', ['1206']],
    ['+44 20', ['4420']],
    ['+1', ['1']],
  ])('%s', (text, prefixes) => {
    expect(readRegion(text)).toMatchObject({ ok: true, prefixes });
  });

  test.each([
    ['', 'Write an area code'],
    ['20', 'no area code'],
    ['116', 'no area code'],
    ['+0', 'no beginning of a number'],
    ['+1234567890123456', 'no beginning of a number'],
    ['206a', 'has letters in it'],
    ['Atlantis', 'no state, province or town'],
  ])('%s is refused', (text, words) => {
    expect(readRegion(text)).toMatchObject({ ok: false, reason: expect.stringContaining(words) as string });
  });

  test('a state is all its area codes, by name or postal code; a town is its own', () => {
    const washington = readRegion('wa');
    expect(washington).toMatchObject({ ok: true, place: 'wa' });
    expect(areaCodesOf('Washington State')).toEqual(areaCodesOf('WA'));
    expect(areaCodesOf('WA')).toEqual(expect.arrayContaining(['206', '253', '360', '425', '509']));
    expect(areaCodesOf('san antonio')).toContain('210');
    expect(areaCodesOf('Texas')).toEqual(expect.arrayContaining(['210', '214']));
    expect(areaCodesOf('Nunavut')).toEqual(areaCodesOf('NU'));
    expect(areaCodesOf('BC')).toContain('257');
    expect(areaCodesOf('Québec')).toEqual(areaCodesOf('QC'));
    expect(allPlaces().every(({ codes }) => codes.every((code) => /^[2-9]\d\d$/.test(code)))).toBe(true);
  });

  test('many are typed: digits count before the state they are in, and what cannot be read is named by its line', () => {
    const { rows, faults } = typedRegions('360, 425\n\nWashington\n+1 206; 20\nAtlantis');
    const placeOf = new Map(rows.map(({ prefix, place }) => [prefix, place]));
    expect(placeOf.get('1360')).toBeNull();
    expect(placeOf.get('1206')).toBeNull();
    expect(placeOf.get('1253')).toBe('Washington');
    expect(rows.find(({ prefix }) => prefix === '1360')?.at).toBe(1);
    expect(faults.map(({ line }) => line)).toEqual([4, 5]);
  });

  test('is read as it is written', () => {
    expect(['1', '1206', '1206555', '12065550140', '4420'].map(prefixWords)).toEqual([
      '+1',
      '+1 206',
      '+1 206 555',
      '+1 206 555 0140',
      '+4420',
    ]);
  });
});

describe('a call in a step of regions', () => {
  const plan: CompiledPlan = {
    ...{ id: 'p', version: 1, start: 's', fallback: { kind: 'end' } },
    steps: {
      s: { kind: 'region', config: { tableId: 't' }, exits: { otherwise: 'q' } },
      q: { kind: 'queue', config: { queueId: 'other', priority: null }, exits: {} },
    },
  };
  const day = (regions: RegionTable[] = [table]) => {
    const ids = ['north', 'city', 'abroad', 'other'];
    const set = configuration(
      [person('a')],
      ids.map((id) => queue(id, ['a'])),
    );
    const numbers = set.numbers.map((number) =>
      number.e164 === unroutedNumber ? { ...number, plan } : number,
    );
    return new Bench({ ...set, numbers, regions });
  };
  const queueOf = (bench: Bench, callId: string) => bench.exchange.view().calls.get(callId)!.queue!.item.id;

  test('goes where its row says, and the story names the row', () => {
    const bench = day();
    const callId = bench.call(1, unroutedNumber, 0, '+13605550117');
    expect(queueOf(bench, callId)).toBe('city');
    expect(bench.recordsOf('regionAsked')).toMatchObject([
      { table: 'Terminals', from: '+13605550117', prefix: '+1 360 555', to: 'Queue city' },
    ]);
  });

  test('no row, no number, no table: the way for none of them, and it is said why', () => {
    const bench = day();
    expect(queueOf(bench, bench.call(1, unroutedNumber, 0, '+15035550117'))).toBe('other');
    expect(queueOf(bench, bench.call(2, unroutedNumber, 0, 'anonymous'))).toBe('other');
    expect(bench.recordsOf('regionAsked')).toMatchObject([{ prefix: null }, { from: null }]);
    const without = day([]);
    expect(queueOf(without, without.call(1, unroutedNumber, 0, '+13605550117'))).toBe('other');
  });

  test('rows that change hold for the next caller', () => {
    const bench = day();
    bench.at(1, {
      kind: 'configurationChanged',
      changes: { regions: [{ ...table, ways: [{ destination: to('abroad'), prefixes: '1' }] }] },
    });
    expect(queueOf(bench, bench.call(2, unroutedNumber, 0, '+13605550117'))).toBe('abroad');
  });
});
