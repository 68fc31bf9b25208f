import { computed, ref, watch } from 'vue';
import type { UsedBy } from '../api/client.ts';
import { useCollection } from '../shell/collection.ts';
import { useKeys } from '../shell/keys.ts';
import { useNotices } from '../shell/notices.ts';
import { useSession } from '../shell/session.ts';
import { useEditing } from './editing.ts';
import { provideForm } from './form.ts';
import type { ItemArea } from './item-area.ts';

/**
 * The form of one item: saving and making, two who edit at once, what uses it, deactivating, Ctrl+S. Its lines are told
 * whose they are. Without an item, one is made.
 */
export function useItemForm<
  Draft extends { name: string },
  View extends Draft & { id: string; version: number; retired: boolean },
>(area: () => ItemArea<Draft, View>, item: () => View | null, made: (item: View) => void = () => undefined) {
  const { put, readAgain } = useCollection(area().api, false);
  const session = useSession();
  const notices = useNotices();
  const users = ref<UsedBy[]>([]);
  const kind = area().api.kinds[0]!;

  const editing = useEditing<Draft>(
    async (value, version) => {
      const now = item();
      if (now === null) {
        const view = await area().api.create(value);
        put(view);
        notices.say(area().made?.(view) ?? `${view.name} is made.`);
        made(view);
        return;
      }
      put(await area().api.change(now.id, version, value));
      await notices.saved(`${value.name} is saved.`, now.id);
    },
    (current) => area().draftOf(current as View),
  );
  const { draft, faults, changed, begin, save } = editing;
  const readonly = computed(() => !session.mayEdit || item()?.retired === true);
  provideForm(() => ({ kind, faults: faults.value, readonly: readonly.value }));

  watch(
    item,
    (now) => {
      if (changed.value && now !== null && draft.value !== null) return;
      begin(now === null ? area().fresh() : area().draftOf(now), now?.version ?? 0);
    },
    { immediate: true },
  );
  watch(
    () => item()?.version,
    async () => {
      const now = item();
      if (now === null || area().unused === undefined) return;
      users.value = await area()
        .api.read(now.id)
        .then(
          ({ usedBy }) => usedBy,
          () => [],
        );
    },
    { immediate: true },
  );

  async function act(work: Promise<View>, said: string): Promise<void> {
    try {
      put(await work);
      notices.say(said);
    } catch (error) {
      notices.fail(error);
    }
  }
  const retire = ({ id, version, name }: View) =>
    act(area().api.retire(id, version), `${name} is deactivated.`);
  const reactivate = ({ id, version, name }: View) =>
    act(area().api.reactivate(id, version), `${name} is back.`);

  useKeys({ 'mod+s': () => !readonly.value && (changed.value || item() === null) && void save() });

  /** As it was before anything was typed. */
  function leave(): void {
    const now = item();
    if (now !== null) begin(area().draftOf(now), now.version);
  }

  return { ...editing, users, readonly, retire, reactivate, readAgain, leave };
}
