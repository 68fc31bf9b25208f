import { Worker } from 'node:worker_threads';
import type { Knex } from 'knex';
import { DateTime } from 'luxon';
import type { Logger } from 'pino';
import type { CalendarView } from '@night-bell/core/contracts/calendars';
import type { HoursDraft } from '@night-bell/core/contracts/opening-hours';
import {
  type CalendarDay,
  merged,
  mostCalendarBytes,
  type ReadCalendar,
  readCalendar,
} from '@night-bell/core/hours/calendar';
import { Problem } from '../../http/problems.ts';
import { type Outgoing, OutgoingFault } from '../../outgoing/outgoing.ts';
import { type Author, tellPages } from '../../spine/items.ts';
import { hoursItem } from './store.ts';

const patienceMs = 8_000;
const mostShownFaults = 50;
/** Read again when so much time has passed. */
const everyHours = 6;

interface Row {
  hours_id: string;
  address: string;
  read_at: Date | null;
  fault: string | null;
  days: CalendarDay[];
  left_out: string[];
}

/** Calendars that sets of opening hours follow: read by a job, taken by somebody. */
export class Calendars {
  private readonly database: Knex;
  private readonly outgoing: Outgoing;
  private readonly logger: Logger;
  private readonly thread: URL | null;

  /** @param thread reads calendars beside the live loop; null reads them here, for tests */
  constructor(database: Knex, outgoing: Outgoing, logger: Logger, thread: URL | null) {
    this.database = database;
    this.outgoing = outgoing;
    this.logger = logger;
    this.thread = thread;
  }

  /** How the calendar of a set stands against the set; null when it follows none. */
  async of(hoursId: string): Promise<CalendarView | null> {
    const row = await this.rowOf(hoursId);
    if (row === undefined) return null;
    const { days } = await hoursItem.get(this.database, hoursId);
    return viewOf(row, days);
  }

  /** From now on the set follows this address, which is read at once: one that cannot be read is refused. */
  async follow(hoursId: string, address: string, personId: string): Promise<void> {
    checkAddress(address);
    const set = await hoursItem.get(this.database, hoursId);
    const read = await this.read(address, set.zone).catch((error: unknown) => {
      throw Problem.field('/address', whyNot(error));
    });
    const row = {
      ...{ hours_id: hoursId, address, by_person: personId, read_at: new Date(), fault: null },
      ...stored(read),
    };
    await this.database('calendar_subscription').insert(row).onConflict('hours_id').merge();
    await tellPages(this.database, 'hours', hoursId);
  }

  async leave(hoursId: string): Promise<void> {
    await this.database('calendar_subscription').where({ hours_id: hoursId }).delete();
    await tellPages(this.database, 'hours', hoursId);
  }

  /** Reads it anew; what went wrong is kept beside what it said before. */
  async readAgain(hoursId: string): Promise<void> {
    const row = await this.rowOf(hoursId);
    if (row === undefined) return;
    const { zone } = await hoursItem.get(this.database, hoursId);
    const change = await this.read(row.address, zone).then(
      (read) => ({ fault: null, ...stored(read) }),
      (error: unknown) => ({ fault: whyNot(error) }),
    );
    await this.database('calendar_subscription')
      .where({ hours_id: hoursId, address: row.address })
      .update({ read_at: new Date(), ...change });
    await tellPages(this.database, 'hours', hoursId);
  }

  /** All that were not read for some hours, one after the other. */
  async readDue(): Promise<void> {
    const due = await this.database('calendar_subscription as c')
      .join('item as i', 'i.id', 'c.hours_id')
      .whereNull('i.retired_at')
      .whereRaw('(c.read_at is null or c.read_at < now() - make_interval(hours => ?))', [everyHours])
      .orderBy('c.read_at')
      .pluck<string[]>('c.hours_id');
    for (const hoursId of due)
      await this.readAgain(hoursId).catch((error: unknown) =>
        this.logger.warn({ hoursId, error: String(error) }, 'a calendar was not read'),
      );
  }

