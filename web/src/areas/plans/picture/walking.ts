import type { Ref } from 'vue';
import { type PlanLayout, type Strand, wayKey } from '@night-bell/core/plan/layout';
import type { PlanEditing } from '../plan-editing.ts';
import { focusFields } from '../focus-steps.ts';

/**
 * Going through a picture by keys: right follows the rope, left goes back, up and down go to what hangs above and below;
 * Shift marks, Alt moves the step, Space folds what hangs there, Delete takes out.
 */
export function useWalking({
  layout,
  editing: current,
  readonly,
  numberOf,
  choose,
  fold,
  says,
  sizeBy,
  whole,
}: {
  layout: Readonly<Ref<PlanLayout>>;
  editing: () => PlanEditing | null;
  readonly: () => boolean;
  numberOf: (stepId: string) => string;
  choose: (stepId: string) => void;
  fold: (key: string) => void;
  says: Ref<string>;
  sizeBy: (factor: number) => void;
  whole: () => void;
}) {
  const strandsOf = (stepId: string) =>
    layout.value.strands.filter(({ place }) => place !== 'start' && place.after === stepId);
  const rowOf = (strand: Strand) => ('row' in strand ? strand.row : strand.to.row);

  /** Where a key leads from a step; null for nowhere. */
  function next(stepId: string, key: string): string | null {
    const here = layout.value.steps.find((each) => each.stepId === stepId);
    if (here === undefined) return layout.value.steps[0]?.stepId ?? null;
    const { column, row } = here;
    if (key === 'ArrowRight') {
      const leads = strandsOf(stepId).flatMap((strand) =>
        'target' in strand && strand.kind !== 'folded' ? [strand] : [],
      );
      return leads.sort((one, other) => rowOf(one) - rowOf(other))[0]?.target ?? null;
    }
    if (key === 'ArrowLeft') {
      const to = layout.value.strands.find((strand) => strand.kind === 'leads' && strand.target === stepId);
      return to === undefined || to.place === 'start' ? null : to.place.after;
    }
    const isDown = key === 'ArrowDown';
    const others = layout.value.steps.filter((each) => (isDown ? each.row > row : each.row < row));
    const away = (each: { column: number; row: number }) =>
      Math.abs(each.row - row) * 3 + Math.abs(each.column - column);
    return others.sort((one, other) => away(one) - away(other))[0]?.stepId ?? null;
  }

  function goTo(stepId: string | null, marks: boolean): void {
    if (stepId === null) return;
    if (marks) current()?.markTo(stepId);
    else choose(stepId);
  }

  function onKey(event: KeyboardEvent): void {
    const editing = current();
    const { key, altKey, ctrlKey, metaKey, shiftKey } = event;
    if (editing === null || ctrlKey || metaKey) return;
    const chosen = editing.chosen.value;
    const moves = key === 'ArrowLeft' || key === 'ArrowRight';
    if (altKey && moves && chosen !== null && !readonly())
      says.value = editing.moveBy(chosen, key === 'ArrowLeft' ? -1 : 1)
        ? `Now step ${numberOf(chosen)}.`
        : 'This step cannot go there.';
    else if (altKey) return;
    else if (key.startsWith('Arrow')) goTo(chosen === null ? null : next(chosen, key), shiftKey);
    else if (key === 'Home') goTo(layout.value.steps[0]?.stepId ?? null, false);
    else if (key === 'End') goTo(layout.value.steps.at(-1)?.stepId ?? null, false);
    else if (key === ' ' && chosen !== null) foldAt(chosen);
    else if (key === '+') sizeBy(1.25);
    else if (key === '-') sizeBy(1 / 1.25);
    else if (key === '0') whole();
    else if (key === 'Delete' && chosen !== null && !readonly()) editing.takeOutMeant();
    else if (key === 'Enter') focusFields();
    else return;
    event.preventDefault();
  }

  /** All that hangs from a step is unfolded where any of it is folded, else folded. */
  function foldAt(stepId: string): void {
    const ways = strandsOf(stepId);
    const folded = ways.filter(({ kind }) => kind === 'folded');
    const hanging = ways.filter((strand) => strand.kind === 'leads' && strand.to.row !== strand.from.row);
    const meant = folded.length > 0 ? folded : hanging;
    for (const { place } of meant) fold(wayKey(place));
    says.value = meant.length === 0 ? 'Nothing hangs here.' : folded.length > 0 ? 'Unfolded.' : 'Folded.';
  }

  return { onKey };
}
