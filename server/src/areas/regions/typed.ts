import { readRegion } from '@night-bell/core/plan/regions';

export interface TypedRegions {
  /** Each prefix once, with the place it was written as. */
  rows: { prefix: string; place: string | null; line: number }[];
  faults: { line: number; detail: string }[];
}

/** Regions as they are typed or pasted: one a line, digits also with commas between. A place stands on a line of its own. */
export function typedRegions(text: string): TypedRegions {
  const rows = new Map<string, TypedRegions['rows'][number]>();
  const faults: TypedRegions['faults'] = [];
  text.split(/\r?\n/).forEach((written, index) => {
    const line = index + 1;
    const parts = /[a-z]/i.test(written) ? written.split(/[;\t]/) : written.split(/[,;\t]/);
    for (const part of parts) {
      if (part.trim() === '') continue;
      const reading = readRegion(part);
      if (!reading.ok) faults.push({ line, detail: reading.reason });
      else for (const prefix of reading.prefixes) rows.set(prefix, { prefix, place: reading.place, line });
    }
  });
  return { rows: [...rows.values()], faults };
}
