import readWorkbook from 'read-excel-file/node';
import { parse } from 'csv-parse/sync';
import { afterAll, beforeAll, expect, test } from 'vitest';
import type { JobView } from '@night-bell/core/contracts/jobs';
import type { NightBell } from '../../app.ts';
import { type Browser, openNight, personSignedIn, until } from '../../server.testing.ts';
import { listNames } from '../../lists/registry.ts';

interface Refusal {
  code: string;
  errors: { path: string; detail: string }[];
}

let night: NightBell;
let drop: () => Promise<void>;
let admin: Browser;
const ids: string[] = [];

beforeAll(async () => {
  ({ night, admin, drop } = await openNight());
  const { id: teamId } = (await admin.send<{ id: string }>('POST', '/api/teams', { name: 'Freight' })).body;
  for (const name of ['Ann "Dot" Lee', '=1+2', 'Åsa Berg', 'Zed, Jr.'])
    ids.push((await admin.send<{ id: string }>('POST', '/api/people', { name, teamId })).body.id);
});
afterAll(() => drop());

const begin = <T = JobView>(body: object, who = admin) => who.send<T>('POST', '/api/saved-lists', body);
const fetchFile = (id: string, who = admin) =>
  night.app.inject({ url: `/api/saved-lists/${id}/file`, headers: { cookie: who.cookieHeader } });
async function saved(
  body: object,
): Promise<{ job: JobView; bytes: Buffer; headers: Record<string, unknown> }> {
  const begun = await begin(body);
  expect(begun.status).toBe(200);
  const job = await until(async () => {
    const { body: now } = await admin.send<JobView>('GET', `/api/jobs/${begun.body.id}`);
    return now.endedAt === null ? null : now;
  }, 'the list is saved');
  const file = await fetchFile(job.id);
  return { job, bytes: file.rawPayload, headers: file.headers };
}

test('people as CSV: as narrowed, in their order, accents kept, no formula', async () => {
  const { job, bytes, headers } = await saved({
    list: 'people',
    as: 'csv',
    query: { sort: 'name', search: '' },
  });
  expect([job.state, job.file, job.total, job.outcome]).toEqual([
    'done',
    'people.csv',
    5,
    '5 rows are saved.',
  ]);
  expect(headers['content-disposition']).toBe('attachment; filename="people.csv"');
  expect(bytes.subarray(0, 3)).toEqual(Buffer.from([0xef, 0xbb, 0xbf]));
  const rows = parse(bytes, { bom: true }) as string[][];
  expect(rows.map(([name, team]) => [name, team])).toEqual([
    ['Name', 'Team'],
    ["'=1+2", 'Freight'],
    ['Ada Admin', ''],
    ['Ann "Dot" Lee', 'Freight'],
    ['Åsa Berg', 'Freight'],
    ['Zed, Jr.', 'Freight'],
  ]);
  const narrowed = parse(
    (await saved({ list: 'people', as: 'csv', query: { search: 'berg' } })).bytes,
  ) as string[][];
  expect(narrowed).toHaveLength(2);
});

test('people as a workbook: texts are texts; marked ones only, in the order they were marked', async () => {
  const { bytes } = await saved({ list: 'people', as: 'xlsx', ids: [ids[3], ids[1]] });
  const [sheet] = (await readWorkbook(bytes)) as unknown as { data: string[][] }[];
  const rows =
    (sheet as unknown as { data?: string[][] }).data ??
    ((await readWorkbook(bytes)) as unknown as string[][]);
  expect(rows.map(([name]) => name)).toEqual(['Name', 'Zed, Jr.', '=1+2']);
});

test('people as cards; as JSON Lines the rows are as the API gives them', async () => {
  const cards = (await saved({ list: 'people', as: 'vcf', ids: [ids[2]] })).bytes.toString();
  expect(cards).toContain('FN:Åsa Berg\r\n');
  expect(cards).toContain('ORG:Test Ferries;Freight\r\n');
  const lines = (await saved({ list: 'people', as: 'jsonl', query: { sort: 'extension' } })).bytes
    .toString()
    .trimEnd()
    .split('\n')
    .map((line) => JSON.parse(line) as unknown);
  expect(lines).toEqual((await admin.send('GET', '/api/people')).body);
});

