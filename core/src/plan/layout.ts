import { mainExit, type Place, type PlanDocument, stepAt } from './document.ts';
import { stepKinds } from './registry.ts';
import type { Exit } from './step-kind.ts';

/**
 * A plan as a picture: columns count what a caller has met, rows hang below one another. Whole numbers; how wide a column
 * and how high a row is belongs to who draws. Column 0 is where calls come in, the first step stands in column 1.
 */
export interface PlanLayout {
  steps: PlacedStep[];
  strands: Strand[];
  columns: number;
  rows: number;
}

export interface PlacedStep {
  stepId: string;
  column: number;
  row: number;
  /** No caller gets here. */
  lost: boolean;
}

/** One way out of a step, or the way in. */
export type Strand = {
  place: Place;
  label: string;
  /** Of the step it leaves. */
  from: { column: number; row: number };
} & (
  | { kind: 'leads'; target: string; to: { column: number; row: number } }
  /** Along its own row, then up or down just before the step it joins. */
  | { kind: 'joins'; target: string; row: number; to: { column: number; row: number } }
  /** A join that would cross another strand, or go back: written at its end. */
  | { kind: 'written'; target: string; row: number }
  | { kind: 'open'; row: number }
  /** What hangs here is folded away; so many steps. */
  | { kind: 'folded'; target: string; row: number; steps: number }
);

/** Where in the last column before a step a strand that joins it turns: right of what is written there. */
export const turnsAt = 0.2;

interface Level {
  row: number;
  from: number;
  to: number;
}
interface Upright {
  column: number;
  from: number;
  to: number;
}

/** How ways are called in sets of folded ones. */
export const wayKey = (place: Place) => (place === 'start' ? 'start' : `${place.after} ${place.exit}`);

/**
 * The picture of a plan; the same plan, the same picture. Main lines go straight, branches hang below in the order of
 * their exits, those of later steps above those of earlier ones, so that no strand crosses another: what would is written
 * instead. A step tied in moves only what is behind it.
 *
 * @param folded ways (`wayKey`) whose branches are folded away
 */
export function layOut(document: PlanDocument, folded: ReadonlySet<string> = new Set()): PlanLayout {
  return new Layout(document, folded).whole();
}

class Layout {
  private readonly document: PlanDocument;
  private readonly folded: ReadonlySet<string>;
  private readonly placed = new Map<string, PlacedStep>();
  private readonly drawn = new Set<string>();
  private readonly strands: Strand[] = [];
  private readonly levels: Level[] = [];
  private readonly uprights: Upright[] = [];
  /** By column: the lowest row in use. */
  private readonly bottom: number[] = [];

  constructor(document: PlanDocument, folded: ReadonlySet<string>) {
    this.document = document;
    this.folded = folded;
  }

  whole(): PlanLayout {
    const { start, steps } = this.document;
    if (start !== null && start in steps) {
      this.lead('start', '', { column: 0, row: 0 }, start);
      this.line(start, 1, 0, false);
    }
    const away = this.putAway();
    for (const id of Object.keys(steps)) {
      if (this.placed.has(id) || away.has(id)) continue;
      const row = this.placed.size === 0 ? 0 : Math.max(...this.bottom.map((each) => each ?? 0)) + 1;
      this.line(id, 1, row, true);
    }
    const bottoms = this.bottom.map((row) => row ?? 0);
    return {
      steps: [...this.placed.values()],
      strands: this.strands,
      columns: Math.max(1, this.bottom.length),
      rows: Math.max(0, ...bottoms) + 1,
    };
  }

  /** Places a step and all that goes straight on from it, then what hangs from them, the last first. */
  private line(first: string, column: number, row: number, lost: boolean): void {
    const line: PlacedStep[] = [];
    for (let id: string | null = first, at = column; id !== null; at++) {
      const step: PlacedStep = { stepId: id, column: at, row, lost };
      this.placed.set(id, step);
      this.uses(at, row);
      line.push(step);
      const straight = this.straight(id);
      if (straight === null) break;
      id = straight.target;
      this.lead({ after: step.stepId, exit: straight.name }, straight.label, step, id);
    }
    for (const step of line.reverse()) this.hang(step);
  }

  /** The way that goes straight on: the usual one, else the first that leads to a step that stands nowhere yet. */
  private straight(id: string, taken?: ReadonlySet<string>): (Exit & { target: string }) | null {
    const main = mainExit(this.document.steps[id]!);
    for (const exit of this.exits(id)) {
      if (main !== null && exit.name !== main) continue;
      const target = stepAt(this.document, { after: id, exit: exit.name });
      if (target === null || this.placed.has(target) || taken?.has(target) === true) continue;
      if (!this.folded.has(wayKey({ after: id, exit: exit.name }))) return { ...exit, target };
    }
    return null;
  }

  private exits(id: string): readonly Exit[] {
    const step = this.document.steps[id]!;
    return stepKinds[step.kind].exits(step.config as never);
  }

