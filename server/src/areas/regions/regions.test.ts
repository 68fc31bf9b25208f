import { afterAll, beforeAll, expect, test } from 'vitest';
import type { JobView } from '@night-bell/core/contracts/jobs';
import type {
  RegionCoverage,
  RegionRow,
  RegionsPreview,
  RegionView,
} from '@night-bell/core/contracts/regions';
import type { NightBell } from '../../app.ts';
import type { Database } from '../../database/connection.ts';
import { type Browser, openNight, TestGateway, until } from '../../server.testing.ts';

interface Refusal {
  detail: string;
  errors: { path: string; detail: string }[];
}
let night: NightBell;
let database: Database;
let drop: () => Promise<void>;
let admin: Browser;
let table: RegionView;
const queues: Record<string, string> = {};
const gateway = new TestGateway();

beforeAll(async () => {
  ({ night, admin, database, drop } = await openNight(gateway));
  for (const name of ['North', 'City', 'Abroad'])
    queues[name] = (await admin.send<{ id: string }>('POST', '/api/queues', { name })).body.id;
  table = (await admin.send<RegionView>('POST', '/api/region-tables', { name: 'Terminals' })).body;
});
afterAll(() => drop());

const path = () => `/api/region-tables/${table.id}`;
const to = (name: string) => ({ kind: 'queue', id: queues[name]! });
const put = <T = { added: number; changed: number; faults: object[] }>(text: string, name: string) =>
  admin.send<T>('POST', `${path()}/rows`, { text, to: to(name) });
const rows = async (query = '') => (await admin.send<RegionRow[]>('GET', `${path()}/rows${query}`)).body;

test('area codes, beginnings and places are typed; what is there already leads elsewhere from then on', async () => {
  expect((await put('360, 425\nOregon', 'North')).body).toMatchObject({ changed: 0, faults: [] });
  expect((await put('+44 20\n360', 'City')).body).toMatchObject({ added: 1, changed: 1 });
  expect(await rows('?search=360')).toEqual([
    { prefix: '1360', place: null, to: to('City'), toName: 'City' },
  ]);
  expect((await rows('?search=oregon')).map(({ prefix }) => prefix)).toContain('1503');
  expect((await rows('?search=city')).map(({ prefix }) => prefix)).toEqual(['1360', '4420']);
});

test('lines that cannot be read are named, the others are kept; nothing readable is refused', async () => {
  const some = await put('206\n\n12\nNowhere Land', 'City');
  expect(some.body).toMatchObject({ added: 1, faults: [{ line: 3 }, { line: 4 }] });
  const none = await put<Refusal>('abc', 'City');
  expect(none.status).toBe(422);
  expect(none.body.errors[0]).toMatchObject({ path: '/text' });
  const gone = await admin.send<Refusal>('POST', `${path()}/rows`, {
    text: '206',
    to: { kind: 'queue', id: table.id },
  });
  expect(gone.body.errors[0]).toMatchObject({
    path: '/to',
    detail: expect.stringContaining('does not exist'),
  });
});

test('the exchange goes by the rows a moment later, and the queues are used by the table', async () => {
  const known = () => JSON.stringify(night.live.exchange.view().regions.get(table.id)?.ways ?? []);
  await until(() => known().includes('1206'), 'it is known');
  const set = night.live.exchange.view().regions.get(table.id)!;
  const city = set.ways.find(({ destination }) => 'id' in destination && destination.id === queues.City);
  expect(city?.prefixes.split(' ')).toEqual(['1206', '1360', '4420']);
  const refused = await admin.send<Refusal>(
    'POST',
    `/api/queues/${queues.City}/retire`,
    {},
    { 'if-match': '"1"' },
  );
  expect(refused.body.detail).toContain('Terminals');
});

test('before it is kept it is shown: what is replaced, and how many callers of the last month', async () => {
  await database.raw(
    `insert into call (id, dialled, caller, result, ended_by, arrived_at, ended_at, waited_ms, talked_ms, offers, stand_in, story)
     select gen_random_uuid(), '+12065550140', caller, 'answered', 'caller', now(), now(), 0, 0, 1, false, '[]'
     from unnest(array['+13605550117', '+13605550118', '+13605550118', '+15415550117', 'anonymous', '+17075550117']) caller`,
  );
  const preview = (
    await admin.send<RegionsPreview>('POST', `${path()}/rows/preview`, { text: '360\n707', to: to('North') })
  ).body;
  expect(preview).toEqual({
    rows: [
      { prefix: '1360', place: null, before: 'City' },
      { prefix: '1707', place: null, before: null },
    ],
    ...{ faults: [], days: 30, calls: 6, caught: 4 },
  });
});

