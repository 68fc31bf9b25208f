import { computed, ref, shallowRef, watch } from 'vue';
import type { PlanView } from '@night-bell/core/contracts/plans';
import type { PlanDocument } from '@night-bell/core/plan/document';
import { stepKinds } from '@night-bell/core/plan/registry';
import { send } from '../../api/items.ts';
import { listed } from '../../kit/listed.ts';
import { useClock } from '../../kit/time.ts';
import { useNotices } from '../../shell/notices.ts';
import type { PlanEditing } from './plan-editing.ts';
import type { PlanNames } from './plan-names.ts';

interface Version {
  version: number;
  at: number;
  by: string | null;
  document: PlanDocument;
}

/** What callers met before: a version beside the draft, and brought back. */
export function usePlanVersions(plan: () => PlanView, editing: PlanEditing, names: PlanNames) {
  const notices = useNotices();
  const { moment } = useClock();
  const versions = shallowRef<Version[]>([]);
  /** The number of the version beside the draft; null for none. */
  const chosen = ref<number | null>(null);
  const beside = computed(() => versions.value.find((each) => each.version === chosen.value) ?? null);
  /** Steps of the version beside that the draft has no more. */
  const gone = computed(() =>
    Object.entries(beside.value?.document.steps ?? {})
      .filter(([id]) => !(id in editing.document.value.steps))
      .map(([id, { kind, config }]) => ({
        id,
        words: stepKinds[kind].describe(config as never, names.nameOf),
      })),
  );
  const choices = computed(() => [
    { value: null, title: 'the draft alone' },
    ...versions.value.map(({ version, at, by }) => ({
      value: version,
      title: `version ${version}, ${moment(at)}${by === null ? '' : `, ${by}`}`,
    })),
  ]);
  watch(
    () => plan().published?.version,
    async () => {
      versions.value = await send<Version[]>('GET', `/api/plans/${plan().id}/versions`).catch(() => []);
    },
    { immediate: true },
  );

  function bringBack(): void {
    const found = beside.value;
    if (found === null) return;
    editing.become(found.document);
    const since = names.promptsSince(found.document, found.at);
    const verb = since.length === 1 ? 'says' : 'say';
    const other =
      since.length === 0
        ? ''
        : ` ${listed(since)} ${verb} something else since; what was said then is among the earlier sounds.`;
    notices.say(
      `The steps are those of version ${found.version} again. Publish to have callers meet them.${other}`,
    );
  }

  return { chosen, beside, gone, choices, bringBack };
}
