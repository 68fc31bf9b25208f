import type { QueueLoad } from '../../plan/rules.ts';
import { expectedWaitMs, type Measured } from '../../staffing/expected-wait.ts';
import type { State } from '../kernel/state.ts';
import type { QueueState } from './queue.ts';

/** As many calls are remembered: with more, all before count half, so that what is long ago fades. */
const remembered = 400;

/**
 * A caller's call is over who came to this queue and left it by no limit: they were answered after so long, or gave up.
 *
 * @param handledMs talked, and wrapped up as long as is set; null for who gave up
 */
export function measure(queue: QueueState, waitedMs: number, handledMs: number | null): void {
  const measured = faded(queue.measured);
  const handled = handledMs === null ? 0 : 1;
  queue.measured = {
    waited: measured.waited + 1,
    waitedMs: measured.waitedMs + Math.max(0, waitedMs),
    abandoned: measured.abandoned + 1 - handled,
    handled: measured.handled + handled,
    handledMs: measured.handledMs + Math.max(0, handledMs ?? 0),
  };
}

function faded(measured: Measured): Measured {
  if (measured.waited < remembered) return measured;
  const half = Object.entries(measured).map(([key, value]) => [key, (value as number) / 2]);
  return Object.fromEntries(half) as unknown as Measured;
}

/** How a queue stands for who would come to it now. */
export function loadOf(state: Readonly<State>, queue: QueueState): QueueLoad {
  const waiting = queue.waitingList.size + queue.offering;
  let since = state.now;
  for (const { enteredAt } of queue.waitingList.values()) since = Math.min(since, enteredAt);
  const there = queue.members.filter(({ agent }) => agent.presence === 'available').length;
  const wait = expectedWaitMs(waiting, there, queue.measured);
  return {
    waiting,
    longestWait: Math.floor((state.now - since) / 1_000),
    expectedWait: wait === null ? null : Math.round(wait / 1_000),
    free: queue.idle.size,
  };
}
