import { expect, test } from 'vitest';
import { areas } from './areas.ts';
import { helpOf } from './help.ts';

test.each(areas.map(({ path, word }) => [path, word]))(
  '%s has a short page of help for a first week',
  async (path) => {
    const page = await helpOf(path);
    expect(page?.title).toBeTruthy();
    const words = page!.paragraphs.join(' ').split(/\s+/).length;
    expect(words).toBeGreaterThan(20);
    expect(words).toBeLessThan(220);
  },
);

test('the help of a page is that of its sheets too; a page without help has none', async () => {
  expect((await helpOf('/people/some-id'))?.title).toBe('People');
  expect(await helpOf('/nowhere')).toBeNull();
});
