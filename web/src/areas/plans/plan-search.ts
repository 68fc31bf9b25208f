import { computed, ref } from 'vue';
import { referencesOf } from '@night-bell/core/plan/fields';
import { stepKinds } from '@night-bell/core/plan/registry';
import type { PlanEditing } from './plan-editing.ts';
import type { PlanNames } from './plan-names.ts';

/** Steps whose words hold what is looked for: what a step does, what it names, and what its prompts say. */
export function usePlanSearch(editing: PlanEditing, names: Pick<PlanNames, 'nameOf' | 'words'>) {
  const find = ref('');
  const found = computed(() => {
    const text = find.value.trim().toLowerCase();
    if (text === '') return new Set<string>();
    return new Set(
      editing.lines.value.flatMap((line) =>
        line.kind === 'step' && saidBy(line.stepId).includes(text) ? [line.stepId] : [],
      ),
    );
  });

  function saidBy(stepId: string): string {
    const { kind, config } = editing.document.value.steps[stepId]!;
    const { word, describe, fields } = stepKinds[kind];
    const spoken = referencesOf(fields, config).flatMap((named) =>
      named.kind === 'prompt' ? (names.words(named.id) ?? []) : [],
    );
    return [word, describe(config as never, names.nameOf), ...spoken].join(' ').toLowerCase();
  }

  /** Chooses the next one that was found, round and round. */
  function nextFound(): void {
    const ids = [...found.value];
    const next = ids[(ids.indexOf(editing.chosen.value ?? '') + 1) % Math.max(1, ids.length)];
    if (next !== undefined) editing.choose(next);
  }

  return { find, found, nextFound };
}
