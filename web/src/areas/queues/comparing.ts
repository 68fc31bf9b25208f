import { computed, ref, shallowRef } from 'vue';
import type { HourAsked, HoursPlayed } from '@night-bell/core/contracts/queue-hours';
import { queueHoursPath } from '@night-bell/core/model/api-paths';
import { type DistributionKind, distributionKinds } from '@night-bell/core/model/distribution';
import { differences } from '@night-bell/core/rehearse/comparison';
import { send } from '../../api/items.ts';

/** What is compared on the same hours. */
export type Asked = Omit<HourAsked, 'distribution' | 'seeds'> & { runs: number };

export interface Compared {
  /** As it was when it was asked: what is typed meanwhile is of the next comparison. */
  asked: Asked;
  present: DistributionKind;
  people: HoursPlayed['people'];
  runs: ReadonlyMap<DistributionKind, HoursPlayed['runs']>;
}

/** The present way first, then the others as they stand everywhere. */
export const inOrderFrom = (present: DistributionKind): DistributionKind[] => [
  present,
  ...distributionKinds.filter((kind) => kind !== present),
];

/** Ways to ring, played one after the other on the same hours; what has come stays when it is stopped. */
export function useComparing(queueId: () => string) {
  const compared = shallowRef<Compared | null>(null);
  const running = ref<{ done: number; of: number } | null>(null);
  const fault = shallowRef<unknown>(null);
  let run = 0;

  async function compare(present: DistributionKind, asked: Asked): Promise<void> {
    const mine = ++run;
    fault.value = null;
    const runs = new Map<DistributionKind, HoursPlayed['runs']>();
    compared.value = { asked, present, people: [], runs };
    const { runs: count, ...shape } = asked;
    const seeds = Array.from({ length: count }, (_, i) => i + 1);
    const kinds = inOrderFrom(present);
    for (const [done, distribution] of kinds.entries()) {
      running.value = { done, of: kinds.length };
      try {
        const played = await send<HoursPlayed>('POST', queueHoursPath.replace(':id', queueId()), {
          body: { ...shape, distribution, seeds },
        });
        // Somebody stopped it, or asked for another.
        if (mine !== run) return;
        runs.set(distribution, played.runs);
        compared.value = { asked, present, people: played.people, runs: new Map(runs) };
      } catch (error) {
        if (mine !== run) return;
        fault.value = error;
        break;
      }
    }
    running.value = null;
  }
  function stop(): void {
    run++;
    running.value = null;
  }

  /** Of each other way that has come, in what it differs from the present one. */
  const differ = computed(() => {
    const of = compared.value;
    const present = of?.runs.get(of.present);
    if (of === null || present === undefined) return new Map();
    const others = [...of.runs].filter(([kind]) => kind !== of.present);
    // Judged against all the others: before they have come nothing is called a difference.
    if (others.length < distributionKinds.length - 1) return new Map();
    const judged = differences(
      present,
      others.map(([, runs]) => runs),
    );
    return new Map(others.map(([kind], i) => [kind, judged[i]!]));
  });

  return { compared, running, fault, differ, compare, stop };
}
