import type { HoursDraft, HoursView, OpeningHoursContract } from '@night-bell/core/contracts/opening-hours';
import { rangesText } from '@night-bell/core/hours/week';
import type { OpeningHours } from '@night-bell/core/hours/opening-hours';
import { itemApi } from '../../api/items.ts';
import { type ItemArea, showPlain } from '../../kit/item-area.ts';

export const hoursApi = itemApi<OpeningHoursContract>('hours', '/api/opening-hours');

export const dayNames = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const;
export const longDayNames = [
  ...(['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'] as const),
] as const;

function weekText(weekly: HoursDraft['weekly']): string {
  return weekly.map((ranges, day) => `${dayNames[day]} ${rangesText(ranges)}`).join('; ');
}

export const hoursArea: ItemArea<HoursDraft, HoursView> = {
  api: hoursApi,
  page: '/hours',
  savedAs: 'hours',
  title: 'Opening hours',
  one: 'set',
  second: 'When a place is open',
  fresh: () => ({ name: '', zone: '', weekly: [[], [], [], [], [], [], []], days: [] }),
  draftOf: ({ name, zone, weekly, days }) => ({ name, zone, weekly, days }),
  words: { name: 'Name', zone: 'Time zone', weekly: 'Every week', days: 'Unusual days' },
  show: (field, value) => {
    if (field === 'weekly') return weekText(value as HoursDraft['weekly']);
    if (field === 'days') return `${(value as HoursDraft['days']).length} days`;
    return showPlain(value);
  },
  unused: 'No plan asks these hours yet.',
};

/** A set as core evaluates it. */
export function compiled(view: HoursView, draft: HoursDraft = view): OpeningHours {
  return {
    ...{ id: view.id, name: draft.name, weekly: draft.weekly },
    clock: { zone: view.zone, changes: view.clockChanges as unknown as OpeningHours['clock']['changes'] },
    days: Object.fromEntries(draft.days.map((day) => [day.date, day])),
    storm: view.storm,
  };
}

export const stateWords = { open: 'Open', closed: 'Closed', holiday: 'Holiday', storm: 'Storm' } as const;
export const stateShapes = { open: 'open', closed: 'closed', holiday: 'closed', storm: 'storm' } as const;
