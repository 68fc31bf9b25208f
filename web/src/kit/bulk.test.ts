import { expect, test } from 'vitest';
import { ApiProblem } from '../api/client.ts';
import { useBulk } from './bulk.ts';

test('one after the other; who is refused is named with the reason, and the others go on', async () => {
  const { run, soFar } = useBulk<string>();
  const seen: unknown[] = [];
  const { done, refused } = await run(['a', 'b', 'c'], (item) => {
    seen.push({ ...soFar.value });
    return item === 'b'
      ? Promise.reject(new ApiProblem('inUse', 'In use.'))
      : Promise.resolve(item.toUpperCase());
  });
  expect([done, refused]).toEqual([['A', 'C'], [{ item: 'b', why: 'In use.' }]]);
  expect(seen).toEqual([0, 1, 2].map((n) => ({ done: n, all: 3 })));
  expect(soFar.value).toBeNull();
});

test('stopped between two, what was done is told', async () => {
  const { run, stop } = useBulk<number>();
  const result = await run([1, 2, 3], (item) => {
    if (item === 2) stop();
    return Promise.resolve(item);
  });
  expect(result.done).toEqual([1, 2]);
});

test('a server that is away ends it: none of the others would fare better', async () => {
  const { run, soFar } = useBulk<number>();
  await expect(run([1, 2], () => Promise.reject(new ApiProblem('away', 'Away.')))).rejects.toThrow('Away.');
  expect(soFar.value).toBeNull();
});
