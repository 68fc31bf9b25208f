import ICAL from 'ical.js';
import { dayMs, readingText } from './civil.ts';
import { zoneAhead } from './zone.ts';

const halfYear = 182 * dayMs;
const hourMs = 3_600_000;
const minuteMs = 60_000;

/** When a zone's distance from UTC changes between two instants (UTC milliseconds), to the minute. */
function changesOf(
  zone: string,
  from: number,
  until: number,
): { at: number; before: number; after: number }[] {
  const changes = [];
  // Zones change a few times a year: a day's step finds each change, halving finds its instant.
  for (let at = from; at < until; at += dayMs) {
    let [low, high] = [at, at + dayMs];
    const before = zoneAhead(low, zone);
    const after = zoneAhead(high, zone);
    if (before === after) continue;
    while (high - low > minuteMs) {
      const middle = Math.floor((low + high) / 2 / minuteMs) * minuteMs;
      if (zoneAhead(middle, zone) === before) low = middle;
      else high = middle;
    }
    changes.push({ at: high, before, after });
  }
  return changes;
}

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
    ...changesOf(zone, from, until),
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
