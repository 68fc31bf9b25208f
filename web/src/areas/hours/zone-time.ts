import { format } from '../../kit/time.ts';

const day = { weekday: 'short', day: 'numeric', month: 'short' } as const;
const clock = { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' } as const;

/** '22:00' today, 'Wed 06:00' within a week, 'Thu 26 Nov, 08:00' beyond. */
export function whenIn(zone: string, instant: number, now: number): string {
  const time = format(zone, clock).format(instant);
  const date = format(zone, day).format(instant).replace(',', '');
  if (date === format(zone, day).format(now).replace(',', '')) return time;
  return instant - now < 6 * 86_400_000 ? `${date.slice(0, 3)} ${time}` : `${date}, ${time}`;
}

export function dateWords(date: string): string {
  return format('UTC', day)
    .format(Date.parse(`${date}T12:00:00Z`))
    .replace(',', '');
}

/** Every zone that is known here; the company's own and its neighbours first are found by typing. */
export const zones: readonly string[] = Intl.supportedValuesOf('timeZone');
