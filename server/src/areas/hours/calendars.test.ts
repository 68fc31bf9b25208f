import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, expect, test } from 'vitest';
import type { CalendarView } from '@night-bell/core/contracts/calendars';
import type { HoursView } from '@night-bell/core/contracts/opening-hours';
import type { NightBell } from '../../app.ts';
import type { Database } from '../../database/connection.ts';
import { Outgoing } from '../../outgoing/outgoing.ts';
import { Calendars } from './calendars.ts';
import {
  type Browser,
  firstAdministrator,
  freshDatabase,
  personSignedIn,
  startServer,
} from '../../server.testing.ts';

interface Refusal {
  code: string;
  detail: string;
  errors: { path: string; detail: string }[];
}
let night: NightBell;
let database: Database;
let admin: Browser;
let calendars: Calendars;
let set: HoursView;
let office: Server;
let address: string;
let drop: () => Promise<void>;
/** What the calendar's server answers now. */
let answer: { status: number; body: string };

const next = new Date().getUTCFullYear() + 1;
const calendar = (...events: [date: string, name: string][]) =>
  [
    ...['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//x//x//EN'],
    ...events.flatMap(([date, name], index) => [
      ...['BEGIN:VEVENT', `UID:${index}@x`, 'DTSTAMP:20260101T000000Z', `DTSTART;VALUE=DATE:${date}`],
      ...[`SUMMARY:${name}`, 'END:VEVENT'],
    ]),
    'END:VCALENDAR',
  ].join('\r\n');

beforeAll(async () => {
  office = createServer((_request, response) => {
    response.writeHead(answer.status, { 'content-type': 'text/calendar' }).end(answer.body);
  });
  await new Promise<void>((resolve) => office.listen(0, '127.0.0.1', resolve));
  const { port } = office.address() as AddressInfo;
  address = `http://127.0.0.1:${port}/holidays.ics`;
  const fresh = await freshDatabase();
  database = fresh.database;
  night = await startServer(database, { allowedAddresses: [`127.0.0.1:${port}`] });
  const outgoing = new Outgoing(() => Promise.resolve(new Set([`127.0.0.1:${port}`])));
  calendars = new Calendars(database, outgoing, { warn: () => undefined } as never, null);
  admin = await firstAdministrator(night, database);
  const weekly = Array.from({ length: 7 }, () => [[540, 1_020]]);
  const draft = { name: 'Office', zone: 'UTC', weekly, days: [] };
  set = (await admin.send<HoursView>('POST', '/api/opening-hours', draft)).body;
  drop = async () => {
    await night.close();
    await fresh.drop();
    office.close();
  };
});
afterAll(() => drop());

const path = () => `/api/opening-hours/${set.id}/calendar`;
const read = async () => (await admin.send<CalendarView | null>('GET', path())).body;
const days = async () =>
  (await admin.send<{ item: HoursView }>('GET', `/api/opening-hours/${set.id}`)).body.item.days.map(
    ({ date }) => date,
  );
const [newYear, spring] = [`${next}-01-01`, `${next}-05-01`];
const compact = (date: string) => date.replaceAll('-', '');

test('an address that gives no calendar is refused, and nothing is followed', async () => {
  answer = { status: 404, body: '' };
  const put = (to: string) => admin.send<Refusal>('PUT', path(), { address: to });
  expect((await put(address)).body.errors[0]).toMatchObject({
    ...{ path: '/address', detail: 'It answered 404. Is that the address of the calendar itself?' },
  });
  answer = { status: 200, body: 'Good morning' };
  expect((await put(address)).body.errors[0]!.detail).toContain('no calendar that can be read');
  expect((await put('the town hall')).body.errors[0]!.detail).toContain('web address');
  // Inside this machine nothing is asked that was not allowed by name.
  expect((await put('http://127.0.0.1:9/a.ics')).status).toBe(422);
  expect(await read()).toBeNull();
});

test('what it says is shown, and holds only when it is taken', async () => {
  answer = { status: 200, body: calendar([compact(newYear), 'New Year'], [compact(spring), 'First of May']) };
  const followed = (await admin.send<CalendarView>('PUT', path(), { address })).body;
  expect(followed).toMatchObject({ address, fault: null });
  expect(followed.changes).toEqual([
    { date: newYear, name: 'New Year', before: null, after: [] },
    { date: spring, name: 'First of May', before: null, after: [] },
  ]);
  expect(await days()).toEqual([]);
  const some = followed.changes.slice(0, 1);
  const after = (await admin.send<CalendarView>('POST', `${path()}/take`, { changes: some })).body;
  expect(after.changes.map(({ date }) => date)).toEqual([spring]);
  expect(await days()).toEqual([newYear]);
});

test('changes that are other than they were shown are refused, and nothing is taken', async () => {
  const shown = (await read())!.changes;
  answer = { status: 200, body: calendar([compact(newYear), 'New Year'], [compact(spring), 'Another name']) };
  await admin.send('POST', `${path()}/read`);
  const refused = await admin.send<Refusal>('POST', `${path()}/take`, { changes: shown });
  expect(refused.body.code).toBe('changedMeanwhile');
  expect(await days()).toEqual([newYear]);
});

test('one that is away keeps what it said before, with why; the job reads those that are due', async () => {
  answer = { status: 500, body: '' };
  const away = (await admin.send<CalendarView>('POST', `${path()}/read`)).body;
  expect(away.fault).toContain('It answered 500');
  expect(away.changes).toHaveLength(1);
  answer = { status: 200, body: calendar([compact(newYear), 'New Year']) };
  await calendars.readDue();
  expect((await read())!.changes).toHaveLength(1);
  await database('calendar_subscription').update({ read_at: new Date(Date.now() - 7 * 3_600_000) });
  await calendars.readDue();
  expect(await read()).toMatchObject({ fault: null, changes: [] });
});

test('who may not change hours follows nothing; it is left, and its days stay', async () => {
  const agent = (await personSignedIn(night, admin, 'Al Agent', 'agent')).browser;
  expect((await agent.send('PUT', path(), { address })).status).toBe(403);
  await admin.send('DELETE', path());
  expect(await read()).toBeNull();
  expect(await days()).toEqual([newYear]);
});
