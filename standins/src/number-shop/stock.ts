import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';

export type NumberKind = 'local' | 'tollFree';

/** A number in stock, as the shop offers it. */
export interface StockNumber {
  number: string;
  country: string;
  kind: NumberKind;
  place: string;
  voice: boolean;
  text: boolean;
  /** Decimal amount a month. */
  monthly: string;
  /** Who has reported it for unwanted calls, and when. */
  reports: { by: string; on: string }[];
}

interface Hold {
  customer: string;
  until: number;
}

export const holdMs = 10 * 60_000;

/** Area codes in stock with the place they are said to be. */
const areas: { country: string; code: string; place: string }[] = [
  ['US', '206', 'Seattle, Washington'],
  ['US', '253', 'Tacoma, Washington'],
  ['US', '360', 'Olympia, Washington'],
  ['US', '425', 'Bellevue, Washington'],
  ['US', '509', 'Spokane, Washington'],
  ['US', '503', 'Portland, Oregon'],
  ['US', '541', 'Eugene, Oregon'],
  ['US', '907', 'Juneau, Alaska'],
  ['CA', '604', 'Vancouver, British Columbia'],
  ['CA', '250', 'Victoria, British Columbia'],
].map(([country, code, place]) => ({ country: country!, code: code!, place: place! }));

const tollFree = ['800', '833', '844', '855', '866', '877', '888'];
const reporters = ['Ring Watch', 'Quiet Lines', 'Subscriber complaints'];

export interface Country {
  code: string;
  name: string;
  /** What it sells there, and whether numbers of this kind can text. Kinds that are missing are not sold. */
  kinds: { kind: NumberKind; text: boolean }[];
  /** Why nothing can be had; null when something can. */
  nothingBecause: string | null;
}

export const countries: Country[] = [
  {
    code: 'US',
    name: 'United States',
    kinds: [
      { kind: 'local', text: true },
      { kind: 'tollFree', text: false },
    ],
    nothingBecause: null,
  },
  { code: 'CA', name: 'Canada', kinds: [{ kind: 'local', text: true }], nothingBecause: null },
  {
    code: 'GB',
    name: 'United Kingdom',
    kinds: [],
    nothingBecause: 'Sold out until new blocks are given out.',
  },
  {
    code: 'DE',
    name: 'Germany',
    kinds: [],
    nothingBecause: 'Only to companies with an address in the town of the number.',
  },
];

/** Everything there is to sell: 555-0100 to 555-0199 under each area code, always the same. */
function catalogue(): Map<string, StockNumber> {
  const all = new Map<string, StockNumber>();
  for (const { country, code, place } of areas)
    for (let line = 100; line < 200; line++) {
      const draw = (Number(code) * 31 + line * 17) % 97;
      all.set(`+1${code}5550${line}`, {
        number: `+1${code}5550${line}`,
        ...{ country, kind: 'local', place },
        voice: true,
        text: draw % 5 !== 0,
        // Numbers that are easily remembered cost more.
        monthly: line % 10 === 0 ? '3.50' : line % 11 === 0 ? '2.25' : '1.15',
        reports:
          draw < 9
            ? Array.from({ length: 1 + (draw % 2) }, (_, index) => ({
                by: reporters[(draw + index) % reporters.length]!,
                on: `2026-${String(1 + ((draw + index * 3) % 11)).padStart(2, '0')}-${String(1 + draw).padStart(2, '0')}`,
              }))
            : [],
      });
    }
  for (const code of tollFree)
    for (let line = 100; line < 200; line++)
      all.set(`+1${code}5550${line}`, {
        number: `+1${code}5550${line}`,
        ...{ country: 'US', kind: 'tollFree', place: 'toll-free' },
        voice: true,
        text: false,
        monthly: code === '800' ? '5.00' : '2.00',
        reports: [],
      });
  return all;
}

interface Memory {
  rentals: Record<string, string>;
  holds: Record<string, Hold>;
}

export type Refusal = 'unknown' | 'heldByOther' | 'rented' | 'holdOver';

/** The shop's stock and who has what of it, in a file of its own. */
export class Stock {
  private readonly file: string;
  private readonly all = catalogue();
  private readonly memory: Memory;
  private readonly now: () => number;

  constructor(file: string, now: () => number = Date.now) {
    this.file = file;
    this.now = now;
    this.memory = existsSync(file)
      ? (JSON.parse(readFileSync(file, 'utf8')) as Memory)
      : { rentals: {}, holds: {} };
  }

  find(wanted: {
    country: string;
    kind: NumberKind;
    area: string;
    place: string;
    text: boolean;
    customer: string;
    limit: number;
  }) {
    const place = wanted.place.toLowerCase();
    return [...this.all.values()]
      .filter(
        (each) =>
          each.country === wanted.country &&
          each.kind === wanted.kind &&
          each.number.slice(2).startsWith(wanted.area) &&
          each.place.toLowerCase().includes(place) &&
          (each.text || !wanted.text) &&
          this.memory.rentals[each.number] === undefined,
      )
      .slice(0, wanted.limit)
      .map((each) => ({ ...each, held: this.heldBy(each.number, wanted.customer) }));
  }

  /** Holds all of them for ten minutes, or none. A hold of one's own is renewed. */
  hold(numbers: string[], customer: string): { until: number; offers: StockNumber[] } | Refusal {
    for (const number of numbers) {
      if (!this.all.has(number)) return 'unknown';
      if (this.memory.rentals[number] !== undefined) return 'rented';
      if (this.heldBy(number, customer) === 'other') return 'heldByOther';
    }
    const until = this.now() + holdMs;
    for (const number of numbers) this.memory.holds[number] = { customer, until };
    this.save();
    return { until, offers: numbers.map((number) => this.all.get(number)!) };
  }

  release(numbers: string[], customer: string): void {
    for (const number of numbers)
      if (this.memory.holds[number]?.customer === customer) delete this.memory.holds[number];
    this.save();
  }

  /** Rents what this customer holds. Asked twice, it is rented once: the second asking is told the same. */
  rent(numbers: string[], customer: string): 'rented' | Refusal {
    for (const number of numbers) {
      if (!this.all.has(number)) return 'unknown';
      const owner = this.memory.rentals[number];
      if (owner === customer) continue;
      if (owner !== undefined) return 'rented';
      if (this.heldBy(number, customer) !== 'you')
        return this.heldBy(number, customer) === 'other' ? 'heldByOther' : 'holdOver';
    }
    for (const number of numbers) {
      this.memory.rentals[number] = customer;
      delete this.memory.holds[number];
    }
    this.save();
    return 'rented';
  }

  giveBack(number: string, customer: string): boolean {
    if (this.memory.rentals[number] !== customer) return false;
    delete this.memory.rentals[number];
    this.save();
    return true;
  }

  private heldBy(number: string, customer: string): 'you' | 'other' | null {
    const hold = this.memory.holds[number];
    if (hold === undefined || hold.until <= this.now()) return null;
    return hold.customer === customer ? 'you' : 'other';
  }

  private save(): void {
    const fresh = `${this.file}.new`;
    writeFileSync(fresh, JSON.stringify(this.memory), { mode: 0o600 });
    renameSync(fresh, this.file);
  }
}
