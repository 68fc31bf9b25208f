import { computed } from 'vue';
import { useAddress } from '../../shell/address.ts';
import type { PlanLook } from './PlanTools.vue';

const kept = 'night-bell plan look';
const looks: readonly PlanLook[] = ['list', 'picture', 'sentences'];
const asLook = (value: string | null): PlanLook | null => looks.find((look) => look === value) ?? null;

/** How plans are looked at: in the address, else as this browser last did. */
export function usePlanLook() {
  const inAddress = useAddress().part('as');
  return computed<PlanLook>({
    get: () => asLook(inAddress.value) ?? asLook(localStorage.getItem(kept)) ?? 'picture',
    set: (look) => {
      localStorage.setItem(kept, look);
      inAddress.value = look;
    },
  });
}
