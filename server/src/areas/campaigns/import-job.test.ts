import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { JobView } from '@night-bell/core/contracts/jobs';
import type { Database } from '../../database/connection.ts';
import { type Browser, openNight, personSignedIn, until } from '../../server.testing.ts';
import type { NightBell } from '../../app.ts';
import { Stopped } from '../../jobs/jobs.ts';
import { keepUpload } from '../../jobs/uploads.ts';
import { Readable } from 'node:stream';
import { runImport } from './run-import.ts';

let night: NightBell;
let database: Database;
let admin: Browser;
let drop: () => Promise<void>;
let count = 0;

beforeAll(async () => {
  ({ night, database, admin, drop } = await openNight());
});
afterAll(() => drop());

interface Refusal {
  errors: { path: string; detail: string }[];
}
const csv = { 'content-type': 'text/csv' };
const campaign = async () =>
  (await admin.send<{ id: string }>('POST', '/api/campaigns', { name: `List ${++count}` })).body.id;
const send = <T = JobView>(id: string, text: string | Buffer, query = '') =>
  admin.send<T>('POST', `/api/campaigns/${id}/contacts/file${query}`, text, csv);
const ended = (id: string): Promise<JobView> =>
  until(async () => {
    const { body } = await admin.send<JobView>('GET', `/api/jobs/${id}`);
    return body.endedAt === null ? null : body;
  }, 'the list is brought');
const numbers = (id: string) =>
  database('contact').where({ campaign_id: id }).orderBy('position').pluck('e164');
const bring = async (id: string, text: string | Buffer, query = '') =>
  ended((await send(id, text, query)).body.id);
const number = (i: number) => `+1360${200 + Math.floor(i / 10_000)}${String(i % 10_000).padStart(4, '0')}`;
const long = (rows: number) =>
  ['name,phone,fare', ...Array.from({ length: rows }, (_, i) => `Pat ${i},${number(i)},${i}`)].join('\n');

