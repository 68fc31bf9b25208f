import type { QueueLoad } from '../../plan/rules.ts';
import { expectedWaitMs, type Measured } from '../../staffing/expected-wait.ts';
import type { Call } from '../calls/call.ts';
import type { State } from '../kernel/state.ts';
import type { QueueState } from './queue.ts';

/** As many calls are remembered: with more, all before count half, so that what is long ago fades. */
const remembered = 400;

/**
 * A caller is done with this queue, by the end of their talk or of the call: they were answered after so long, or gave up.
 * What they talked before, in another queue, is not this one's.
 *
 * @param wrapUpSeconds as they are set; null without an agent
 */
export function measure(state: Readonly<State>, call: Call, wrapUpSeconds: number | null): void {
  const { queue, joinedAt, answeredAt, talkingAgent } = call;
  if (queue === null || call.direction !== 'inbound') return;
  const isFirst = answeredAt !== null && answeredAt >= joinedAt;
  const talkBegan = talkingAgent === null ? null : isFirst ? answeredAt : call.activity.since;
  const measured = faded(queue.measured);
  const handled = talkBegan === null ? 0 : 1;
  queue.measured = {
    waited: measured.waited + 1,
    // Who is called back does not wait, and cannot give up.
    waitedMs:
      measured.waitedMs + (call.callBack !== null ? 0 : Math.max(0, (talkBegan ?? state.now) - joinedAt)),
    abandoned: measured.abandoned + 1 - handled,
    handled: measured.handled + handled,
    handledMs:
      measured.handledMs + (talkBegan === null ? 0 : state.now - talkBegan + (wrapUpSeconds ?? 0) * 1_000),
  };
}

function faded(measured: Measured): Measured {
  if (measured.waited < remembered) return measured;
  const half = Object.entries(measured).map(([key, value]) => [key, (value as number) / 2]);
  return Object.fromEntries(half) as unknown as Measured;
}

/** How a queue stands for who would come to it now. */
export function loadOf(state: Readonly<State>, queue: QueueState): QueueLoad {
  const waiting = queue.waitingList.size + queue.pausing + queue.offering;
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