test('coverage says what each row caught, what none does, and what lies within another', async () => {
  await put('360 555', 'North');
  const coverage = (await admin.send<RegionCoverage>('GET', `${path()}/coverage`)).body;
  expect(coverage).toMatchObject({
    ...{ calls: 6, withheld: 1, covered: 4 },
    rows: [
      { prefix: '1360555', calls: 3 },
      { prefix: '1541', calls: 1 },
    ],
    missing: [{ prefix: '1707', calls: 1 }],
    overlaps: [{ prefix: '1360555', within: '1360', toName: 'North', withinName: 'City' }],
  });
});

test('rows are taken out, by those who may; it stands in the history', async () => {
  const took = await admin.send<{ takenOut: number }>('POST', `${path()}/rows/take-out`, {
    prefixes: ['1360555', '1999'],
  });
  expect(took.body).toEqual({ takenOut: 1 });
  const history = (
    await admin.send<{ what: string; after: object }[]>('GET', `/api/items/${table.id}/history`)
  ).body;
  expect(history[0]).toMatchObject({ what: 'rowsSet' });
});

async function bring(text: string): Promise<JobView> {
  const begun = await admin.send<JobView>('POST', `${path()}/file`, Buffer.from(text), {
    'content-type': 'text/csv',
  });
  await until(async () => {
    const { body } = await admin.send<JobView>('GET', `/api/jobs/${begun.body.id}`);
    return body.endedAt !== null;
  }, 'the job is over');
  return (await admin.send<JobView>('GET', `/api/jobs/${begun.body.id}`)).body;
}

test('a file is brought as a job: good rows are kept, each bad one is named with its cell', async () => {
  await admin.send('POST', '/api/queues', { name: 'Twice' });
  await admin.send('POST', '/api/plans', { name: 'Twice', document: { start: null, steps: {} } });
  const done = await bring(
    [
      'Region,Destination',
      '509,North',
      '509,City',
      'Idaho,north',
      '208,City',
      '2x,City',
      '604,',
      '604,Nobody',
      '605,Twice',
      '606,queue: Twice',
    ].join('\n'),
  );
  expect(done).toMatchObject({ state: 'done', outcome: expect.stringContaining('5 rows left out') });
  expect(done.leftOut).toEqual([
    { row: 2, cell: '509', detail: '+1 509 is in row 1 already.' },
    { row: 5, cell: '2x', detail: expect.stringContaining('letters') as string },
    { row: 6, cell: '604', detail: 'It does not say where its callers go.' },
    { row: 7, cell: 'Nobody', detail: 'Nothing is called “Nobody”.' },
    {
      ...{ row: 8, cell: 'Twice' },
      detail: 'Several are called that. Write “queue: Twice” or “plan: Twice”.',
    },
  ]);
  // Digits are meant more exactly than the state they are in.
  expect((await rows('?search=208'))[0]).toMatchObject({ toName: 'City' });
});

test('a file without the two columns is refused as a whole', async () => {
  const failed = await bring('Code,Where\n206,City\n');
  expect(failed).toMatchObject({ state: 'failed' });
  expect(failed.outcome).toContain('called destination');
});

test('a plan leads by it: a caller goes to the queue of their region', async () => {
  const document = {
    start: 's1',
    steps: {
      s1: { kind: 'region', config: { tableId: table.id }, exits: { otherwise: 's2' } },
      s2: { kind: 'end', config: {}, exits: {} },
    },
  };
  const plan = (await admin.send<{ id: string }>('POST', '/api/plans', { name: 'By region', document })).body;
  await admin.send('POST', `/api/plans/${plan.id}/publish`, {}, { 'if-match': '"1"' });
  await admin.send('POST', '/api/numbers', {
    ...{ e164: '+12065550140', label: 'Main', destination: { kind: 'plan', id: plan.id } },
  });
  await night.live.settled();
  const tried = await admin.send<{ story: { kind: string; prefix?: string }[] }>('POST', '/api/test-calls', {
    ...{ to: '+12065550140', from: '+13605550117' },
  });
  expect(tried.body.story.find(({ kind }) => kind === 'regionAsked')).toMatchObject({ prefix: '+1 360' });
});
