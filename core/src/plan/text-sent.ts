import { type OpeningHours, standingAt } from '../hours/opening-hours.ts';
import { fieldKey, merge } from '../match/merge.ts';
import { formatNumber } from '../numbers/format.ts';
import type { RecordFacts } from '../story/facts.ts';

/** What a text to a caller may hold of the call: fields of their record, what a bot found out, and the number called. */
function textFields(
  record: RecordFacts | null,
  called: string,
  found: Readonly<Record<string, string>> = {},
): Record<string, string> {
  const under = (what: string, fields: Readonly<Record<string, string>>) =>
    Object.fromEntries(Object.entries(fields).map(([key, value]) => [`${what}.${fieldKey(key)}`, value]));
  return {
    ...under('record', record?.fields ?? {}),
    ...under('found', found),
    ...(record === null ? {} : { 'record.name': record.name }),
    'call.number': called.startsWith('+') ? formatNumber(called) : called,
  };
}

/** Words with their fields filled, as they are sent or left. */
export function filled(
  words: string,
  call: { record: RecordFacts | null; called: string; found: Readonly<Record<string, string>> | undefined },
): string {
  return merge(words, textFields(call.record, call.called, call.found)).trim();
}

export type NotSent = 'withheld' | 'optedOut' | 'closed' | 'empty' | 'numberGone';

/**
 * Why no text goes to a caller; null when it may. Never against an opt-out, and only while the hours are open where
 * there are any.
 */
export function whyNotSent(
  to: {
    from: string;
    isOptedOut: boolean;
    hasNumber: boolean;
    hours: OpeningHours | undefined;
    now: number;
  },
  body: string,
): NotSent | null {
  if (!to.from.startsWith('+')) return 'withheld';
  if (to.isOptedOut) return 'optedOut';
  if (!to.hasNumber) return 'numberGone';
  if (to.hours !== undefined && standingAt(to.hours, to.now).state !== 'open') return 'closed';
  return body.trim() === '' ? 'empty' : null;
}
