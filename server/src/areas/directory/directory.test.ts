import { afterAll, beforeAll, expect, test } from 'vitest';
import { type Browser, openNight } from '../../server.testing.ts';
import type { DirectoryEntry } from './directory.ts';

let drop: () => Promise<void>;
let admin: Browser;

beforeAll(async () => {
  ({ admin, drop } = await openNight());
});
afterAll(() => drop());

const make = async (path: string, body: object) =>
  (await admin.send<{ id: string; version: number; extension: string }>('POST', `/api/${path}`, body)).body;
const look = async (query: string) =>
  (await admin.send<DirectoryEntry[]>('GET', `/api/directory?${query}`)).body;

test('things are found by beginnings of their words, kind by kind, without accents or case', async () => {
  const team = await make('teams', { name: 'Harbour crew' });
  await make('people', { name: 'Ésmé Harbour-Lane', teamId: team.id });
  await make('queues', { name: 'Harbour desk' });
  const room = await make('rooms', { name: 'Old HARBOUR room', extension: '5001' });
  const found = await look('search=harb&kinds=queue&kinds=person&kinds=room');
  expect(found.map(({ kind, name, second }) => [kind, name, second])).toEqual([
    ['queue', 'Harbour desk', null],
    ['person', 'Ésmé Harbour-Lane', 'Harbour crew'],
    ['room', 'Old HARBOUR room', null],
  ]);
  expect((await look('search=lane%20esme&kinds=person')).map(({ name }) => name)).toEqual([
    'Ésmé Harbour-Lane',
  ]);
  expect(await look('search=arbour')).toEqual([]);
  expect((await look('search=50&kinds=room')).map(({ id }) => id)).toEqual([room.id]);
  // Nothing typed: what there is, up to the limit.
  expect(await look('kinds=queue&kinds=room&limit=1')).toHaveLength(1);
});

test('a number is found by its last digits, as dialled, and with its spaces', async () => {
  const number = await make('numbers', { e164: '+12065550142', label: 'Freight advert' });
  for (const typed of ['0142', '206 555 0142', '+1 206', '555-01', 'freight'])
    expect((await look(`search=${encodeURIComponent(typed)}&kinds=number`)).map(({ id }) => id)).toEqual([
      number.id,
    ]);
  expect(await look('digits=%2B12065550142')).toMatchObject([{ id: number.id, second: '+12065550142' }]);
});

test('ids tell names of what is retired too; searches leave it out; renaming is followed', async () => {
  const person = await make('people', { name: 'Gone Tomorrow' });
  const [before] = await look(`ids=${person.id}`);
  expect(before).toMatchObject({ name: 'Gone Tomorrow', retired: false, extension: person.extension });
  await admin.send('POST', `/api/people/${person.id}/retire`, {}, { 'if-match': '"1"' });
  expect(await look('search=tomorrow')).toEqual([]);
  expect(await look(`ids=${person.id}`)).toMatchObject([{ name: 'Gone Tomorrow', retired: true }]);
  const number = await make('numbers', { e164: '+12065550143', label: 'Old name' });
  const changed = await admin.send(
    'PUT',
    `/api/numbers/${number.id}`,
    { e164: '+12065550143', label: 'New name', destination: null, sourceId: null },
    { 'if-match': '"1"' },
  );
  expect(changed.status).toBe(200);
  expect((await look('search=old&kinds=number')).map(({ id }) => id)).toEqual([]);
  expect((await look('search=new')).map(({ id }) => id)).toEqual([number.id]);
});

test('extensions of which one begins the other are told as pairs', async () => {
  const hiding = async () => (await admin.send<object[]>('GET', '/api/hiding-extensions')).body;
  expect(await hiding()).toEqual([]);
  await make('rooms', { name: 'Short', extension: '77' });
  await make('rooms', { name: 'Long', extension: '7701' });
  expect(await hiding()).toEqual([{ shorter: '77', longer: '7701' }]);
});

test('what is no id, no kind and no digits is refused at its place', async () => {
  for (const [query, path] of [
    ['ids=x', 'ids'],
    ['kinds=ghost', 'kinds'],
    ['digits=abc', 'digits'],
    ['limit=101', 'limit'],
  ] as const) {
    const { status, body } = await admin.send<{ errors: { path: string }[] }>(
      'GET',
      `/api/directory?${query}`,
    );
    expect([status, body.errors[0]!.path], query).toEqual([422, path]);
  }
});
