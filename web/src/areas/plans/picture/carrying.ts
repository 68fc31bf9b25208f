import { onBeforeUnmount, ref } from 'vue';
import type { StepKindName } from '@night-bell/core/model/plan';
import type { Place } from '@night-bell/core/plan/document';
import { type DrawnStrand, type Point, stepAtPoint, strandAt } from './geometry.ts';
import type { PlacedStep } from '@night-bell/core/plan/layout';

/** What is under the pointer: a kind from the shelf, steps of the plan, or the loose end of a way. */
export type Carried =
  | { what: 'kind'; kind: StepKindName }
  | { what: 'steps'; ids: readonly string[] }
  | { what: 'end'; place: Place };

/** Where it may be dropped: onto a rope, or onto a step. */
export type Onto = { strand: DrawnStrand } | { stepId: string };

const begins = 4;

/**
 * Carrying with the pointer. While it goes only the ghost moves and one mark changes; the plan changes once, on the drop.
 * Escape lets it go.
 */
export function useCarrying({
  strands,
  steps,
  at,
  ghost,
  mark,
  drop,
}: {
  strands: () => readonly DrawnStrand[];
  steps: () => readonly PlacedStep[];
  at: (event: PointerEvent) => Point;
  ghost: () => HTMLElement | null;
  mark: (onto: Onto | null) => void;
  drop: (carried: Carried, onto: Onto) => void;
}) {
  const carried = ref<Carried | null>(null);
  let stop = () => {};

  function take(down: PointerEvent, what: Carried): void {
    if (down.button !== 0) return;
    let onto: Onto | null = null;
    let last = down;
    let frame = 0;

    const show = () => {
      frame = 0;
      const element = ghost();
      if (element !== null)
        element.style.transform = `translate(${last.clientX + 12}px,${last.clientY + 8}px)`;
      onto = ontoAt(what, at(last));
      mark(onto);
    };
    const move = (event: PointerEvent) => {
      last = event;
      if (carried.value === null) {
        if (Math.hypot(event.clientX - down.clientX, event.clientY - down.clientY) < begins) return;
        carried.value = what;
      }
      if (frame === 0) frame = requestAnimationFrame(show);
    };
    const end = (event: PointerEvent | KeyboardEvent) => {
      if ('key' in event && event.key !== 'Escape') return;
      if (frame !== 0) {
        cancelAnimationFrame(frame);
        show();
      }
      const was = carried.value;
      stop();
      if (event.type === 'pointerup' && was !== null && onto !== null) drop(was, onto);
    };
    stop = () => {
      carried.value = null;
      mark(null);
      window.removeEventListener('pointermove', move);
      window.removeEventListener('pointerup', end);
      window.removeEventListener('pointercancel', end);
      window.removeEventListener('keydown', end, true);
      stop = () => {};
    };
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', end);
    window.addEventListener('pointercancel', end);
    window.addEventListener('keydown', end, true);
    down.preventDefault();
  }

  /** A loose end joins a step; everything else is tied into a rope, but not into one of its own. */
  function ontoAt(what: Carried, point: Point): Onto | null {
    if (what.what === 'end') {
      const stepId = stepAtPoint(steps(), point);
      return stepId === null ? null : { stepId };
    }
    const strand = strandAt(strands(), point);
    if (strand === null) return null;
    const { place } = strand.strand;
    const isOwn = what.what === 'steps' && place !== 'start' && what.ids.includes(place.after);
    return isOwn ? null : { strand };
  }

  onBeforeUnmount(() => stop());
  return { carried, take };
}
