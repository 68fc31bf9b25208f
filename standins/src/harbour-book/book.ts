import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import type { Random } from '@night-bell/core/random/random';

export interface BookRecord {
  id: string;
  name: string;
  numbers: string[];
  owner: string | null;
  fields: Record<string, string>;
  changedAt: string;
  /** Results of calls written back, by call id. */
  calls: Record<string, Record<string, unknown>>;
}

/** Words of the invented customers; the demo company brings them. */
export interface BookSeed {
  customers: number;
  firstNames: string[];
  lastNames: string[];
  businesses: string[];
  areaCodes: string[];
  routes: string[];
  owners: string[];
}

const kinds = ['walker', 'driver', 'season ticket', 'freight account'] as const;
const shares = [0.26, 0.28, 0.4, 0.06];

/** The customers of Harbour Book: made once from a seed, kept in a file of their own. */
export class Book {
  private readonly path: string;
  private readonly records: Map<string, BookRecord>;
  private saving: NodeJS.Timeout | null = null;

  constructor(path: string, make: () => BookRecord[]) {
    this.path = path;
    const kept = existsSync(path) ? (JSON.parse(readFileSync(path, 'utf8')) as BookRecord[]) : make();
    this.records = new Map(kept.map((record) => [record.id, record]));
    if (!existsSync(path)) this.save();
  }

  get size(): number {
    return this.records.size;
  }

  get(id: string): BookRecord | undefined {
    return this.records.get(id);
  }

  /** Changed at or after `since`, by id, behind `after`. */
  page(
    since: string | null,
    after: string | null,
    limit: number,
  ): { records: BookRecord[]; next: string | null } {
    const fitting = [...this.records.values()]
      .filter(
        (record) => (since === null || record.changedAt >= since) && (after === null || record.id > after),
      )
      .sort((one, other) => (one.id < other.id ? -1 : 1));
    const records = fitting.slice(0, limit);
    return { records, next: fitting.length > limit ? records.at(-1)!.id : null };
  }

  writeCall(record: BookRecord, callId: string, call: Record<string, unknown>, at: string): void {
    record.calls[callId] = call;
    record.fields.last_call = `${String(call.at ?? at).slice(0, 10)}, ${String(call.outcome ?? call.result)}`;
    record.changedAt = at;
    this.saving ??= setTimeout(() => this.save(), 500);
  }

  save(): void {
    if (this.saving !== null) clearTimeout(this.saving);
    this.saving = null;
    const fresh = `${this.path}.new`;
    writeFileSync(fresh, JSON.stringify([...this.records.values()]), { mode: 0o600 });
    renameSync(fresh, this.path);
  }
}

/** Invented customers, each with a number of 555-0100 to 555-0199 that no other has. */
export function inventCustomers(seed: BookSeed, random: Random, at: string): BookRecord[] {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const numbers = seed.areaCodes.flatMap((code) =>
    Array.from({ length: 100 }, (_, line) => `+1${code}55501${String(line).padStart(2, '0')}`),
  );
  for (let i = numbers.length - 1; i > 0; i--) {
    const j = Math.floor(random() * (i + 1));
    [numbers[i], numbers[j]] = [numbers[j]!, numbers[i]!];
  }
  return numbers.slice(0, seed.customers).map((number, index) => {
    const kind = kindOf(random());
    const freight = kind === 'freight account';
    const first = pick(seed.firstNames);
    const last = pick(seed.lastNames);
    const fields: Record<string, string> = {
      kind,
      first_name: first,
      last_name: last,
      tier: freight
        ? pick(['gold', 'silver', 'silver', 'standard'])
        : pick(['standard', 'standard', 'silver']),
      route: pick(seed.routes),
      next_sailing: sailing(random, at),
    };
    if (kind === 'driver' || freight)
      fields.vehicle = pick(['car', 'van', 'car with trailer', 'lorry 7.5 t', 'lorry 18 t']);
    if (kind === 'season ticket') fields.fare = `${48 + Math.floor(random() * 90)}.${pick(['00', '50'])}`;
    return {
      id: `HB-${String(index + 1).padStart(5, '0')}`,
      name: freight ? `${last} ${pick(seed.businesses)}` : `${first} ${last}`,
      numbers: [number],
      owner: freight && seed.owners.length > 0 ? pick(seed.owners) : null,
      fields,
      changedAt: at,
      calls: {},
    };
  });
}

function kindOf(luck: number): (typeof kinds)[number] {
  let left = luck;
  for (const [index, share] of shares.entries()) if ((left -= share) < 0) return kinds[index]!;
  return 'walker';
}

function sailing(random: Random, at: string): string {
  const day = new Date(Date.parse(at) + Math.floor(random() * 21) * 86_400_000).toISOString().slice(0, 10);
  return `${day} ${String(5 + Math.floor(random() * 17)).padStart(2, '0')}:${random() < 0.5 ? '10' : '40'}`;
}
