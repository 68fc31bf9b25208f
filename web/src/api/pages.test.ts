import { afterEach, expect, test, vi } from 'vitest';
import { queryOf, readPage } from './pages.ts';

afterEach(() => vi.unstubAllGlobals());

test('what is null or empty is left out of a query, lists are repeated', () => {
  expect(queryOf({ search: 'a b', team: null, sort: '', ids: ['1', '2'], down: undefined })).toBe(
    'search=a+b&ids=1&ids=2',
  );
});

test('the next stretch and the total stand in the headers', async () => {
  const headers = { link: '</api/people?limit=2&after=WyJ4Il0>; rel="next"', 'total-count': '12046' };
  vi.stubGlobal('fetch', () => Promise.resolve(new Response('[{"id":"a"}]', { headers })));
  expect(await readPage('/api/people', {})).toEqual({ rows: [{ id: 'a' }], next: 'WyJ4Il0', total: 12_046 });
  vi.stubGlobal('fetch', () => Promise.resolve(new Response('[]')));
  expect(await readPage('/api/people', {})).toEqual({ rows: [], next: null, total: null });
});

test('a refusal is a problem with its sentence', async () => {
  const body = JSON.stringify({ code: 'invalidInput', detail: 'Begin at its top.', errors: [] });
  vi.stubGlobal('fetch', () => Promise.resolve(new Response(body, { status: 422 })));
  await expect(readPage('/api/people', { after: 'x' })).rejects.toMatchObject({
    detail: 'Begin at its top.',
  });
});
