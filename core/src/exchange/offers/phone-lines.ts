import { type PhoneLine, usualPhoneLines } from '../../model/waiting.ts';
import { formatNumber } from '../../numbers/format.ts';
import type { Call } from '../calls/call.ts';
import type { State } from '../kernel/state.ts';

/**
 * What a phone shows while it rings for a call of a queue, line by line in the order the queue has set; what is not known
 * has no line. Empty for calls of no queue.
 */
export function phoneLinesOf(state: Readonly<State>, call: Readonly<Call>): string[] {
  const item = call.queue?.item;
  if (item === undefined) return [];
  const number = state.numbers.get(call.numberId ?? '');
  const other = call.direction === 'outbound' ? call.to : call.from;
  const lines: Record<PhoneLine, string | undefined> = {
    queue: item.name,
    caller: call.record?.name ?? call.callerName ?? (other === '' ? 'Number withheld' : formatNumber(other)),
    number: number?.label,
    source: number?.sourceName ?? undefined,
  };
  return (item.phoneShows ?? usualPhoneLines).flatMap((line) => lines[line] ?? []);
}