test('what changes from moment to moment is saved as it is now', async () => {
  const { job, bytes } = await saved({ list: 'people', as: 'csv', query: { state: 'talking' } });
  expect([job.state, (parse(bytes) as string[][]).length]).toEqual(['done', 1]);
});

test.each(listNames)('the list of %s is saved as CSV and as JSON Lines', async (list) => {
  const query =
    list === 'contacts'
      ? {
          campaignId: (
            await admin.send<{ id: string }>('POST', '/api/campaigns', { name: `C${Math.random()}` })
          ).body.id,
        }
      : {};
  for (const as of ['csv', 'jsonl']) {
    const { job, bytes } = await saved({ list, as, query });
    expect([job.state, job.outcome], `${list} ${job.outcome}`).toEqual([
      'done',
      expect.stringMatching(/saved\.$/),
    ]);
    if (as === 'csv') parse(bytes, { bom: true });
  }
});

test('what cannot be saved is said at its place', async () => {
  for (const [body, path] of [
    [{ list: 'ghosts', as: 'csv' }, '/list'],
    [{ list: 'people', as: 'pdf' }, '/as'],
    [{ list: 'queues', as: 'vcf' }, '/as'],
    [{ list: 'people', as: 'csv', query: { sort: 'shoe' } }, '/query/sort'],
    [{ list: 'people', as: 'csv', query: { a: 1 } }, '/query/a'],
    [{ list: 'people', as: 'csv', ids: [] }, '/ids'],
  ] as const) {
    const { status, body: refused } = await begin<Refusal>(body);
    expect([status, refused.errors[0]!.path], JSON.stringify(body)).toEqual([422, path]);
  }
});

test('a key that is kept to some headings saves no list of others, and none of keys', async () => {
  const { body: key } = await admin.send<{ id: string }>('POST', '/api/script-keys', {
    ...{ name: 'Saver', role: 'administrator', areas: ['Saved lists', 'People'] },
  });
  const { secret } = (
    await admin.send<{ secret: string }>(
      'POST',
      `/api/script-keys/${key.id}/secret`,
      {},
      { 'if-match': '"1"' },
    )
  ).body;
  const save = async (list: string) =>
    (
      await night.app.inject({
        ...{ method: 'POST', url: '/api/saved-lists', payload: { list, as: 'csv' } },
        headers: { authorization: `Bearer ${secret}` },
      })
    ).statusCode;
  expect([await save('people'), await save('calls'), await save('scriptKeys')]).toEqual([200, 403, 403]);
});

test('deactivated ones are in a short list when they are asked for, or named', async () => {
  const { body: room } = await admin.send<{ id: string }>('POST', '/api/rooms', { name: 'Old room' });
  await admin.send('POST', `/api/rooms/${room.id}/retire`, {}, { 'if-match': '"1"' });
  const names = async (more: object) =>
    (parse((await saved({ list: 'rooms', as: 'csv', ...more })).bytes, { bom: true }) as string[][]).slice(1)
      .length;
  expect([
    await names({}),
    await names({ query: { withRetired: 'true' } }),
    await names({ ids: [room.id] }),
  ]).toEqual([0, 1, 1]);
});

test('a file is for whoever had it made, and only while it is kept', async () => {
  const { job } = await saved({ list: 'teams', as: 'csv' });
  const { browser: other } = await personSignedIn(night, admin, 'Su Pervisor', 'supervisor');
  expect((await fetchFile(job.id, other)).statusCode).toBe(403);
  expect((await begin({ list: 'teams', as: 'csv' }, other)).status).toBe(200);
  const { browser: agent } = await personSignedIn(night, admin, 'A Gent', 'agent');
  expect((await begin({ list: 'teams', as: 'csv' }, agent)).status).toBe(403);
  expect((await fetchFile(ids[0]!)).statusCode).toBe(404);
});
