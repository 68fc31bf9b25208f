import { computed, type Ref, ref } from 'vue';
import type { PlanDocument } from '@night-bell/core/plan/document';
import { layOut, type PlanLayout, wayKey } from '@night-bell/core/plan/layout';

/** More steps than this are folded at first, branch by branch. */
export const mostUnfolded = 60;

/** The picture of a plan with what is folded of it; long plans begin with their branches folded. */
export function useFolding(document: Readonly<Ref<PlanDocument>>) {
  const folded = ref<ReadonlySet<string>>(foldedAtFirst(document.value));
  const layout = computed<PlanLayout>(() => layOut(document.value, folded.value));

  const become = (change: (keys: Set<string>) => void) => {
    const next = new Set(folded.value);
    change(next);
    folded.value = next;
  };
  const fold = (key: string) => become((keys) => void (keys.delete(key) || keys.add(key)));
  const foldAll = () => (folded.value = branchesOf(layOut(document.value)));
  const unfoldAll = () => (folded.value = new Set());

  /** Unfolds what hides a step. */
  function uncover(stepId: string): void {
    if (!(stepId in document.value.steps)) return;
    const whole = layOut(document.value).strands;
    const leads = new Map(
      whole.flatMap(({ kind, place, ...rest }) =>
        kind === 'leads' && 'target' in rest ? [[rest.target, place] as const] : [],
      ),
    );
    const keys: string[] = [];
    for (let place = leads.get(stepId); place !== undefined;) {
      keys.push(wayKey(place));
      place = place === 'start' ? undefined : leads.get(place.after);
    }
    if (keys.some((key) => folded.value.has(key))) become((next) => keys.forEach((key) => next.delete(key)));
  }

  return { layout, folded, fold, foldAll, unfoldAll, uncover };
}

function foldedAtFirst(document: PlanDocument): ReadonlySet<string> {
  return Object.keys(document.steps).length > mostUnfolded ? branchesOf(layOut(document)) : new Set();
}

/** Every way that hangs below its step. */
function branchesOf({ strands }: PlanLayout): Set<string> {
  return new Set(
    strands
      .filter((strand) => strand.kind === 'leads' && strand.to.row !== strand.from.row)
      .map(({ place }) => wayKey(place)),
  );
}
