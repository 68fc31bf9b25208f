import { computed, ref, shallowRef } from 'vue';
import type { CompiledStep, StepKindName } from '@night-bell/core/model/plan';
import {
  configure,
  freshStep,
  insert,
  mainExit,
  move,
  moveTo,
  type Place,
  type PlanDocument,
  remove,
  stepAt,
  tie,
} from '@night-bell/core/plan/document';
import { type Copied, copyOf, graft } from '@night-bell/core/plan/graft';
import { outline } from '@night-bell/core/plan/outline';

const mostUndone = 200;
/** Copied steps are kept while the page is open, so that they can be put into another plan. */
const copied = shallowRef<Copied | null>(null);

/** Steps that were not saved when somebody left a plan, by its id: they are there when they come back. */
export const unsaved = new Map<string, { document: PlanDocument; version: number }>();

/** The steps of a plan as somebody builds them: every change can be undone, and nothing is saved by itself. */
export function usePlanEditing(begin: PlanDocument) {
  const document = shallowRef(begin);
  const past = shallowRef<readonly PlanDocument[]>([]);
  const future = shallowRef<readonly PlanDocument[]>([]);
  const chosen = ref<string | null>(begin.start);
  const lines = computed(() => outline(document.value));
  /** Marked beside the chosen one, to be moved, copied or taken out together. */
  const marked = shallowRef<ReadonlySet<string>>(new Set());
  /** Those that an action is about, in the order of the list: the marked ones, or the chosen one. */
  const meant = computed(() => {
    const ids = marked.value.size > 0 ? marked.value : new Set(chosen.value === null ? [] : [chosen.value]);
    return lines.value.flatMap((line) => (line.kind === 'step' && ids.has(line.stepId) ? [line.stepId] : []));
  });
  function mark(stepId: string, on = !marked.value.has(stepId)): void {
    const next = new Set(marked.value);
    if (next.size === 0 && chosen.value !== null) next.add(chosen.value);
    if (on) next.add(stepId);
    else next.delete(stepId);
    marked.value = next.size > 1 ? next : new Set();
  }

  function become(next: PlanDocument): void {
    if (next === document.value) return;
    past.value = [...past.value, document.value].slice(-mostUndone);
    future.value = [];
    document.value = next;
    keepChosen();
  }

  /** Starts over, from what is stored. */
  function restart(from: PlanDocument): void {
    document.value = from;
    past.value = [];
    future.value = [];
    keepChosen();
  }

  /** Marks it, and goes there. */
  function markTo(stepId: string): void {
    mark(stepId, true);
    chosen.value = stepId;
  }

  function keepChosen(): void {
    const left = [...marked.value].filter((stepId) => stepId in document.value.steps);
    marked.value = new Set(left.length > 1 ? left : []);
    if (chosen.value === null || !(chosen.value in document.value.steps)) chosen.value = document.value.start;
  }

  function undo(): void {
    const before = past.value.at(-1);
    if (before === undefined) return;
    past.value = past.value.slice(0, -1);
    future.value = [document.value, ...future.value];
    document.value = before;
    keepChosen();
  }

  function redo(): void {
    const [next, ...rest] = future.value;
    if (next === undefined) return;
    future.value = rest;
    past.value = [...past.value, document.value];
    document.value = next;
    keepChosen();
  }

  /** Where a new step comes when nobody says: behind the chosen one, by its usual way or the first that is open. */
  function placeBehind(stepId: string | null): Place {
    const step = stepId === null ? undefined : document.value.steps[stepId];
    if (stepId === null || step === undefined) return 'start';
    const main = mainExit(step);
    if (main !== null) return { after: stepId, exit: main };
    const open = lines.value.find((line) => line.kind === 'open' && line.stepId === stepId && line.needed);
    return open?.kind === 'open' ? { after: stepId, exit: open.exit } : 'start';
  }

  function add(kind: StepKindName, place: Place = placeBehind(chosen.value)): void {
    const made = insert(document.value, place, freshStep(kind));
    become(made.document);
    chosen.value = made.id;
  }

  function takeOut(stepId: string): void {
    const step = document.value.steps[stepId]!;
    const main = mainExit(step);
    const behind = main === null ? null : stepAt(document.value, { after: stepId, exit: main });
    become(remove(document.value, stepId));
    chosen.value = behind ?? document.value.start;
  }

  /** False where it cannot go. */
  function moveBy(stepId: string, by: -1 | 1): boolean {
    const moved = move(document.value, stepId, by);
    if (moved === null) return false;
    become(moved);
    return true;
  }

  /** Where they are dropped; false where they cannot go. */
  function moveMeant(ids: readonly string[], place: Place): boolean {
    const moved = moveTo(document.value, ids, place);
    if (moved === null) return false;
    become(moved);
    return true;
  }

  /** Takes out all that are meant, as one change. */
  function takeOutMeant(): void {
    const [first] = meant.value;
    if (meant.value.length < 2) {
      if (first !== undefined) takeOut(first);
      return;
    }
    become(meant.value.reduce((so, stepId) => remove(so, stepId), document.value));
  }

  function choose(stepId: string): void {
    chosen.value = stepId;
    marked.value = new Set();
  }
  const set = (stepId: string, config: CompiledStep['config']) =>
    become(configure(document.value, stepId, config));
  const lead = (place: Place, target: string | null) => become(tie(document.value, place, target));

  /** All that are meant, with the ways between them. */
  function copy(): void {
    if (meant.value.length > 0) copied.value = copyOf(document.value, meant.value);
  }
  function paste(): void {
    const put = copied.value === null ? null : graft(document.value, placeBehind(chosen.value), copied.value);
    if (put === null) return;
    become(put.document);
    chosen.value = put.id;
  }

  return {
    ...{
      document,
      lines,
      chosen,
      choose,
      undo,
      redo,
      restart,
      add,
      takeOut,
      takeOutMeant,
      moveMeant,
      marked,
      mark,
      markTo,
      meant,
      moveBy,
      set,
      lead,
      copy,
      paste,
      become,
    },
    canUndo: computed(() => past.value.length > 0),
    canRedo: computed(() => future.value.length > 0),
    canPaste: computed(() => copied.value !== null),
  };
}

export type PlanEditing = ReturnType<typeof usePlanEditing>;
