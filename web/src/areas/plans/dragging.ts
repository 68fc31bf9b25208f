import { type Ref, ref } from 'vue';
import type { Place } from '@night-bell/core/plan/document';
import { mainExit, type PlanDocument } from '@night-bell/core/plan/document';
import type { OutlineLine } from '@night-bell/core/plan/outline';

/** How far a press moves before it is a drag. */
const begins = 4;
/** Of the list's head, above the first row. */
const headHeight = 28;

/** The place a line stands for when something is dropped on it: behind a step by its usual way, or at a way out. */
export function placeAt(line: OutlineLine, { steps }: PlanDocument): Place | null {
  if (line.kind !== 'step') return { after: line.stepId, exit: line.exit };
  const main = mainExit(steps[line.stepId]!);
  return main === null ? null : { after: line.stepId, exit: main };
}

/**
 * Steps dragged by their number. The list is a tree of rows of which most are no places of their own, so this is not a
 * sortable list: while dragging only one line moves, by a transform; the plan changes once, on the drop.
 */
export function useDragging({
  list,
  lines,
  document,
  carries,
  drop,
}: {
  list: Ref<HTMLElement | null>;
  lines: Ref<readonly OutlineLine[]>;
  document: Ref<PlanDocument>;
  carries: (stepId: string) => readonly string[];
  drop: (ids: readonly string[], place: Place) => boolean;
}) {
  /** Those under way, so that they can be seen to be. */
  const carried = ref<ReadonlySet<string>>(new Set());

  function lift(down: PointerEvent, stepId: string): void {
    const element = list.value;
    if (element === null || down.button !== 0) return;
    const mark = element.querySelector<HTMLElement>('.drop-line')!;
    // Where rows are is read once: reading it while dragging would lay out the page for every movement.
    const top = element.getBoundingClientRect().top;
    const rows = [...element.querySelectorAll<HTMLElement>('[data-line]')].map((row) => ({
      line: lines.value[Number(row.dataset.line)]!,
      bottom: row.offsetTop + row.offsetHeight,
      middle: row.offsetTop + row.offsetHeight / 2,
    }));
    let place: Place | null = null;
    let frame = 0;
    let y = down.clientY;

    const show = () => {
      frame = 0;
      const at = y - top + element.scrollTop;
      const row = rows.findLast(({ middle }) => middle < at);
      place = row === undefined ? 'start' : placeAt(row.line, document.value);
      const line = row === undefined ? headHeight : row.bottom;
      mark.style.transform = `translateY(${line}px)`;
      mark.classList.toggle('shown', place !== null);
    };
    const move = (event: PointerEvent) => {
      y = event.clientY;
      if (carried.value.size === 0) {
        if (Math.abs(y - down.clientY) < begins) return;
        carried.value = new Set(carries(stepId));
      }
      if (frame === 0) frame = requestAnimationFrame(show);
    };
    const end = (event: PointerEvent | KeyboardEvent) => {
      if ('key' in event && event.key !== 'Escape') return;
      if (frame !== 0) cancelAnimationFrame(frame);
      const ids = [...carried.value];
      carried.value = new Set();
      mark.classList.remove('shown');
      window.removeEventListener('pointermove', move);
      window.removeEventListener('pointerup', end);
      window.removeEventListener('pointercancel', end);
      window.removeEventListener('keydown', end, true);
      if (event.type === 'pointerup' && ids.length > 0 && place !== null) drop(ids, place);
    };
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', end);
    window.addEventListener('pointercancel', end);
    window.addEventListener('keydown', end, true);
    down.preventDefault();
  }

  return { lift, carried };
}