  /** Takes changes over into the set, as they were shown: what is other meanwhile is refused, and nothing is taken. */
  async take(
    trx: Knex.Transaction,
    hoursId: string,
    changes: CalendarView['changes'],
    author: Author,
  ): Promise<void> {
    const row = await trx<Row>('calendar_subscription').where({ hours_id: hoursId }).first();
    if (row === undefined) throw new Problem('notFound', 'This set follows no calendar any more.');
    const set = await hoursItem.get(trx, hoursId);
    const present = new Map(viewOf(row, set.days).changes.map((change) => [change.date, change]));
    const isOther = changes.some(
      (change) => JSON.stringify(present.get(change.date)) !== JSON.stringify(change),
    );
    if (isOther)
      throw new Problem(
        'changedMeanwhile',
        'The calendar or the hours are other now. Look at the changes again.',
      );
    const dates = new Set(changes.map(({ date }) => date));
    const days = merged(
      set.days as unknown as CalendarDay[],
      row.days.filter(({ date }) => dates.has(date)),
    ).days as unknown as HoursDraft['days'];
    await hoursItem.change(trx, hoursId, set.version, { ...hoursItem.snapshot(set), days }, author);
  }

  private rowOf(hoursId: string): Promise<Row | undefined> {
    return this.database<Row>('calendar_subscription').where({ hours_id: hoursId }).first();
  }

  private async read(address: string, zone: string): Promise<ReadCalendar> {
    const { status, text } = await this.outgoing.ask(address, {
      ...{ method: 'GET', headers: { accept: 'text/calendar' } },
      ...{ timeoutMs: patienceMs, mostBytes: mostCalendarBytes },
    });
    if (status >= 300) throw new Error(`It answered ${status}. Is that the address of the calendar itself?`);
    const today = DateTime.now().setZone(zone).toISODate()!;
    const read =
      this.thread === null
        ? readCalendar(text, zone, today)
        : await readBeside(this.thread, { text, zone, today });
    if (read.days.length === 0 && read.faults.length > 0) throw new Error(read.faults[0]);
    return read;
  }
}

function readBeside(file: URL, workerData: object): Promise<ReadCalendar> {
  const worker = new Worker(file, { workerData });
  return new Promise<ReadCalendar>((resolve, reject) => {
    worker.on('message', resolve);
    worker.on('error', reject);
    worker.on('exit', () => reject(new Error('the thread ended')));
  }).finally(() => worker.terminate());
}

const stored = ({ days, faults }: ReadCalendar) => ({
  days: JSON.stringify(days),
  left_out: JSON.stringify(faults.slice(0, mostShownFaults).map((fault) => fault.slice(0, 300))),
});

function viewOf({ address, read_at, fault, days, left_out }: Row, present: HoursDraft['days']): CalendarView {
  const known = new Map(present.map((day) => [day.date, day]));
  const copied = (ranges: readonly (readonly number[])[]) => ranges.map((range) => [...range]);
  return {
    ...{ address, readAt: read_at?.getTime() ?? null, fault, leftOut: left_out },
    changes: days.flatMap(({ date, name, ranges }) => {
      const before = known.get(date);
      if (before !== undefined && JSON.stringify(before.ranges) === JSON.stringify(ranges)) return [];
      return [
        { date, name, before: before === undefined ? null : copied(before.ranges), after: copied(ranges) },
      ];
    }),
  };
}

function checkAddress(address: string): void {
  const url = URL.canParse(address) ? new URL(address) : null;
  if (url === null || (url.protocol !== 'https:' && url.protocol !== 'http:'))
    throw Problem.field(
      '/address',
      'Write the web address of a calendar, for example https://example.com/holidays.ics.',
    );
}

function whyNot(error: unknown): string {
  if (error instanceof OutgoingFault) return error.message;
  return error instanceof Error ? error.message : 'It could not be read.';
}
