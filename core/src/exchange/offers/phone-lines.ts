import type { GroupShows } from '../../model/ring-group.ts';
import { type PhoneLine, usualPhoneLines } from '../../model/waiting.ts';
import { formatNumber } from '../../numbers/format.ts';
import type { Call } from '../calls/call.ts';
import { groupOf } from '../groups/members.ts';
import type { State } from '../kernel/state.ts';

const linesOfGroup: Record<GroupShows, readonly PhoneLine[]> = {
  groupAndCaller: ['queue', 'caller'],
  caller: ['caller'],
  numberDialled: ['number'],
};

/**
 * What a phone shows while it rings for a call of a queue, line by line in the order the queue has set, or of a ring group,
 * as that is set; what is not known has no line. Empty for calls of neither.
 */
export function phoneLinesOf(state: Readonly<State>, call: Readonly<Call>): string[] {
  const queue = call.queue?.item;
  const group = queue === undefined ? groupOf(state, call)?.item : undefined;
  const shown =
    group === undefined ? queue && (queue.phoneShows ?? usualPhoneLines) : linesOfGroup[group.shows];
  if (shown === undefined) return [];
  const number = state.numbers.get(call.numberId ?? '');
  const other = call.direction === 'outbound' ? call.to : call.from;
  const lines: Record<PhoneLine, string | undefined> = {
    queue: queue?.name ?? group?.name,
    caller: call.record?.name ?? call.callerName ?? (other === '' ? 'Number withheld' : formatNumber(other)),
    // Who dialled an extension dialled no number of ours.
    number: number?.label ?? (group === undefined ? undefined : call.to),
    source: number?.sourceName ?? undefined,
  };
  return shown.flatMap((line) => lines[line] ?? []);
}
