import type { HomeView } from '../../api/client.ts';

type Seen = Pick<HomeView, 'counts' | 'ifSomeoneRang'>;

/** How far a new installation is on its way to the first answered call. */
export function firstCallSteps({ counts, ifSomeoneRang }: Seen): {
  led: boolean;
  staffed: boolean;
  rung: boolean;
} {
  return {
    led: counts.routedNumbers > 0,
    // Signed in alone rings nobody: the number has to reach somebody.
    staffed: counts.signedIn > 0 && ifSomeoneRang.some(({ kind }) => kind === 'answered'),
    rung: counts.callsReachedSomebody > 0,
  };
}

/** Whether an installation is at its beginning, and is shown the way to the first call. */
export function isNew({ counts }: Pick<HomeView, 'counts'>): boolean {
  const { callsReachedSomebody, people, numbers, queues, plans, campaigns } = counts;
  return callsReachedSomebody === 0 && people <= 3 && numbers <= 1 && queues <= 1 && plans + campaigns === 0;
}
