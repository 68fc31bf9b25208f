import { computed, ref, shallowRef } from 'vue';
import { ApiProblem } from '../api/client.ts';
import { focusFault } from '../shell/focus.ts';
import { allMade } from './making.ts';

/** Somebody else was faster: their version, and the fields in which it differs from ours. */
export interface Conflict<Draft> {
  by: string;
  theirs: Draft;
  version: number;
  fields: (keyof Draft & string)[];
}

/**
 * A form over something with a version. Faults stand at their fields; when somebody else saved meanwhile, both
 * versions are kept until one is chosen.
 */
export function useEditing<Draft extends object>(
  put: (draft: Draft, version: number) => Promise<void>,
  /** What of a stored one is edited; left out where its fields are the draft's. */
  draftOf?: (current: unknown) => Draft,
) {
  const draft = ref<Draft | null>(null);
  const original = shallowRef<Draft | null>(null);
  const version = ref(0);
  const faults = ref<Record<string, string>>({});
  const general = ref('');
  const saving = ref(false);
  const conflict = shallowRef<Conflict<Draft> | null>(null);

  const changed = computed(() => JSON.stringify(draft.value) !== JSON.stringify(original.value));

  /** Starts over from what is stored now. */
  function begin(value: Draft, at: number): void {
    draft.value = structuredClone(value);
    original.value = structuredClone(value);
    version.value = at;
    faults.value = {};
    general.value = '';
    conflict.value = null;
  }

  async function save(): Promise<boolean> {
    if (draft.value === null || saving.value) return false;
    saving.value = true;
    faults.value = {};
    general.value = '';
    try {
      await allMade();
      await put(JSON.parse(JSON.stringify(draft.value)) as Draft, version.value);
      original.value = structuredClone(JSON.parse(JSON.stringify(draft.value)) as Draft);
      conflict.value = null;
      return true;
    } catch (error) {
      take(error);
      return false;
    } finally {
      saving.value = false;
    }
  }

  function take(error: unknown): void {
    if (!(error instanceof ApiProblem)) throw error;
    if (error.code === 'changedMeanwhile' && error.body?.current != null && original.value !== null) {
      const current = error.body.current as Draft & { version: number };
      const keys = Object.keys(original.value) as (keyof Draft & string)[];
      const theirs =
        draftOf?.(current) ?? (Object.fromEntries(keys.map((key) => [key, current[key]])) as Draft);
      conflict.value = {
        by: error.body.by ?? 'Somebody else',
        theirs,
        version: current.version,
        fields: keys.filter(
          (key) => JSON.stringify(theirs[key]) !== JSON.stringify((draft.value as Draft)[key]),
        ),
      };
      return;
    }
    faults.value = error.faults;
    // What is wrong is marked a moment later; then the first of it takes the keys.
    setTimeout(() => focusFault(document));
    if (Object.keys(error.faults).length === 0) general.value = error.detail;
  }

  /** Ours wins: saved over their version, knowingly. */
  function keepMine(): Promise<boolean> {
    version.value = conflict.value!.version;
    return save();
  }

  function takeTheirs(): void {
    begin(conflict.value!.theirs, conflict.value!.version);
  }

  return {
    draft,
    version,
    faults,
    general,
    saving,
    changed,
    conflict,
    begin,
    save,
    take,
    keepMine,
    takeTheirs,
  };
}
