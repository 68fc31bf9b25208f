import ICAL from 'ical.js';
import { dayMs, readingOf } from './civil.ts';
import { instantInZone, isZone, zoneAhead } from './zone.ts';

/** Once that an event takes place: milliseconds of the local reading, as if it were UTC; whole days from midnight on. */
export interface Occurrence {
  name: string;
  wholeDays: boolean;
  from: number;
  /** The first moment after it. */
  to: number;
}

const minuteMs = 60_000;
const secondMs = 1_000;
/** Recurrences stepped through for a whole file: some milliseconds each hundred. */
const mostSteps = 50_000;

/**
 * All that takes place in a stretch of local time, on the clock of `zone` (IETF RFC 5545): events with their recurrence
 * rules, dates added (RDATE) and left out (EXDATE), instances that were moved or cancelled (RECURRENCE-ID, STATUS), and
 * times in UTC, in zones of the IANA database or in zones the file describes itself (VTIMEZONE). A time without a zone is
 * on this clock already.
 *
 * @param components VEVENTs of one calendar
 * @param from first local moment that counts, `until` the first that does not; milliseconds as if they were UTC
 * @returns what takes place, in no order, and a sentence for each event that cannot be taken
 */
export function occurrencesOf(
  components: readonly ICAL.Component[],
  { zone, from, until }: { zone: string; from: number; until: number },
): { occurrences: Occurrence[]; faults: string[] } {
  const occurrences: Occurrence[] = [];
  const faults: string[] = [];
  const budget = { steps: mostSteps };
  const moved = new Map<string, ICAL.Component[]>();
  const whole: ICAL.Component[] = [];
  for (const component of components) {
    const uid = String(component.getFirstPropertyValue('uid') ?? '');
    if (component.getFirstProperty('recurrence-id') === null) whole.push(component);
    else moved.set(uid, [...(moved.get(uid) ?? []), component]);
  }
  const known = new Set(whole.map((component) => String(component.getFirstPropertyValue('uid') ?? '')));
  // Instances of an event that is not in this file stand for themselves.
  for (const [uid, instances] of moved) if (!known.has(uid)) whole.push(...instances);
  for (const component of whole) {
    const uid = String(component.getFirstPropertyValue('uid') ?? '');
    const exceptions = known.has(uid) ? (moved.get(uid) ?? []) : [];
    try {
      // An event is taken whole or not at all.
      const all = [...occurrencesOfOne(component, exceptions, zone, until, budget)];
      occurrences.push(...all.filter((each) => each.to > from && each.from < until));
    } catch (error) {
      if (!(error instanceof CannotTake)) throw error;
      faults.push(`“${nameOf(component)}” ${error.message}`);
    }
  }
  return { occurrences, faults };
}

/** What is wrong with an event, as the end of a sentence that begins with its name. */
class CannotTake extends Error {}

const nameOf = (component: ICAL.Component) => {
  const summary = component.getFirstPropertyValue('summary');
  return (typeof summary === 'string' ? summary.trim().slice(0, 80) : '') || 'Unusual day';
};
const isCancelled = (component: ICAL.Component) =>
  String(component.getFirstPropertyValue('status') ?? '').toUpperCase() === 'CANCELLED';

function* occurrencesOfOne(
  component: ICAL.Component,
  exceptions: readonly ICAL.Component[],
  zone: string,
  until: number,
  budget: { steps: number },
): Generator<Occurrence> {
  if (component.getFirstProperty('dtstart') === null) throw new CannotTake('has no day. It is left out.');
  const event = new ICAL.Event(component, { exceptions: [...exceptions], strictExceptions: true });
  if (!event.isRecurring()) {
    if (!isCancelled(component)) yield occurrence(event, event.startDate, event.endDate, zone);
    return;
  }
  const steps = event.iterator();
  for (let next = steps.next() as ICAL.Time | undefined; next != null; next = steps.next()) {
    if (readingAt(next) - dayMs > until) return;
    if (budget.steps-- <= 0)
      throw new CannotTake('repeats too often to be read. Take it out of the file, or add its days by hand.');
    if (isNoDate(component, event.startDate, next)) continue;
    const { item, startDate, endDate } = event.getOccurrenceDetails(next);
    if (!isCancelled(item.component)) yield occurrence(item, startDate, endDate, zone);
  }
}

/** A date that a month does not have is left out (RFC 5545, 3.3.10); the package takes the day after it for a leap day. */
function isNoDate(component: ICAL.Component, start: ICAL.Time, next: ICAL.Time): boolean {
  const rule = component.getFirstPropertyValue('rrule') as ICAL.Recur | null;
  if (rule === null || rule.freq !== 'YEARLY' || Object.keys(rule.parts).length > 0) return false;
  return start.month === 2 && start.day === 29 && next.month === 3 && next.day === 1;
}

function occurrence(event: ICAL.Event, start: ICAL.Time, end: ICAL.Time, zone: string): Occurrence {
  const name = nameOf(event.component);
  const from = localOf(event.component, start, zone);
  if (start.isDate) {
    const to = Math.max(from + dayMs, localOf(event.component, end, zone));
    return { name, wholeDays: true, from, to };
  }
  const to = localOf(event.component, end, zone);
  if (to <= from) throw new CannotTake('takes no time. It is left out.');
  return { name, wholeDays: false, from, to };
}

/** A time as it reads on the clock of `zone`. */
function localOf(component: ICAL.Component, time: ICAL.Time, zone: string): number {
  const reading = readingAt(time);
  // On this very clock what is written holds, also at a moment that is skipped when clocks go forward.
  if (time.isDate || time.zone.tzid === zone) return reading;
  const named = component.getFirstProperty('dtstart')?.getParameter('tzid');
  const tzid = typeof named === 'string' ? named : null;
  if (time.zone !== ICAL.Timezone.localTimezone && time.zone.tzid !== 'floating') {
    const instant = time.toUnixTime() * secondMs;
    return whole(instant + zoneAhead(instant, zone));
  }
  if (tzid === null || tzid === zone) return reading;
  if (!isZone(tzid))
    throw new CannotTake(`is in zone ${tzid}, which neither the file nor this clock knows. Add it by hand.`);
  const instant = instantInZone(reading, tzid);
  return whole(instant + zoneAhead(instant, zone));
}

const whole = (reading: number) => Math.floor(reading / minuteMs) * minuteMs;
const readingAt = ({ year, month, day, hour, minute, isDate }: ICAL.Time) =>
  readingOf({ year, month, day, second: 0, ...(isDate ? { hour: 0, minute: 0 } : { hour, minute }) });
