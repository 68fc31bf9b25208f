import { formatNumber } from '@night-bell/core/numbers/format';
import { computed, type Ref, watch } from 'vue';
import { firstRoutedApi } from '../api/lists.ts';
import { useFinding } from '../kit/finding.ts';
import { useCollection } from './collection.ts';
import type { DirectoryEntry } from './directory.ts';
import { useSession } from './session.ts';
import { useTestCall } from './test-call.ts';

/** What can be dialled in the test call: found by name too, and something to begin with before anybody types. */
export function useDialSuggestions(field: Ref<HTMLInputElement | null>) {
  const test = useTestCall();
  const session = useSession();
  const {
    search,
    open: suggesting,
    found,
  } = useFinding(
    () => ['number', 'person', 'queue'],
    () => '',
  );
  watch(
    () => test.to,
    (typed) => (search.value = typed),
  );
  const dialledAs = ({ kind, extension, second }: DirectoryEntry) =>
    kind === 'number' ? formatNumber(second ?? '') : (extension ?? '');
  const suggestions = computed(() => found.value.filter((entry) => dialledAs(entry) !== ''));

  const firstRouted = useCollection(firstRoutedApi, () => session.mayRead);
  watch(
    firstRouted.items,
    (numbers) => {
      // Never under the fingers of somebody who has just emptied the field.
      if (test.to !== '' || document.activeElement === field.value) return;
      const [first] = numbers ?? [];
      if (first === undefined) return;
      test.to = formatNumber(first.e164);
      void test.run();
    },
    { immediate: true },
  );
  return { suggesting, suggestions, dialledAs };
}
