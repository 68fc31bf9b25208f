import { computed, onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import type { PlanView } from '@night-bell/core/contracts/plans';
import { ApiProblem } from '../../api/client.ts';
import { useCollection } from '../../shell/collection.ts';
import { useNotices } from '../../shell/notices.ts';
import { type PlanEditing, unsaved } from './plan-editing.ts';
import { planApi } from './words.ts';

/** How the steps somebody builds become the plan's, also while somebody else is at it: neither's steps are lost. */
export function usePlanSaving(plan: () => PlanView, editing: PlanEditing, readonly: () => boolean) {
  const { put, readAgain } = useCollection(planApi);
  const notices = useNotices();
  const left = unsaved.get(plan().id);
  unsaved.delete(plan().id);
  if (left !== undefined) notices.say('The steps you had not saved are here again.');
  /** The version of the plan that these steps stand on, and its steps. */
  const version = ref(left?.version ?? plan().version);
  const base = shallowRef(plan().document);
  const saving = ref(false);
  const conflict = shallowRef<{ by: string; current: PlanView } | null>(null);
  const changed = computed(() => JSON.stringify(editing.document.value) !== JSON.stringify(base.value));

  function standOn(now: PlanView): void {
    version.value = now.version;
    base.value = now.document;
  }

  // Somebody else saved: taken over when nothing is at stake here, else said when these are saved.
  watch(
    () => plan().version,
    (now) => {
      if (now === version.value || saving.value) return;
      const sameSteps = JSON.stringify(plan().document) === JSON.stringify(base.value);
      if (changed.value && !sameSteps) return;
      const untouched = !changed.value;
      standOn(plan());
      if (untouched && !sameSteps) editing.restart(plan().document);
    },
  );
  onBeforeUnmount(() => {
    if (changed.value && !readonly())
      unsaved.set(plan().id, { document: editing.document.value, version: version.value });
  });

  async function save(): Promise<boolean> {
    if (!changed.value) return true;
    saving.value = true;
    try {
      const document = editing.document.value;
      const saved = await planApi.change(plan().id, version.value, { name: plan().name, document });
      standOn(saved);
      put(saved);
      conflict.value = null;
      return true;
    } catch (error) {
      if (error instanceof ApiProblem && error.code === 'changedMeanwhile' && error.body?.current != null)
        conflict.value = { by: error.body.by ?? 'Somebody else', current: error.body.current as PlanView };
      else notices.fail(error);
      return false;
    } finally {
      saving.value = false;
    }
  }

  async function publish(): Promise<void> {
    if (!(await save())) return;
    saving.value = true;
    try {
      const live = await planApi.publish(plan().id, version.value);
      standOn(live);
      put(live);
      notices.say(`Callers meet version ${live.published!.version} of ${live.name} from now on.`);
    } catch (error) {
      notices.fail(error);
    } finally {
      saving.value = false;
    }
  }

  /** Mine over theirs, knowingly. */
  async function mine(): Promise<void> {
    version.value = conflict.value!.current.version;
    if (await save()) notices.say('Your steps are saved over theirs. Theirs stand in the history.');
  }

  /** Theirs, with mine to be brought back by undo. */
  async function theirs(): Promise<void> {
    const { current } = conflict.value!;
    conflict.value = null;
    standOn(current);
    await readAgain(current.id);
    editing.become(current.document);
  }

  return { changed, saving, conflict, save, publish, mine, theirs };
}
