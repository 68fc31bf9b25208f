import { ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useKeys } from './keys.ts';
import { useSession } from './session.ts';
import { useStaying } from './staying.ts';

/**
 * A list with a sheet beside it. Which item the sheet shows stands in the address, as does what the list is narrowed
 * to; `n` begins a new one.
 */
export function useItemList(path: string) {
  const route = useRoute();
  const router = useRouter();
  const session = useSession();
  const making = ref(false);
  const staying = useStaying();

  function show(id: string | null): void {
    if (!staying()) return;
    making.value = false;
    void router.replace({ path: id === null ? path : `${path}/${id}`, query: route.query });
  }

  function add(): void {
    if (!session.mayEdit) return;
    show(null);
    making.value = true;
  }

  useKeys({ n: add });
  return { making, add, choose: (item: { id: string }) => show(item.id), close: () => show(null) };
}