  /** The ways out of a step that do not go straight on, in their order. */
  private hang(step: PlacedStep): void {
    const { stepId, column, row, lost } = step;
    for (const exit of this.exits(stepId)) {
      const place = { after: stepId, exit: exit.name };
      if (this.drawn.has(wayKey(place))) continue;
      const target = stepAt(this.document, place);
      if (target === null) {
        if (exit.needed === true) this.end({ kind: 'open' }, place, exit.label, step);
        continue;
      }
      const known = this.placed.get(target);
      if (known !== undefined) this.join(place, exit.label, step, target, known);
      else if (this.folded.has(wayKey(place)))
        this.end({ kind: 'folded', steps: 0, target }, place, exit.label, step);
      else {
        const below = this.rowBelow(step, column + this.length(target));
        this.upright(column, row, below);
        this.lead(place, exit.label, { column, row: below }, target);
        this.line(target, column + 1, below, lost);
      }
    }
  }

  /** How many steps stand in a line that begins here, as far as it is known. */
  private length(first: string): number {
    const seen = new Set<string>();
    for (let id: string | null = first; id !== null;) {
      seen.add(id);
      id = this.straight(id, seen)?.target ?? null;
    }
    return seen.size;
  }

  private lead(place: Place, label: string, from: { column: number; row: number }, target: string): void {
    const to = { column: from.column + 1, row: from.row };
    this.draw({ kind: 'leads', place, label, from: this.origin(place, from), target, to });
    this.level(from.row, from.column, to.column);
  }

  private origin(place: Place, otherwise: { column: number; row: number }): { column: number; row: number } {
    const step = place === 'start' ? undefined : this.placed.get(place.after);
    return step === undefined ? otherwise : { column: step.column, row: step.row };
  }

  /** A way that ends where it begins, with words at its end. */
  private end(
    what:
      | { kind: 'open' }
      | { kind: 'folded'; steps: number; target: string }
      | { kind: 'written'; target: string },
    place: Place,
    label: string,
    step: PlacedStep,
  ): void {
    const isFree = !this.levels.some(({ row, from }) => row === step.row && from === step.column);
    const row = isFree ? step.row : this.rowBelow(step, step.column + 1);
    if (row !== step.row) this.upright(step.column, step.row, row);
    this.level(row, step.column, step.column + 1);
    this.uses(step.column + 1, row);
    this.draw({ ...what, place, label, from: { column: step.column, row: step.row }, row });
  }

  /** Tied to a step that stands already: drawn where nothing is crossed. */
  private join(place: Place, label: string, step: PlacedStep, target: string, to: PlacedStep): void {
    if (to.column > step.column) {
      const isFree = !this.levels.some(({ row, from }) => row === step.row && from === step.column);
      const row = isFree ? step.row : this.rowBelow(step, to.column - 1);
      const turn = to.column - turnsAt;
      if (
        row !== to.row &&
        this.mayPass(step.row, row, step.column) &&
        this.mayJoin(row, step.column, turn, to)
      ) {
        if (row !== step.row) this.upright(step.column, step.row, row);
        this.level(row, step.column, turn);
        for (let column = step.column; column < to.column; column++) this.uses(column, row);
        this.uprights.push({ column: turn, from: Math.min(row, to.row), to: Math.max(row, to.row) });
        this.uses(to.column - 1, Math.max(row, to.row));
        const from = { column: step.column, row: step.row };
        this.draw({
          ...{ kind: 'joins' as const, place, label, from, target, row },
          to: { column: to.column, row: to.row },
        });
        return;
      }
    }
    this.end({ kind: 'written', target }, place, label, step);
  }

  private mayPass(from: number, to: number, column: number): boolean {
    return !this.levels.some(
      ({ row, from: left, to: right }) => row > from && row < to && left < column && right > column,
    );
  }

  private mayJoin(row: number, from: number, turn: number, to: PlacedStep): boolean {
    const [high, low] = [Math.min(row, to.row), Math.max(row, to.row)];
    const alongIsFree =
      !this.levels.some((level) => level.row === row && level.from < turn && level.to > from) &&
      !this.uprights.some(
        (upright) =>
          upright.column > from && upright.column <= turn && upright.from < row && upright.to > row,
      );
    // Others that join the same step come the same way.
    const upIsFree = !this.levels.some(
      (level) => level.row > high && level.row < low && level.from < turn && level.to > turn,
    );
    return alongIsFree && upIsFree;
  }

  /** The next row below a step that is free from its column to another. */
  private rowBelow({ column, row }: { column: number; row: number }, until: number): number {
    let lowest = row;
    for (let at = column; at <= until; at++) lowest = Math.max(lowest, this.bottom[at] ?? -1);
    return lowest + 1;
  }

  private uses(column: number, row: number): void {
    this.bottom[column] = Math.max(this.bottom[column] ?? -1, row);
  }

  private level(row: number, from: number, to: number): void {
    this.levels.push({ row, from, to });
    this.uses(Math.floor(from), row);
  }

  private upright(column: number, from: number, to: number): void {
    this.uprights.push({ column, from, to });
    this.uses(column, to);
  }

  private draw(strand: Strand): void {
    this.drawn.add(wayKey(strand.place));
    this.strands.push(strand);
  }

  /** What hangs from folded ways and stands nowhere else; each way says how many steps that are. */
  private putAway(): Set<string> {
    const all = new Set<string>();
    for (const strand of this.strands) {
      if (strand.kind !== 'folded') continue;
      const found = new Set(this.placed.has(strand.target) ? [] : [strand.target]);
      for (const id of found) {
        all.add(id);
        for (const target of Object.values(this.document.steps[id]!.exits))
          if (target in this.document.steps && !this.placed.has(target)) found.add(target);
      }
      strand.steps = found.size;
    }
    return all;
  }
}
