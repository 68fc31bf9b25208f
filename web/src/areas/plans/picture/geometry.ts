import type { PlacedStep, PlanLayout, Strand } from '@night-bell/core/plan/layout';
import { turnsAt } from '@night-bell/core/plan/layout';

/** Pixels of a picture at its own size: a column holds a name of some twenty letters, a row its name and what it does. */
export const columnWidth = 152;
export const rowHeight = 66;
const left = 34;
const top = 40;
const bend = 13;

export interface Point {
  x: number;
  y: number;
}

export const pointOf = ({ column, row }: { column: number; row: number }): Point => ({
  x: left + column * columnWidth,
  y: top + row * rowHeight,
});

export const sizeOf = ({ columns, rows }: PlanLayout) => ({
  width: left + columns * columnWidth + 12,
  height: top + rows * rowHeight,
});

/** What a strand is written along: its own row, from where it leaves to where it ends. */
export interface DrawnStrand {
  strand: Strand;
  path: string;
  /** Corners, in order: what a pointer is near to. */
  corners: Point[];
  /** Where its words begin. */
  words: Point;
  end: Point;
  /** It goes straight on from its step. */
  straight: boolean;
}

/** How far a strand that ends in words goes. */
const stub = 0.24;

export function drawStrand(strand: Strand): DrawnStrand {
  const from = pointOf(strand.from);
  const row = 'row' in strand ? strand.row : strand.to.row;
  const y = pointOf({ column: 0, row }).y;
  const straight = row === strand.from.row;
  const corners: Point[] = straight ? [from] : [from, { x: from.x, y }];
  if (strand.kind === 'leads') corners.push({ ...pointOf(strand.to), y });
  else if (strand.kind === 'joins') {
    const to = pointOf(strand.to);
    const turn = to.x - turnsAt * columnWidth;
    corners.push({ x: turn, y }, { x: turn, y: to.y }, to);
  } else corners.push({ x: from.x + columnWidth * stub, y });
  const end = corners.at(-1)!;
  return { strand, path: bent(corners), corners, words: { x: from.x + 14, y }, end, straight };
}

/** A line through the corners, each of them rounded. */
function bent(corners: readonly Point[]): string {
  const [first, ...rest] = corners;
  let path = `M${first!.x} ${first!.y}`;
  rest.forEach((corner, index) => {
    const next = rest[index + 1];
    if (next === undefined) path += `L${corner.x} ${corner.y}`;
    else {
      const before = towards(corner, corners[index]!);
      const after = towards(corner, next);
      path += `L${before.x} ${before.y}Q${corner.x} ${corner.y} ${after.x} ${after.y}`;
    }
  });
  return path;
}

/** A bend's length from a corner on the way to another, at most half of it. */
function towards(from: Point, to: Point): Point {
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  const part = length === 0 ? 0 : Math.min(bend, length / 2) / length;
  return { x: from.x + (to.x - from.x) * part, y: from.y + (to.y - from.y) * part };
}

const near = 26;

/** The strand under a pointer: the nearest whose line is near enough. */
export function strandAt(strands: readonly DrawnStrand[], at: Point): DrawnStrand | null {
  let best: DrawnStrand | null = null;
  let distance = near;
  for (const each of strands)
    for (let index = 1; index < each.corners.length; index++) {
      const found = distanceTo(at, each.corners[index - 1]!, each.corners[index]!);
      if (found < distance) [best, distance] = [each, found];
    }
  return best;
}

/** From a point to a level or upright line. */
function distanceTo(at: Point, one: Point, other: Point): number {
  const x = Math.min(Math.max(at.x, Math.min(one.x, other.x)), Math.max(one.x, other.x));
  const y = Math.min(Math.max(at.y, Math.min(one.y, other.y)), Math.max(one.y, other.y));
  return Math.hypot(at.x - x, at.y - y);
}

/** The step under a pointer: on its knot or its words. */
export function stepAtPoint(steps: readonly PlacedStep[], at: Point): string | null {
  const found = steps.find((step) => {
    const { x, y } = pointOf(step);
    return at.x > x - 18 && at.x < x + columnWidth * 0.7 && Math.abs(at.y - y) < rowHeight / 2 - 6;
  });
  return found?.stepId ?? null;
}
