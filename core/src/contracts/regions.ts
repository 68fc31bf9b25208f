import { type DraftOf, itemContract, type ViewOf } from './item.ts';
import { destination, list, name, nullable, object, type Out, text, whole } from './parts.ts';

/** Tables of regions: their rows stand beside them, added, taken out and brought as they are many. */
export const regions = itemContract(
  { area: 'Regions', path: '/api/region-tables', one: 'a region table', many: 'region tables' },
  { name },
  { rows: whole(0, 1_000_000), uses: whole(0, 1_000_000) },
);

export type RegionsContract = typeof regions;
export type RegionDraft = DraftOf<RegionsContract>;
export type RegionView = ViewOf<RegionsContract>;

const prefix = text(15);
export const regionRow = object({ prefix, place: nullable(text(80)), to: destination, toName: text(200) });
export type RegionRow = Out<typeof regionRow>;

/** Regions as somebody types or pastes them, one a line, and where their callers go. */
export const regionsTyped = object({ text: text(200_000), to: destination });

const lineFault = object({ line: whole(1, 1_000_000), detail: text(300) });
/** What would come of it: rows with what they replace, lines that cannot be read, and callers of the last month. */
export const regionsPreview = object({
  rows: list(object({ prefix, place: nullable(text(80)), before: nullable(text(200)) }), 100_000),
  faults: list(lineFault, 200),
  days: whole(1, 366),
  calls: whole(0, 1_000_000_000),
  caught: whole(0, 1_000_000_000),
});
export const regionsPut = object({
  added: whole(0, 1_000_000),
  changed: whole(0, 1_000_000),
  faults: list(lineFault, 200),
});
export const regionsTaken = object({ prefixes: list(prefix, 10_000) });

/** How a table fits the callers of the last month. */
export const regionCoverage = object({
  ...{ days: whole(1, 366), calls: whole(0, 1_000_000_000), withheld: whole(0, 1_000_000_000) },
  covered: whole(0, 1_000_000_000),
  /** Rows by how many callers they would have caught, the busiest first. */
  rows: list(object({ prefix, calls: whole(0, 1_000_000_000) }), 1_000),
  /** Beginnings that no row is about, the busiest first. */
  missing: list(object({ prefix, place: nullable(text(80)), calls: whole(0, 1_000_000_000) }), 50),
  /** Rows within others that lead elsewhere: the longer one wins. */
  overlaps: list(object({ prefix, within: prefix, toName: text(200), withinName: text(200) }), 100),
  overlapping: whole(0, 1_000_000),
});
export type RegionCoverage = Out<typeof regionCoverage>;
export type RegionsPreview = Out<typeof regionsPreview>;
