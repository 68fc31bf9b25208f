import { computed } from 'vue';
import { useAddress } from '../../shell/address.ts';

const kept = 'night-bell plan look';

/** How a plan is looked at. */
export type PlanLook = 'picture' | 'list' | 'sentences';
export const looks: readonly { value: PlanLook; title: string }[] = [
  { value: 'picture', title: 'Picture' },
  { value: 'list', title: 'List' },
  { value: 'sentences', title: 'Sentences' },
];
const asLook = (value: string | null): PlanLook | null =>
  looks.find((look) => look.value === value)?.value ?? null;

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
