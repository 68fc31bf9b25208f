import type { Destination } from '@night-bell/core/model/destination';
import type { HeldNumber } from '../../api/client.ts';
import { formatNumber } from '@night-bell/core/numbers/format';

/** What the fields of a number are called, and how their values read. */
export const numberWords: Record<string, string> = {
  e164: 'Number',
  label: 'Label',
  destination: 'Leads to',
  sourceId: 'Call source',
  textsTo: 'Texts read by',
  dialTeams: 'May be shown by',
  mostCalls: 'Calls at once',
  priority: 'Priority',
};

export function showNumber(nameOf: (id: string) => string) {
  return (field: string, value: unknown): string => {
    if (field === 'e164') return formatNumber(String(value));
    if (field === 'sourceId') return value === null ? 'none' : nameOf(value as string);
    if (field === 'textsTo') return value === null ? 'nobody' : nameOf((value as { id: string }).id);
    if (field === 'dialTeams') return (value as string[]).map(nameOf).join(', ') || 'everybody';
    if (field !== 'destination') return String(value);
    const destination = value as Destination | null;
    if (destination === null) return 'nowhere';
    return destination.kind === 'end' ? 'Say that nobody can take the call' : nameOf(destination.id);
  };
}

/** Who has reported it for unwanted calls, and when. */
export function reportWords({ reports }: Pick<HeldNumber, 'reports'>): string {
  return reports.map(({ by, on }) => `Reported by ${by} on ${on}`).join('. ');
}
