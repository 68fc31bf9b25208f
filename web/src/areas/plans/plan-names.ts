import type { PlanDocument } from '@night-bell/core/plan/document';
import { type ItemKind, referencesOf } from '@night-bell/core/plan/fields';
import { plansFrom } from '@night-bell/core/plan/graph';
import { stepKinds } from '@night-bell/core/plan/registry';
import { hidingApi } from '../../api/lists.ts';
import { useCollection } from '../../shell/collection.ts';
import { useDirectory } from '../../shell/directory.ts';
import { compiled, hoursApi } from '../hours/words.ts';
import { promptApi, translationsOf } from '../prompts/words.ts';
import { useRecordFields } from './record-fields.ts';
import { planApi } from './words.ts';

export interface Choice {
  value: string;
  title: string;
}

/** What steps may name, of every kind: how it is called, and what there is to choose from. */
export function usePlanNames() {
  const directory = useDirectory();
  const prompts = useCollection(promptApi);
  const hours = useCollection(hoursApi);
  const plans = useCollection(planApi);

  const own = { prompt: prompts, hours, plan: plans } as const;
  const ofOwn = (kind: ItemKind) => (kind in own ? own[kind as keyof typeof own] : null);

  function nameOf(kind: ItemKind, id: string): string {
    if (id === '') return 'nothing yet';
    return ofOwn(kind)?.byId.value.get(id)?.name ?? directory.nameOf(id);
  }

  /** The prompts of these steps that were published after an instant: callers hear them as they are now. */
  function promptsSince({ steps }: PlanDocument, at: number): string[] {
    const ids = Object.values(steps).flatMap(({ kind, config }) =>
      referencesOf(stepKinds[kind].fields, config)
        .filter((each) => each.kind === 'prompt')
        .map(({ id }) => id),
    );
    return [...new Set(ids)]
      .map((id) => prompts.byId.value.get(id))
      .flatMap((prompt) => (prompt !== undefined && (prompt.publishedAt ?? 0) > at ? [prompt.name] : []));
  }

  /** Whether it is there and in use; what is not read yet is taken to be. */
  function has(kind: ItemKind, id: string): boolean {
    const collection = ofOwn(kind);
    if (collection !== null) {
      if (collection.items.value === null) return true;
      const found = collection.byId.value.get(id);
      return found !== undefined && !found.retired;
    }
    return directory.has(kind, id);
  }

  /** Of the kinds that are read whole here; others are found as one types. */
  function choices(kind: ItemKind): Choice[] | null {
    const collection = ofOwn(kind);
    if (collection === null) return null;
    return (collection.items.value ?? [])
      .filter((each) => !each.retired && !('translationOf' in each && each.translationOf !== null))
      .map(({ id, name }) => ({ value: id, title: name }));
  }

  const words = (promptId: string) => prompts.byId.value.get(promptId)?.words ?? null;
  /** Its own, then those of its translations. */
  const languages = (promptId: string) => {
    const prompt = prompts.byId.value.get(promptId);
    if (prompt === undefined) return [];
    const others = translationsOf(prompts.items.value ?? [], promptId);
    return [prompt.language, ...others.map(({ language }) => language)];
  };
  const isRead = () => prompts.items.value !== null && hours.items.value !== null;

  const hoursOf = (id: string) => {
    const set = hours.byId.value.get(id);
    return set === undefined ? undefined : compiled(set);
  };
  const leadsTo = (id: string) => plansFrom(plans.byId.value.get(id)?.live ?? null);
  const fields = useRecordFields();
  const hiding = useCollection(hidingApi);
  const hidingExtensions = () => hiding.items.value?.[0] ?? null;

  return {
    ...{ nameOf, promptsSince, has, choices, words, languages, isRead, prompts, hours: hoursOf },
    ...{ leadsTo, hidingExtensions, recordFields: () => fields.value },
  };
}

export type PlanNames = ReturnType<typeof usePlanNames>;
