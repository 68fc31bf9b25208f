import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { DateTime } from 'luxon';
import { usualProfile } from '@night-bell/core/rehearse/behaviour';
import { rehearseDay, type Shift } from '@night-bell/core/rehearse/day';
import { seededRandom, seedFrom } from '@night-bell/core/rehearse/random';
import type { NewPerson } from '../areas/people/create.ts';
import type { Database } from '../database/connection.ts';
import { compileConfiguration } from '../live/compile.ts';
import { writeCalls } from '../live/log.queries.ts';
import type { DemoPerson } from './person.ts';

const daysBack = 2;

/** The last days and today until now, by running the exchange over the set-up; marked as rehearsed. */
export async function rehearsePast(
  database: Database,
  folder: string,
  people: DemoPerson[],
  made: NewPerson[],
  timeZone: string,
): Promise<void> {
  const configuration = await compileConfiguration(database);
  const arrivals = JSON.parse(readFileSync(join(folder, 'arrivals.json'), 'utf8')) as {
    to: string;
    perHour: number[];
  }[];
  const callers = JSON.parse(readFileSync(join(folder, 'caller-areas.json'), 'utf8')) as string[];
  const now = Date.now();
  for (let back = daysBack; back >= 0; back--) {
    const day = DateTime.fromMillis(now, { zone: timeZone }).startOf('day').minus({ days: back });
    const random = seededRandom(seedFrom('past', day.toISODate() ?? ''));
    const calls = rehearseDay(
      {
        configuration,
        hourStarts: Array.from({ length: 25 }, (_, hour) => instantOf(day, hour)),
        arrivals,
        shifts: people.flatMap((person, index) => shiftsOf(made[index]!.id, person.shift, day)),
        profile: usualProfile,
        caller: (draw) => {
          const area = callers[Math.floor(draw() * callers.length)]!;
          return `+1${area}55501${String(Math.floor(draw() * 100)).padStart(2, '0')}`;
        },
      },
      random,
    );
    const over = calls.filter(({ facts }) => facts.endedAt <= now);
    await database.transaction((trx) => writeCalls(trx, over, true));
  }
}

/** The instant of an hour of the local day; 24 is the next midnight. A reading that daylight saving skips is the next one. */
function instantOf(day: DateTime, hour: number): number {
  return hour === 24 ? day.plus({ days: 1 }).toMillis() : day.set({ hour }).toMillis();
}

/** A shift like `22:00-06:00` within one local day: what runs past midnight also opens the day. */
function shiftsOf(personId: string, shift: string, day: DateTime): Shift[] {
  const match = /^(\d\d):00-(\d\d):00$/.exec(shift);
  if (match === null) return [];
  const [from, to] = [Number(match[1]), Number(match[2])];
  const part = (begin: number, end: number): Shift => ({
    personId,
    from: instantOf(day, begin),
    to: instantOf(day, end),
  });
  return from < to ? [part(from, to)] : [part(0, to), part(from, 24)];
}
