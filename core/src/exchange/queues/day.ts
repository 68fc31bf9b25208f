import { dayBegins, localDay } from '../../hours/zone-clock.ts';
import type { State } from '../kernel/state.ts';
import type { QueueState } from './queue.ts';

/** Counts calls of today anew once the queue's local midnight is past: by the clock of its hours, else the company's. */
export function beginDayWhenDue(state: Readonly<State>, queue: QueueState): void {
  if (!queue.countsToday || state.now < queue.dayEnds) return;
  const clock = state.hours.get(queue.item.hoursId ?? '')?.clock ?? state.settings.clock;
  const day = localDay(clock, state.now);
  queue.dayBegan = dayBegins(clock, day);
  queue.dayEnds = dayBegins(clock, day + 1);
  const eligible = [...queue.idle.inOrder(Number.POSITIVE_INFINITY)];
  for (const member of eligible) queue.idle.remove(member);
  for (const member of eligible) member.enterIndex();
}
