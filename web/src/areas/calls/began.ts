import type { Direction } from '@night-bell/core/story/facts';
import type { StoryRecord } from '@night-bell/core/story/records';
import type { CallRow } from '../../api/client.ts';

/** How a call began: which way, between which numbers, and what stands beside them. */
export interface Began {
  way: Direction;
  /** UTC milliseconds. */
  at: number;
  to: string;
  from: string;
  name: string | null;
  /** Label of the number, name of the campaign, or of who dialled. */
  label: string | null;
}

/** From its story; of a call of which nothing more could be written than that it was, from its row. */
export function beganOf(story: readonly StoryRecord[], row: CallRow | null): Began | undefined {
  for (const record of story) {
    const { at } = record;
    switch (record.kind) {
      case 'arrived':
        return {
          way: 'inbound',
          at,
          to: record.to,
          from: record.from,
          name: record.callerName,
          label: record.label,
        };
      case 'launched':
        return {
          ...{ way: 'outbound', at, to: record.to, from: record.callerId },
          ...{ name: record.contactName, label: record.campaignName },
        };
      case 'dialledBy':
        return { way: 'dialled', at, to: record.to, from: row?.caller ?? '', name: null, label: record.name };
      case 'lineDialled':
        return { way: 'line', at, to: record.to, from: '', name: record.name, label: 'Line held open' };
    }
  }
  if (row === null) return undefined;
  const { direction: way, dialled: to, caller: from, callerName: name, numberLabel: label } = row;
  return { way, at: Date.parse(row.arrivedAt), to, from, name, label };
}