describe('a list brought as a file', () => {
  test('is read, checked and kept as a job; rows that are left out are named', async () => {
    const id = await campaign();
    const begun = (await send(id, 'name,phone\nAnn,+1 360 555 0111\nBo,555\nCy,+1 360 555 0111\n')).body;
    expect(begun).toMatchObject({ kind: 'importContacts', title: 'Bringing 3 contacts', total: 3 });
    expect(await ended(begun.id)).toMatchObject({
      ...{ state: 'done', done: 3, outcome: '1 contact added, 2 rows left out.', doing: null },
      leftOut: [
        { row: 2, cell: '555', detail: expect.stringContaining('not a complete phone number') as string },
        { row: 3, cell: '+1 360 555 0111', detail: 'The same number as row 1.' },
      ],
    });
    expect(await numbers(id)).toEqual(['+13605550111']);
    // What the file was needed for is over.
    expect(await database('upload').select()).toEqual([]);
  });

  test('keeps tabs, quotes, line ends and backslashes as they are written, and goes on where it ended', async () => {
    const id = await campaign();
    const odd = '"A\\n ""quoted"" \\\tname"';
    await bring(id, `name;phone;note\r\n${odd};+1 360 555 0112;"two\nlines"\r\n`);
    await bring(id, 'Ünal;+1 360 555 0113;\n'.replace(/^/, 'name;phone;note\n'));
    const rows = await database('contact')
      .where({ campaign_id: id })
      .orderBy('position')
      .select('name', 'fields', 'position', 'zones');
    expect(rows).toEqual([
      {
        ...{ name: 'A\\n "quoted" \\ name', fields: { note: 'two lines' }, position: 1 },
        zones: ['America/Los_Angeles'],
      },
      { name: 'Ünal', fields: {}, position: 2, zones: ['America/Los_Angeles'] },
    ]);
  });

  test('of thousands of rows, cut in the midst of characters and rows, has each of them once and in order', async () => {
    const id = await campaign();
    const bytes = Buffer.from(long(30_000).replaceAll('Pat', 'Zoë'));
    const job = await bring(id, bytes);
    expect(job).toMatchObject({ state: 'done', outcome: '30,000 contacts added.', done: 30_000 });
    expect(await numbers(id)).toEqual(Array.from({ length: 30_000 }, (_, i) => number(i)));
    expect(await bring(id, bytes)).toMatchObject({ state: 'failed' });
    expect(await numbers(id)).toHaveLength(30_000);
  });

  test.each([
    ['a list without numbers', 'who,what\na,b\n', 'Say which column holds the numbers'],
    ['an open quote', 'name,phone\n"Ann,+1 360 555 0111\n', 'quotation mark'],
    ['no text', 'name,phone\n\u0000\u0001', 'not a text file'],
    ['nobody who can be called', 'name,phone\nAnn,12\n', 'No row can be called'],
  ])('with %s fails with a sentence, and keeps nothing', async (_, text, sentence) => {
    const id = await campaign();
    const job = await bring(id, text);
    expect(job.state).toBe('failed');
    expect(job.outcome).toContain(sentence);
    expect(await numbers(id)).toEqual([]);
  });

  test('that is empty, too long, no file, or wrongly mapped is refused at the door', async () => {
    const id = await campaign();
    expect((await send<Refusal>(id, '')).body.errors[0]!.detail).toBe('The file is empty.');
    expect(
      (await admin.send<Refusal>('POST', `/api/campaigns/${id}/contacts/file`, {})).body.errors[0]!.detail,
    ).toBe('Send the file itself as the body, as text/csv.');
    expect((await send(id, long(2), '?mapping=nonsense')).status).toBe(422);
    const few = (async function* () {
      for (let i = 0; i < 4; i++) yield Buffer.alloc(1024 * 1024, 'a');
    })();
    await expect(keepUpload(database, Readable.from(few), 2 * 1024 * 1024)).rejects.toThrow(/at most 2 MB/);
    expect(await database('upload_part').select('part')).toEqual([]);
    const { browser } = await personSignedIn(night, admin, 'Sana List', 'supervisor');
    expect((await browser.send('POST', `/api/campaigns/${id}/contacts/file`, long(2), csv)).status).toBe(403);
  });

  test('is mapped as somebody chose', async () => {
    const id = await campaign();
    const mapping = { phone: 1, name: 0, firstName: null, lastName: null, fields: [] };
    const query = `?mapping=${encodeURIComponent(JSON.stringify(mapping))}`;
    await bring(id, 'wer,wohin,was\nAnn,+1 360 555 0111,x\n', query);
    expect(await database('contact').where({ campaign_id: id }).first('name', 'fields')).toEqual({
      ...{ name: 'Ann', fields: {} },
    });
    const wrong = await bring(id, 'a,b\nc,d\n', query.replace('%22phone%22%3A1', '%22phone%22%3A9'));
    expect(wrong.outcome).toContain('a column that is not there');
  });

  test('that is stopped at any row, or whose job another server has, keeps nothing', async () => {
    const id = await campaign();
    const { id: uploadId, lines } = await keepUpload(
      database,
      Readable.from([Buffer.from(long(4_000))]),
      1e9,
    );
    const input = { campaignId: id, mapping: null, uploadId, rows: lines - 1 };
    const run = (tell: (read: number) => Promise<void>) =>
      runImport(database.client.config.connection as never, crypto.randomUUID(), input, tell);
    for (const row of [500, 2_000, 4_000])
      await expect(
        run((read) => (read >= row ? Promise.reject(new Stopped()) : Promise.resolve())),
      ).rejects.toThrow(Stopped);
    await expect(run(() => Promise.resolve())).rejects.toThrow('taken over');
    expect(await numbers(id)).toEqual([]);
    // Nothing holds the list back either: the next one is brought.
    expect((await bring(id, long(3))).outcome).toBe('3 contacts added.');
  });
});
