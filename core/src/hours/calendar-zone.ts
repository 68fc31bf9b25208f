import ICAL from 'ical.js';
import { dayMs, readingText } from './civil.ts';
import { zoneAhead, zoneChanges } from './zone.ts';

const halfYear = 182 * dayMs;
const hourMs = 3_600_000;
const minuteMs = 60_000;

/**
 * A zone as a file describes it (VTIMEZONE, RFC 5545, 3.6.5), for programs that do not know it by its name: as it is at
 * `from`, and each change up to `until` (UTC milliseconds).
 */
export function describedZone(zone: string, from: number, until: number): ICAL.Component {
  const described = new ICAL.Component('vtimezone');
  described.updatePropertyWithValue('tzid', zone);
  const usual = zoneAhead(from, zone);
  // More ahead than half a year from then is summer time: a name only, the offsets say what holds.
  const least = Math.min(usual, zoneAhead(from + halfYear, zone));
  for (const { at, before, after } of [
    { at: from, before: usual, after: usual },
    ...zoneChanges(zone, from, until),
  ]) {
    const part = new ICAL.Component(after > least ? 'daylight' : 'standard');
    const local = readingText(at + before);
    part.updatePropertyWithValue('dtstart', ICAL.Time.fromDateTimeString(local));
    part.updatePropertyWithValue('tzoffsetfrom', offsetOf(before));
    part.updatePropertyWithValue('tzoffsetto', offsetOf(after));
    described.addSubcomponent(part);
  }
  return described;
}

function offsetOf(ahead: number): ICAL.UtcOffset {
  const minutes = Math.abs(Math.round(ahead / minuteMs));
  return new ICAL.UtcOffset({
    hours: Math.floor(minutes / (hourMs / minuteMs)),
    minutes: minutes % (hourMs / minuteMs),
    factor: ahead < 0 ? -1 : 1,
  });
}
